"""Where rays of a picture begin and go: the same camera as everywhere, with its bounds, for the path
tracer."""

from __future__ import annotations

import functools
import math
from dataclasses import dataclass

import numpy as np

from altana.core.camera.bounds import sight_begins, sight_ends
from altana.core.camera.view import View
from altana.core.conventions import Bools, Floats, Floats32, Vec3
from altana.core.geometry.rays import RayScene
from altana.core.geometry.sight import see


@dataclass(frozen=True, slots=True)
class Aperture:
    """A lens that is open: half its opening and the distance in focus, metres."""

    radius_m: float
    focus_m: float


def aperture(focal_mm: float, f_number: float, focus_m: float) -> Aperture:
    """Of a lens by its own figures: the opening is the focal length over the f-number."""
    return Aperture(focal_mm / f_number / 2000.0, focus_m)


@dataclass(frozen=True, slots=True)
class Sight:
    """Rays of some samples: origins and unit directions (n, 3), and how far they see (n,)."""

    origin: Floats
    along: Floats
    ends: Floats


@dataclass(frozen=True, slots=True)
class FlatSights:
    """The rays of an ordinary picture.  rays : the model with so many faces, for wall cuts, which need to
    know what a ray meets."""

    view: View
    lens: Aperture | None = None
    rays: RayScene | None = None
    faces: int = 0

    @property
    def size(self) -> tuple[int, int]:
        """Width and height in pixels."""
        return self.view.width_px, self.view.height_px

    def through(self, pixels: Floats, aside: Floats) -> Sight:
        """Rays through places of the picture (n, 2), px.  aside : (n, 2) where on the open lens they begin, 0
        to 1."""
        view = self.view
        along = view.rays(pixels)
        eye: Floats = np.broadcast_to(np.asarray(view.pose.eye, float), along.shape)
        if self.lens is not None and self.lens.radius_m > 0.0:
            right, up, forward = view.pose.axes()
            radius, turn = self.lens.radius_m * np.sqrt(aside[:, :1]), 2.0 * math.pi * aside[:, 1:]
            # What lies in the plane of focus stays where it is, from wherever on the lens it is seen.
            focus = eye + along * (self.lens.focus_m / np.maximum(along @ forward, 1e-9))[:, None]
            eye = eye + radius * (np.cos(turn) * right + np.sin(turn) * up)
            along = focus - eye
            along /= np.linalg.norm(along, axis=1, keepdims=True)
        begins, ends = sight_begins(view, along), sight_ends(view, along)
        if view.cuts:
            begins = self._past_cuts(along, begins)
        elif view.near_m is None:
            return Sight(eye, along, ends)
        return Sight(eye + along * begins[:, None], along, ends - begins)

    def _past_cuts(self, along: Floats, begins: Floats) -> Floats:
        """Where rays begin that meet something within what a wall cut takes away: behind it."""
        view = self.view
        assert self.rays is not None
        eye = np.asarray(view.pose.eye, float)
        spans = [(cut.enters(view.pose.eye, along), cut.distance(view.pose.eye, along)) for cut in view.cuts]
        nothing_passed: Bools = np.zeros(self.faces, np.bool_)
        gone, left = begins.copy(), np.arange(len(along))
        for _ in range(2 * len(spans) + 1):
            hit = see(self.rays, eye + along[left] * gone[left, None], along[left], nothing_passed)
            away = hit.distance_m + gone[left]
            onward = np.zeros(len(left))
            for enters, leaves in spans:
                within = (away >= enters[left]) & (away < leaves[left])
                onward = np.where(within, np.maximum(onward, leaves[left]), onward)
            moved = onward > 0.0
            gone[left[moved]] = onward[moved]
            left = left[moved]
            if not len(left):
                break
        return gone


@dataclass(frozen=True, slots=True)
class RoundSights:
    """The rays of a 2:1 panorama from a place, its middle towards a heading; ``aside_m`` moves the eye aside
    of each direction, for one eye of two; towards straight up and down both come together."""

    eye: Vec3
    heading_deg: float
    size: tuple[int, int]
    aside_m: float = 0.0

    def through(self, pixels: Floats, aside: Floats) -> Sight:
        """Rays through places of the picture (n, 2), px."""
        wide, high = self.size
        heading = math.radians(self.heading_deg) + (pixels[:, 0] / wide - 0.5) * 2.0 * math.pi
        up = (0.5 - pixels[:, 1] / high) * math.pi
        level = np.cos(up)
        along = np.stack([np.sin(heading) * level, np.cos(heading) * level, np.sin(up)], axis=1)
        eye = np.tile(np.asarray(self.eye, float), (len(pixels), 1))
        if self.aside_m:
            reach = self.aside_m * np.cos(up)
            eye[:, 0] += np.cos(heading) * reach
            eye[:, 1] -= np.sin(heading) * reach
        return Sight(eye, along, np.full(len(pixels), np.inf))


Sights = FlatSights | RoundSights


def jitter(width: int, rows: range, sample: int) -> Floats32:
    """(n, 4) places in the pixel and on the lens, 0 to 1, of one sample of each pixel of some rows: an even
    sequence (R. Cranley and T. Patterson's turn, with Martin Roberts's generalised golden ratios), turned
    anew for every pixel."""
    golden = np.array([[0.8566748838545029], [0.733891856627126], [0.6287067210378087], [0.5385972572236101]])
    moved = _first_places(width, rows.start, rows.stop) + (sample + 1) * golden
    made: Floats32 = _part(moved).astype(np.float32).T
    return made


@functools.lru_cache(maxsize=2)
def _first_places(width: int, start: int, stop: int) -> Floats:
    """(4, n) where the sequence of each pixel of some rows begins."""
    x, y = np.arange(width)[None, :], np.arange(start, stop)[:, None]
    along = x * 0.7548776662466927 + y * 0.5698402909980532
    noise = np.stack([_part(along * (number + 1) + number * 0.37).ravel() for number in range(4)])
    begun: Floats = np.random.default_rng((1, 7)).random((4, 1)) + noise
    return begun


def _part(numbers: Floats) -> Floats:
    """What numbers (...), none below 0, are over the next whole one, where they stand."""
    numbers -= np.floor(numbers)
    return numbers
