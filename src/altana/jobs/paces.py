"""How fast this machine draws: so long for each picture, and so long for each megapixel, learnt from what was made.

A small picture says little of a large one: most of its time goes into opening, shadow maps and the file.  So there are two
figures to each way of drawing, and a measurement changes them by the share that each has in what was expected.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from pathlib import Path

from altana.core.errors import UserError
from altana.core.project import LINES, MATERIALS, PENCIL, QUALITY_WORDS
from altana.storage.cache import cache_folder
from altana.storage.files import write_atomically

#: A measurement moves the figures by this power of how far it lay off.
NEW_SHARE = 0.5
#: A single measurement counts as at most so many times longer or shorter than expected: a machine may have been asleep.
FARTHEST = 20.0


@dataclass(frozen=True, slots=True)
class Pace:
    """Seconds for each picture, and seconds for each megapixel on top."""

    picture_s: float
    mpx_s: float

    def seconds(self, pictures: int, pixels: int) -> float:
        """How long so many pictures of so many pixels in all take."""
        return self.picture_s * pictures + self.mpx_s * pixels / 1e6

    def after(self, seconds: float, pictures: int, pixels: int) -> Pace:
        """The pace when so many pictures took so long."""
        expected = self.seconds(pictures, pixels)
        off = min(max(seconds / expected, 1.0 / FARTHEST), FARTHEST) ** NEW_SHARE
        of_pictures = self.picture_s * pictures / expected
        return Pace(self.picture_s * off**of_pictures, self.mpx_s * off ** (1.0 - of_pictures))


#: Drawn in software on two cores: the demo's cameras at two sizes, and its walk (docs/performance.md).  A "row" is a picture or
#: panorama of the shot list, "traced" a sample of every pixel of one by path tracing, a "stereo" pair is drawn in slices, a "frame" is a film frame or a still made straight from its
#: camera; white card counts as materials.  Final quality draws large shadow maps anew in every pass.  Stereo, pencil and
#: film frames of final quality are reckoned from the passes, everything else is measured.
PENCIL_PACES = ((0.9, 4.1), (1.0, 5.2), (11.0, 11.5))
USUAL: dict[str, Pace] = {
    f"{kind} {drawn} {word}": Pace(*figures)
    for kind, drawn, all_figures in (
        ("row", MATERIALS, ((0.30, 1.8), (0.90, 2.8), (9.8, 9.1))),
        ("frame", MATERIALS, ((0.06, 0.35), (0.24, 2.1), (9.8, 9.1))),
        ("stereo", MATERIALS, ((0.065, 1.0), (0.065, 3.3), (0.065, 7.5))),
        # Path tracing, a sample of every pixel: its scene once a picture, 0.12 to 0.3 million paths a second on the demo.
        ("traced", MATERIALS, ((0.1, 5.5),) * 3),
        *((kind, LINES, ((0.05, 2.4),) * 3) for kind in ("row", "frame")),
        *((kind, PENCIL, PENCIL_PACES) for kind in ("row", "frame")),
    )
    for word, figures in zip(QUALITY_WORDS, all_figures, strict=True)
}


def _path() -> Path:
    return cache_folder() / "paces.json"


def known_paces() -> dict[str, Pace]:
    """The pace of each way of drawing, by its name: this machine's own where it has made something so, else the demo's."""
    paces = dict(USUAL)
    try:
        held = json.loads(_path().read_text())
        for name, (picture, mpx) in held.items():
            if name in paces and 1e-5 < float(picture) < 1e4 and 1e-5 < float(mpx) < 1e4:
                paces[name] = Pace(float(picture), float(mpx))
    except (OSError, ValueError, AttributeError, TypeError):
        pass
    return paces


def learn(name: str, seconds: float, pictures: int, pixels: int) -> None:
    """Take in how long so many pictures took; a cache that cannot be written is no trouble."""
    if pictures < 1 or pixels < 1 or seconds <= 0.0:
        return
    paces = known_paces()
    paces[name] = paces[name].after(seconds, pictures, pixels)
    try:
        write_atomically(
            _path(),
            json.dumps({key: (pace.picture_s, pace.mpx_s) for key, pace in paces.items()}).encode(),
            "",
        )
    except UserError:
        # An estimate is never worth a failed run.
        return
