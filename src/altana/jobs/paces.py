"""How fast this machine draws, learnt from what was made: each measurement is kept with how large, how often
and in which model it was.

What something will take is first reckoned from figures of the demo's own machine; then it is corrected by
what alike things took here in proportion to that, the more the more alike they were (in size, in passes or
samples, and in the model).
"""

from __future__ import annotations

import hashlib
import json
import math
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from altana.core.errors import UserError
from altana.core.project import LINES, MATERIALS, PENCIL, QUALITY_WORDS, Project
from altana.storage.cache import cache_folder
from altana.storage.files import TOO_LARGE_BYTES, write_atomically

#: So many measurements are kept for each way of drawing, the newest.
KEPT = 24
#: A single measurement counts as at most so many times longer or shorter than reckoned: a machine may have
#: been asleep.
FARTHEST = 30.0
#: Alike: this factor in size, in passes or in the number of film frames away, a measurement counts 60 %: what
#: begins a film weighs on each of a few frames.
ALIKE = 3.0
#: What a measurement counts for in another model, and in another way of drawing.
OTHER_MODEL, OTHER_WAY = 0.25, 0.04
#: With so much of what is alike known, an expectation is told without doubt.
SURE = 1.2
#: An expectation in doubt may be so many times shorter or longer.
DOUBT = 2.0
START = "start"
#: Seconds for a million rays that look for the light of the places a still shows: 2 to 3.5 on the demo.
LIGHT_S_A_MILLION = 3.0


@dataclass(frozen=True, slots=True)
class Pace:
    """Seconds for each picture, and seconds for each megapixel of a pass or sample on top."""

    picture_s: float
    mpx_s: float

    def seconds(self, pictures: int, pixels: int, effort: float = 1.0) -> float:
        """How long so many pictures of so many pixels in all take."""
        return self.picture_s * pictures + self.mpx_s * effort * pixels / 1e6


@dataclass(frozen=True, slots=True)
class Job:
    """What is drawn: its way of drawing, pictures, pixels in all, how many times the usual passes, or how
    many samples, each gets, and how many rays look for its light."""

    name: str
    pictures: int
    pixels: int
    effort: float = 1.0
    light_rays: int = 0

    @property
    def reckoned_s(self) -> float:
        """Seconds by the figures of the demo's own machine."""
        drawn = USUAL[self.name].seconds(self.pictures, self.pixels, self.effort)
        return drawn + LIGHT_S_A_MILLION * self.light_rays / 1e6


@dataclass(frozen=True, slots=True)
class Expected:
    """How long something will take, seconds; ``sure`` where alike things were made on this machine."""

    seconds: float
    sure: bool


@dataclass(frozen=True, slots=True)
class Measured:
    """How much longer than reckoned something took, and what it was like."""

    name: str
    scene: str
    size: float
    effort: float
    times: float
    #: Logarithm of how many pictures it was made of.
    long: float = 0.0


#: Drawn in software on two cores: the demo's cameras at two sizes, and its walk (docs/performance.md).  A
#: "row" is a picture, a "round" a face of a panorama, "traced" a sample of every pixel of one by path
#: tracing, a "stereo" pair is drawn in slices, a "frame" is a film frame; white card counts as materials.
#: "start" is everything before the first picture: the process, the models, the light where it is kept.
USUAL: dict[str, Pace] = {
    START: Pace(2.0, 0.0),
    **{
        f"{kind} {drawn} {word}": Pace(*figures)
        for kind, drawn, all_figures in (
            ("row", MATERIALS, ((0.37, 2.7), (0.90, 2.8), (9.8, 9.1))),
            ("frame", MATERIALS, ((0.14, 1.1), (0.85, 12.0), (9.8, 9.1))),
            ("stereo", MATERIALS, ((0.065, 1.0), (0.065, 3.3), (0.065, 7.5))),
            # Path tracing, a sample of every pixel: its scene once a picture, 0.12 to 0.3 million paths a
            # second on the demo.
            ("traced", MATERIALS, ((3.0, 5.5),) * 3),
            ("round", MATERIALS, ((0.12, 2.4), (0.3, 8.0), (2.0, 20.0))),
            ("row", LINES, ((0.07, 1.3),) * 3),
            ("frame", LINES, ((0.15, 1.5),) * 3),
            ("row", PENCIL, ((0.58, 4.8), (2.1, 11.2), (10.2, 11.2))),
            ("frame", PENCIL, ((0.55, 7.5), (1.25, 15.0), (10.2, 15.0))),
        )
        for word, figures in zip(QUALITY_WORDS, all_figures, strict=True)
    },
}


class Paces:
    """What was measured on this machine."""

    def __init__(self, measured: Sequence[Measured] = ()) -> None:
        self.measured = list(measured)
        self._names = np.array([item.name for item in self.measured], object)
        self._scenes = np.array([item.scene for item in self.measured], object)
        figures = [(item.size, item.effort, math.log(item.times), item.long) for item in self.measured]
        self._sizes, self._efforts, self._logs, self._longs = np.array(figures, float).reshape(-1, 4).T
        #: What was asked for: a long list has many rows alike.
        self._known: dict[tuple[Job, str], Expected] = {}

    def expected(self, job: Job, scene: str = "") -> Expected:
        """How long a job will take in a model (``scene_of``)."""
        pace = self._known.get((job, scene))
        if pace is None:
            pace = self._known[job, scene] = self._reckoned(job, scene)
        return pace

    def _reckoned(self, job: Job, scene: str) -> Expected:
        """Each measurement counts as much as it is like the job: the same way of drawing, the same model, a
        like size and effort."""
        size, effort = _size(job), math.log(max(job.effort, 1e-6))
        other = OTHER_WAY if job.name != START else 0.0
        counts = np.where(self._names == job.name, 1.0, np.where(self._names == START, 0.0, other))
        counts *= np.where(self._scenes == scene, 1.0, OTHER_MODEL)
        away = ((self._sizes - size) ** 2 + (self._efforts - effort) ** 2) / math.log(ALIKE) ** 2
        # Of another way of drawing only the machine's speed is learnt.
        apart = np.where(self._names == job.name, self._longs - _long(job), 0.0)
        away += apart**2 / math.log(ALIKE) ** 2
        counts *= np.exp(-0.5 * away)
        whole, weight = float((counts * self._logs).sum()), 0.15 + float(counts.sum())
        alike = float(counts[self._names == job.name].sum())
        return Expected(job.reckoned_s * math.exp(whole / weight), alike >= SURE)

    def with_measured(self, job: Job, seconds: float, scene: str) -> Paces:
        """With one more measurement; of each way of drawing the newest are kept."""
        times = min(max(seconds / job.reckoned_s, 1.0 / FARTHEST), FARTHEST)
        effort = math.log(max(job.effort, 1e-6))
        new = Measured(
            job.name, scene, round(_size(job), 3), round(effort, 3), round(times, 4), round(_long(job), 3)
        )
        same = [item for item in self.measured if item.name == job.name][1 - KEPT :]
        return Paces([*(item for item in self.measured if item.name != job.name), *same, new])


def _size(job: Job) -> float:
    """Logarithm of the pixels of one picture."""
    return math.log(max(1.0, job.pixels / max(1, job.pictures)))


def _long(job: Job) -> float:
    """Logarithm of the pictures that it is made of."""
    return math.log(max(1, job.pictures))


def scene_of(project: Project) -> str:
    """A name for the models of a project: what takes long in one need not in another."""
    models = [(item.path, item.unit_m) for item in project.models if item.shown]
    return hashlib.blake2b(repr(models).encode(), digest_size=6).hexdigest()


def _path() -> Path:
    return cache_folder() / "measured.json"


def known_paces() -> Paces:
    """What was measured; nothing where the cache has nothing that can be read."""
    try:
        if _path().stat().st_size > TOO_LARGE_BYTES:
            return Paces()
        figures_kept = json.loads(_path().read_text())
        paces = [
            Measured(str(name), str(scene), *map(float, figures))
            # What was measured before the number of pictures was kept has one figure fewer.
            for name, scene, *figures in figures_kept
            if 3 <= len(figures) <= 4
        ]
    except (OSError, ValueError, TypeError):
        return Paces()
    good = [
        item
        for item in paces
        if item.name in USUAL
        and 1.0 / FARTHEST <= item.times <= FARTHEST
        and abs(item.size) < 50.0
        and abs(item.effort) < 50.0
        and abs(item.long) < 50.0
    ]
    return Paces(good)


def learn(job: Job, seconds: float, scene: str = "") -> None:
    """Take in how long a job took; a cache that cannot be written is no trouble."""
    if job.pictures < 1 or job.pixels < 1 or seconds <= 0.0:
        return
    rows = [
        (item.name, item.scene, item.size, item.effort, item.times, item.long)
        for item in known_paces().with_measured(job, seconds, scene).measured
    ]
    try:
        write_atomically(_path(), json.dumps(rows).encode(), "")
    except UserError:
        # An estimate is never worth a failed run.
        return
