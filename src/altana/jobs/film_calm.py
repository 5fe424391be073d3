"""Traced film frames: each is followed on its own, kept as it came, and calmed by its neighbours once those
are there."""

from __future__ import annotations

from pathlib import Path
from typing import Protocol

import numpy as np
from PIL import Image

from altana.core.camera.view import View
from altana.core.conventions import Floats32
from altana.core.light.tone import gain
from altana.core.staging import Staging
from altana.core.walk.sample import WalkSamples
from altana.jobs.film_files import raw_path
from altana.jobs.requests import Film
from altana.render.calming import REACH, Moment, calmed
from altana.render.encode import Pixels, exr_bytes, exr_light, still_bytes
from altana.render.pictures import grained
from altana.render.renderer import Renderer
from altana.storage.files import write_atomically


class Frames(Protocol):
    """What calming needs of whoever makes the film."""

    item: Film
    samples: WalkSamples
    renderer: Renderer

    def as_it_came(self, number: int) -> bytes:
        """A film frame that is traced for itself, as its file."""

    def stamped(self, pixels: Pixels, number: int) -> Pixels:
        """A film frame with its stamp, where one is asked for."""

    def staging(self) -> Staging:
        """What the film shows."""


class Calming:
    """The calmed frames of one film, asked for one after the other."""

    def __init__(self, work: Frames, frames: Path) -> None:
        self._work, self._folder = work, frames
        self._numbers = list(work.item.frames)
        views = [self._view(number) for number in self._numbers]
        #: While the camera stands its pictures are the same, and so are those that calm them: (n,) the stand
        #: that each place belongs to, and the places at which each begins.
        begins = [place for place, view in enumerate(views) if place == 0 or view != views[place - 1]]
        self._begins = begins
        self._stand = np.searchsorted(begins, np.arange(len(views)), side="right") - 1
        self._held: dict[int, Moment] = {}
        self._there = 0

    def frame(self, place: int) -> tuple[bytes, Pixels | None]:
        """A film frame as its file, and its pixels but for light.  place : which of the film's.  Raises
        UserError or Cancelled."""
        item, number = self._work.item, self._numbers[place]
        beside = self._beside(place)
        # What lies further back is not needed any more, though it may have been made by an earlier run.
        self._there = max(self._there, min([place, *beside]))
        while self._there <= max([place, *beside]):
            self._fetch(self._there)
            self._there += 1
        for old in set(self._held) - {place, *beside}:
            if old < place:
                del self._held[old]
        picture = calmed(self._moment(place), [self._moment(other) for other in beside])
        if item.sequence == "exr":
            white = gain(float(self._work.samples.ev[number]))
            return exr_bytes(_opened_up(picture, white), f"{item.name}, frame {number}"), None
        pixels = grained(picture / np.float32(255.0))
        if item.sequence:
            whole = self._work.stamped(pixels, number)
            return still_bytes(whole, item.sequence, f"{item.name}, frame {number}"), pixels
        return still_bytes(pixels, "png", fast=True), pixels

    def _view(self, number: int) -> View:
        return self._work.samples.view(number, self._work.item.width_px, self._work.item.height_px)

    def _beside(self, place: int) -> list[int]:
        """The places before and after that calm one: the nearest of other views."""
        stand = int(self._stand[place])
        before = [self._begins[other + 1] - 1 for other in range(max(0, stand - REACH), stand)]
        after = self._begins[stand + 1 : stand + 1 + REACH]
        return [*before, *after]

    def _fetch(self, place: int) -> None:
        number = self._numbers[place]
        path = raw_path(self._folder, self._work.item, number)
        if not path.is_file():
            data = self._work.as_it_came(number)
            write_atomically(path, data, "Frames made before are kept.")

    def _moment(self, place: int) -> Moment:
        if place not in self._held:
            number = self._numbers[place]
            view = self._view(number)
            depth = self._work.renderer.facts(view, self._work.staging()).depth_m
            self._held[place] = Moment.of(view, depth, self._picture(number))
        return self._held[place]

    def _picture(self, number: int) -> Pixels | Floats32:
        path = raw_path(self._folder, self._work.item, number)
        if self._work.item.sequence == "exr":
            return _closed_up(exr_light(path), gain(float(self._work.samples.ev[number])))
        with Image.open(path) as image:
            return np.asarray(image.convert("RGB"))


def _closed_up(light: Floats32, white: float) -> Floats32:
    """Light (height, width, 3) in cd/m2 as it would about be looked at, 0 to 255, so that nothing is lost.
    white : ``tone.gain``."""
    x = light * np.float32(white)
    picture: Floats32 = np.sqrt(x / (1.0 + x)) * np.float32(255.0)
    return picture


def _opened_up(shown: Floats32, white: float) -> Floats32:
    """Back from ``_closed_up``."""
    x = np.minimum((shown / np.float32(255.0)) ** 2, np.float32(1.0 - 1e-6))
    picture: Floats32 = x / (1.0 - x) / np.float32(white)
    return picture
