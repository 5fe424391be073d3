"""How long a run will take and how large its files will be, from what was measured: first on the demo, then on this machine.

Drawing time goes with pixels and passes.  Each finished piece is measured and kept, so that the next estimate is this
machine's own.
"""

from __future__ import annotations

import json
import shutil
from collections.abc import Sequence
from pathlib import Path

from altana.core.errors import UserError
from altana.core.project import USUAL_QUALITIES, Qualities
from altana.jobs.requests import Film, Item, Pano, Picture
from altana.render.encode import SEQUENCES
from altana.storage.cache import cache_folder
from altana.storage.files import write_atomically

#: Seconds a megapixel, drawn in software on two cores: demo's cameras and walk (see docs/performance.md).
SECONDS_A_MPX = {"proof": 0.45, "review": 2.4, "final": 9.5}
#: Starting, opening the model, and the light where it is kept.
START_S = 2.0
#: Bytes a pixel of a film frame, by kind and quality, on the demo's walk at 25 film frames a second.
FILM_BYTES = {
    "mp4": {"proof": 0.010, "review": 0.029, "final": 0.048},
    "h265": {"proof": 0.006, "review": 0.016, "final": 0.029},
    "mov": {"proof": 0.13, "review": 0.49, "final": 0.73},
    "webm": {"proof": 0.015, "review": 0.027, "final": 0.041},
    "avi": {"proof": 0.070, "review": 0.104, "final": 0.156},
    "gif": {"proof": 0.49, "review": 0.49, "final": 0.49},
    "png-frames": {"proof": 0.93, "review": 0.93, "final": 0.93},
    "jpg-frames": {"proof": 0.31, "review": 0.31, "final": 0.31},
    "exr-frames": {"proof": 2.8, "review": 2.8, "final": 2.8},
}
STILL_BYTES = {"png": 0.93, "jpg": 0.31, "png16": 4.6, "tif": 4.6, "exr": 2.8}
#: Pixels of six faces against those of the panorama: (W/π × 1.18)² × 6 of W²/2.
FACES_SHARE = 1.7
#: A measurement counts for this much against what was known before.
NEW_SHARE = 0.4


def _path() -> Path:
    return cache_folder() / "seconds.json"


def known_paces() -> dict[str, float]:
    """Seconds a megapixel by quality: this machine's own where it has made something, else the demo's."""
    paces = dict(SECONDS_A_MPX)
    try:
        held = json.loads(_path().read_text())
        paces.update({name: float(value) for name, value in held.items() if name in paces and 1e-4 < float(value) < 1e4})
    except (OSError, ValueError, AttributeError, TypeError):
        pass
    return paces


def learn(quality: str, seconds: float, pixels: int) -> None:
    """Take in how long so many pixels took; a cache that cannot be written is no trouble."""
    if pixels < 1000 or seconds <= 0.0:
        return
    paces = known_paces()
    paces[quality] += NEW_SHARE * (seconds / (pixels / 1e6) - paces[quality])
    try:
        write_atomically(_path(), json.dumps(paces).encode(), "")
    except UserError:
        # An estimate is never worth a failed run.
        return


def pixels_of(item: Item) -> int:
    """Pixels that are drawn for an item."""
    if isinstance(item, Film):
        return item.width_px * item.height_px * len(item.frames)
    if isinstance(item, Pano):
        # Six faces with their margins, for each eye.
        return round(FACES_SHARE * item.width_px * item.height_px * (2 if item.shot.stereo_m else 1))
    return item.width_px * item.height_px


def effort(item: Item, quality: str, qualities: Qualities = USUAL_QUALITIES) -> float:
    """How many times the usual passes an item takes, where a project's words of quality stand for other figures."""
    word = getattr(item, "quality", "") or quality
    made, usual = qualities.of(word), USUAL_QUALITIES.of(word)
    return made.passes / usual.passes if isinstance(item, Picture | Pano) else made.film_passes / usual.film_passes


def seconds_for(items: Sequence[Item], quality: str, qualities: Qualities = USUAL_QUALITIES) -> float:
    """How long these items will take, seconds, with a project's figures behind the words of quality."""
    paces = known_paces()
    return START_S + sum(
        pixels_of(item) / 1e6 * paces[getattr(item, "quality", "") or quality] * effort(item, quality, qualities) for item in items
    )


def bytes_for(item: Item, quality: str) -> float:
    """How large an item's file will be."""
    if isinstance(item, Film):
        size = FILM_BYTES[item.container][quality] * pixels_of(item)
        if item.part.keep_frames and item.container not in SEQUENCES:
            size += STILL_BYTES["png"] * pixels_of(item)
        return size
    kind = item.shot.file if isinstance(item, Picture | Pano) else item.file.rpartition(".")[2]
    return STILL_BYTES[kind] * item.width_px * item.height_px


def about(seconds: float, size: float) -> str:
    """Both in a few words."""
    minutes = seconds / 60.0
    time = f"{max(1, round(seconds))} s" if seconds < 90 else f"{round(minutes)} min" if minutes < 90 else f"{minutes / 60:.1f} h"
    return f"about {time}, {size / 1e6:.0f} MB" if size >= 9.5e5 else f"about {time}, {max(1, round(size / 1e3))} kB"


#: Bytes of memory a pixel takes while a picture is drawn, toned and written; panoramas hold six faces as well.
MEMORY_A_PIXEL, MEMORY_A_PANORAMA_PIXEL, MEMORY_AT_REST = 90.0, 150.0, 950e6


def memory_for(item: Item) -> float:
    """How much memory an item needs at most, bytes.  Large stills are drawn in tiles, but held whole."""
    if isinstance(item, Film):
        return MEMORY_AT_REST + MEMORY_A_PIXEL * item.width_px * item.height_px
    share = MEMORY_A_PANORAMA_PIXEL if isinstance(item, Pano) else MEMORY_A_PIXEL
    return MEMORY_AT_REST + share * item.width_px * item.height_px


def free_memory() -> float:
    """Memory that programs may take now, bytes; infinite where the system does not say."""
    try:
        lines = Path("/proc/meminfo").read_text().splitlines()
        return float(next(line.split()[1] for line in lines if line.startswith("MemAvailable"))) * 1024.0
    except (OSError, StopIteration, ValueError, IndexError):
        return float("inf")


def doubts(items: Sequence[Item], quality: str, out: Path) -> tuple[str, ...]:
    """What may stop these items before they are made: sentences about disk and memory, none where there is enough of both."""
    told = []
    needed = sum(bytes_for(item, getattr(item, "quality", "") or quality) for item in items)
    place = out
    while not place.exists() and place != place.parent:
        place = place.parent
    free = shutil.disk_usage(place).free
    if needed > free:
        told.append(
            f"About {needed / 1e9:.1f} GB are needed and {free / 1e9:.1f} GB are free in {out}. Make room, or the run will wait for it."
        )
    memory = free_memory()
    for item in items:
        if memory_for(item) > memory:
            told.append(
                f"{item.name} needs about {memory_for(item) / 1e9:.1f} GB of memory and {memory / 1e9:.1f} GB are free. Make it smaller, or close other programs."
            )
    return tuple(told)
