"""How long a run will take and how large its files will be, from what was measured: first on the demo, then
on this machine."""

from __future__ import annotations

import shutil
from collections.abc import Sequence
from pathlib import Path

from altana.core.file_kinds import KINDS
from altana.core.project import LINES, MATERIALS, PENCIL, USUAL_QUALITIES, WHITE_CARD, Qualities
from altana.jobs.paces import DOUBT, START, Expected, Job, Paces, known_paces
from altana.jobs.requests import Film, Item, Pano, Picture
from altana.render.panorama import FACES, SLICES, TILTS_DEG, light_places
from altana.render.quality import MOST_PLACES, Quality, passes_of, rays_of, refining

#: Starting, opening the model, and the light where it is kept.
START_JOB = Job(START, 1, 1)
#: Of what a panorama looks at so much is not sky.
NOT_SKY = 0.7
#: Pixels of six faces against those of the panorama: (W/π × 1.18)² × 6 of W²/2.
FACES_SHARE = 1.7


def pixels_of(item: Item) -> int:
    """Pixels that are drawn for an item."""
    if isinstance(item, Film):
        return item.width_px * item.height_px * len(item.frames)
    if isinstance(item, Pano):
        # Six faces with their margins, for each eye.
        return round(FACES_SHARE * item.width_px * item.height_px * (2 if item.shot.stereo_m else 1))
    return item.width_px * item.height_px


def pictures_of(item: Item) -> int:
    """Pictures that are drawn for an item: film frames, a panorama's faces, a stereo pair's slices."""
    if isinstance(item, Film):
        return len(item.frames)
    if isinstance(item, Pano):
        return 2 * SLICES * len(TILTS_DEG) if item.shot.stereo_m else len(FACES)
    return 1


#: A room takes about so many samples until it is clean.
USUAL_CLEAN_SAMPLES = 400


def samples_of(item: Item, quality: str, qualities: Qualities = USUAL_QUALITIES) -> int:
    """Samples a pixel of an item whose light is followed to its end; 0 for one that is drawn in passes."""
    shot = item.shot
    if shot is not None and shot.rendition in (LINES, PENCIL):
        return 0
    making = qualities.of(getattr(item, "quality", "") or quality)
    usual = making.film_samples if isinstance(item, Film) else making.samples
    if usual and shot is not None and shot.until_clean:
        return USUAL_CLEAN_SAMPLES
    return ((shot.samples if shot is not None else 0) or usual) if usual else 0


def pace_of(item: Item, quality: str, qualities: Qualities = USUAL_QUALITIES) -> str:
    """The name of the pace at which an item is drawn."""
    shot = item.shot
    drawn = MATERIALS if shot is None or shot.rendition == WHITE_CARD else shot.rendition
    kind = (
        "traced"
        if samples_of(item, quality, qualities)
        else "stereo"
        if isinstance(item, Pano) and item.shot.stereo_m
        else "round"
        if isinstance(item, Pano)
        else "row"
        if isinstance(item, Picture)
        else "frame"
    )
    return f"{kind} {drawn} {getattr(item, 'quality', '') or quality}"


def effort(item: Item, quality: str, qualities: Qualities = USUAL_QUALITIES) -> float:
    """How many times the usual passes an item takes, where a project's words of quality stand for other
    figures; of path-traced ones the samples."""
    samples = samples_of(item, quality, qualities)
    if samples:
        return float(samples)
    word = getattr(item, "quality", "") or quality
    figures, usual = qualities.of(word), USUAL_QUALITIES.of(word)
    if isinstance(item, Picture):
        return passes_of(item.view(), Quality(passes=figures.passes)) / usual.passes
    return (
        figures.passes / usual.passes if isinstance(item, Pano) else figures.film_passes / usual.film_passes
    )


def drawn_of(item: Item, quality: str, qualities: Qualities = USUAL_QUALITIES) -> tuple[int, int]:
    """Pictures and pixels that are drawn for an item: a panorama is traced as it is, not from six faces."""
    if isinstance(item, Pano) and samples_of(item, quality, qualities):
        eyes = 2 if item.shot.stereo_m else 1
        return eyes, item.width_px * item.height_px * eyes
    return pictures_of(item), pixels_of(item)


def job_of(item: Item, quality: str, qualities: Qualities = USUAL_QUALITIES) -> Job:
    """What is drawn for an item."""
    return Job(
        pace_of(item, quality, qualities),
        *drawn_of(item, quality, qualities),
        effort(item, quality, qualities),
        light_rays_of(item, quality, qualities),
    )


def light_rays_of(item: Item, quality: str, qualities: Qualities = USUAL_QUALITIES) -> int:
    """How many rays look for the light of the places that an item shows; none but for stills and panoramas in
    passes."""
    if isinstance(item, Film) or item.shot.rendition not in (MATERIALS, WHITE_CARD) or not refining():
        return 0
    if samples_of(item, quality, qualities) or (isinstance(item, Pano) and item.shot.stereo_m):
        return 0
    pixels = item.width_px * item.height_px
    rays = rays_of(qualities.of(item.quality or quality).light_rays, pixels)
    places = NOT_SKY * light_places(item.width_px) if isinstance(item, Pano) else min(pixels, MOST_PLACES)
    return round(places * rays)


def expected_of(
    item: Item,
    quality: str,
    qualities: Qualities = USUAL_QUALITIES,
    paces: Paces | None = None,
    scene: str = "",
) -> Expected:
    """How long an item will take, with a project's figures behind the words of quality.

    paces : what ``known_paces`` reads, for who asks about many items.  scene : the models (``scene_of``).
    """
    minutes = item.shot.minutes if item.shot is not None else 0.0
    if minutes and samples_of(item, quality, qualities):
        return Expected(minutes * 60.0, True)
    return (paces or known_paces()).expected(job_of(item, quality, qualities), scene)


def seconds_of(
    item: Item,
    quality: str,
    qualities: Qualities = USUAL_QUALITIES,
    paces: Paces | None = None,
    scene: str = "",
) -> float:
    """``expected_of``, seconds alone."""
    return expected_of(item, quality, qualities, paces, scene).seconds


def expected_for(
    items: Sequence[Item], quality: str, qualities: Qualities = USUAL_QUALITIES, scene: str = ""
) -> Expected:
    """How long a run of these items will take, its start included; in doubt where most of that is."""
    paces = known_paces()
    times = [
        paces.expected(START_JOB, scene),
        *(expected_of(item, quality, qualities, paces, scene) for item in items),
    ]
    whole = sum(item.seconds for item in times)
    return Expected(whole, sum(item.seconds for item in times if item.sure) > 0.5 * whole)


def bytes_for(item: Item, quality: str) -> float:
    """How large an item's file will be."""
    if isinstance(item, Film):
        size = KINDS[item.container].bytes_a_pixel[quality] * pixels_of(item)
        if item.part.keep_frames and not item.sequence:
            size += KINDS["png"].bytes_a_pixel[quality] * pixels_of(item)
        return size
    return KINDS[item.shot.file].bytes_a_pixel[quality] * item.width_px * item.height_px


def about(expected: Expected, size: float) -> str:
    """Both in a few words: a time, or while little is known from which to which time."""
    return f"{time_words(expected)}, {size_words(size)}"


def size_words(size: float) -> str:
    """A size in bytes in its leading figures."""
    return f"{size / 1e6:.0f} MB" if size >= 9.5e5 else f"{max(1, round(size / 1e3))} kB"


def time_words(expected: Expected) -> str:
    """An expected time: ``about 12 s``, or ``6 to 24 s`` while nothing alike was made on this machine."""
    if expected.sure:
        return f"about {short_time(expected.seconds)}"
    low, high = expected.seconds / DOUBT, expected.seconds * DOUBT
    begin, end = short_time(low), short_time(high)
    unit = end.rpartition(" ")[2]
    if unit == "min":
        begin = f"{max(1, round(low / 60.0))} min"
    # One unit for both where they have one: less than an hour is told in minutes.
    return f"{begin.removesuffix(f' {unit}')} to {end}"


def short_time(seconds: float) -> str:
    """A time in its two leading figures: seconds, minutes or hours."""
    minutes = seconds / 60.0
    if seconds < 90:
        return f"{max(1, round(seconds))} s"
    return f"{round(minutes)} min" if minutes < 90 else f"{minutes / 60:.1f} h"


#: Bytes of memory a pixel takes while a picture is drawn, toned and written; panoramas hold six faces as
#: well.
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
    """What may stop these items before they are made: sentences about disk and memory, none where there is
    enough of both."""
    sentences = []
    needed = sum(bytes_for(item, getattr(item, "quality", "") or quality) for item in items)
    place = out
    while not place.exists() and place != place.parent:
        place = place.parent
    free = shutil.disk_usage(place).free
    if needed > free:
        sentences.append(
            f"About {needed / 1e9:.1f} GB are needed and {free / 1e9:.1f} GB are free in {out}. Make room, or the run will wait for it."
        )
    memory = free_memory()
    for item in items:
        if memory_for(item) > memory:
            sentences.append(
                f"{item.name} needs about {memory_for(item) / 1e9:.1f} GB of memory and {memory / 1e9:.1f} GB are free. Make it smaller, or close other programs."
            )
    return tuple(sentences)
