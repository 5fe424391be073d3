"""The light of the very places that stills show (core/light/pixel_light.py), where their quality asks for
it."""

from __future__ import annotations

import math
from collections.abc import Iterator
from contextlib import contextmanager

from altana.core.camera.view import View
from altana.core.light.pixel_light import RAYS, LitPixels
from altana.core.progress import Progress
from altana.core.project import MATERIALS, WHITE_CARD, Light
from altana.core.staging import Staging
from altana.jobs.pixel_light import PixelWork, lit_pixels, pixels_name, seen_places
from altana.jobs.requests import Picture
from altana.jobs.rows.shared import Rows
from altana.render.quality import rays_of, refining
from altana.storage.cache import keep_pixels, load_pixels, pixels_changed

#: What looking for light counts for in the progress of a still.
SHARE = 0.8


class PlaceLight:
    """Draws stills in the light of the places they show.  A picture has the same whether it was found now or
    kept: it is of its own rounds of rays, not of those that the Frame had."""

    def __init__(self, rows: Rows) -> None:
        self._rows = rows
        self._work = PixelWork()
        #: The last one, for the tiles of one picture.
        self._last: tuple[str, LitPixels] | None = None

    def rounds_of(self, item: Picture) -> int:
        """How many rounds of rays the places of a still get; none in drawings, and where there is no light
        map to go by."""
        shot, view = item.shot, item.view()
        if shot.rendition not in (MATERIALS, WHITE_CARD) or not refining():
            return 0
        if self._rows.hurried or self._rows.soft is None:
            return 0
        making = self._rows.project.qualities.of(shot.quality)
        return math.ceil(rays_of(making.light_rays, view.width_px * view.height_px) / RAYS)

    def known(self, item: Picture) -> bool:
        """Whether nothing need be looked for."""
        rounds = self.rounds_of(item)
        name = self._name(self._rows.light_of(item), item.view(), self._rows.staging(item), rounds)
        return not rounds or (self._last is not None and self._last[0] == name) or pixels_changed(name) > 0.0

    @contextmanager
    def shown(self, item: Picture, progress: Progress) -> Iterator[Progress]:
        """Draw in this light meanwhile; what comes back tells of the rest of the work.  Raises Cancelled."""
        rounds = self.rounds_of(item)
        if not rounds:
            yield progress
            return
        begun = 0.0 if self.known(item) else SHARE
        self._rows.renderer.pixel_light.show(self._of(item, rounds, lambda part: progress(SHARE * part)))
        try:
            yield lambda share: progress(begun + (1.0 - begun) * share)
        finally:
            self._rows.renderer.pixel_light.show(None)

    def close(self) -> None:
        """Give the memory back."""
        self._work.let_go()
        self._last = None

    def _name(self, light: Light, view: View, staging: Staging, rounds: int) -> str:
        return pixels_name(self._rows.opened, light, view, staging, rounds)

    def _of(self, item: Picture, rounds: int, progress: Progress) -> LitPixels | None:
        """The light of the places that a still shows; None where there is no light map to go by."""
        rows, view, light = self._rows, item.view(), self._rows.light_of(item)
        staging = rows.staging(item)
        name = self._name(light, view, staging, rounds)
        if self._last is not None and self._last[0] == name:
            return self._last[1]
        sky, light_map = rows.sky(light, progress), rows.light_map(light, progress)
        if light_map is None:
            return None
        held = load_pixels(name)
        # How long a picture takes whose light was kept says nothing of others.
        rows.other_samples = rows.other_samples or held is not None
        if held is None:
            held = seen_places(rows.renderer, view, staging)
            self._work.reckon(rows.opened, view, held, (light_map, sky), rounds, progress, lambda _: None)
            keep_pixels(name, held)
        self._last = name, lit_pixels(view, held)
        return self._last[1]
