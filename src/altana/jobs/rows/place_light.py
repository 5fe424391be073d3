"""The light of the very places that stills and panoramas show (core/light/pixel_light.py), where their
quality asks for it."""

from __future__ import annotations

import math
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from altana.core.camera.view import View
from altana.core.light.pixel_light import RAYS, LitPixels
from altana.core.light.sky import Sky
from altana.core.light.transport import LightMap
from altana.core.progress import Progress
from altana.core.project import MATERIALS, WHITE_CARD
from altana.jobs.pixel_light import PixelWork, lit_pixels, pixels_name, seen_places
from altana.jobs.requests import Pano, Picture
from altana.jobs.rows.shared import Rows
from altana.render.panorama import FACES, OVERLAP, Place, face_view, light_side
from altana.render.quality import rays_of, refining
from altana.render.round_light import evened
from altana.storage.cache import keep_pixels, load_pixels, pixels_changed

#: What looking for light counts for in the progress of a still, and of a panorama.
SHARE = 0.8


class PlaceLight:
    """Draws stills, and the faces of panoramas, in the light of the places they show.  A picture has the same
    whether it was found now or kept: it is of its own rounds of rays, not of those that the Frame had."""

    def __init__(self, rows: Rows) -> None:
        self._rows = rows
        self._work = PixelWork()
        #: The last ones: for the tiles of one still, or the faces of one panorama.
        self._last: tuple[tuple[str, ...], list[LitPixels]] | None = None

    def rounds_of(self, item: Picture | Pano) -> int:
        """How many rounds of rays the places of a picture get; none in drawings and for two eyes, and where
        there is no light map to go by."""
        shot = item.shot
        if shot.rendition not in (MATERIALS, WHITE_CARD) or not refining():
            return 0
        if self._rows.hurried or self._rows.soft is None or (isinstance(item, Pano) and shot.stereo_m):
            return 0
        making = self._rows.project.qualities.of(shot.quality)
        return math.ceil(rays_of(making.light_rays, _pixels_of(item)) / RAYS)

    def known(self, item: Picture | Pano) -> bool:
        """Whether nothing need be looked for."""
        names = self._names(item)
        return (self._last is not None and self._last[0] == names) or all(map(pixels_changed, names))

    @contextmanager
    def shown(self, item: Picture | Pano, progress: Progress, face: str = "") -> Iterator[Progress]:
        """Draw in this light meanwhile; what comes back tells of the rest of the work.  face : of a panorama.
        Raises Cancelled."""
        if not self.rounds_of(item):
            yield progress
            return
        begun = 0.0 if self.known(item) else SHARE
        lit = self._of(item, lambda part: progress(SHARE * part))
        number = list(FACES).index(face) if face else 0
        self._rows.renderer.pixel_light.show(lit[number] if lit else None)
        try:
            yield lambda share: progress(begun + (1.0 - begun) * share)
        finally:
            self._rows.renderer.pixel_light.show(None)

    def find(self, item: Picture | Pano, progress: Progress) -> None:
        """Look for the light of a picture's places before it is drawn, where it is not known.  Raises
        Cancelled."""
        if self.rounds_of(item):
            self._of(item, progress)

    def close(self) -> None:
        """Give the memory back."""
        self._work.let_go()
        self._last = None

    def _names(self, item: Picture | Pano) -> tuple[str, ...]:
        rows, rounds = self._rows, self.rounds_of(item)
        light, staging = rows.light_of(item), rows.staging(item)
        views = _views_of(item) if rounds else []
        return tuple(pixels_name(rows.opened, light, view, staging, rounds) for view in views)

    def _of(self, item: Picture | Pano, progress: Progress) -> list[LitPixels]:
        """The light of the places that a still shows, or each face of a panorama; none where there is no
        light map to go by."""
        rows, light, names = self._rows, self._rows.light_of(item), self._names(item)
        if self._last is not None and self._last[0] == names:
            return self._last[1]
        sky, light_map = rows.sky(light, progress), rows.light_map(light, progress)
        if light_map is None:
            return []
        views = _views_of(item)
        found = []
        for number, view in enumerate(views):

            def part(share: float, number: int = number) -> bool:
                return progress((number + share) / len(views))

            found.append(lit_pixels(view, self._found(item, view, (light_map, sky), names[number], part)))
        self._last = names, evened(found) if isinstance(item, Pano) else found
        return self._last[1]

    def _found(
        self, item: Picture | Pano, view: View, lit: tuple[LightMap, Sky], name: str, progress: Progress
    ) -> dict[str, Any]:
        """The light of the places of a view, looked for where it is not kept under its name."""
        rows, held = self._rows, load_pixels(name)
        # How long a picture takes whose light was kept says nothing of others.
        rows.other_samples = rows.other_samples or held is not None
        if held is None:
            held = seen_places(rows.renderer, view, rows.staging(item))
            self._work.reckon(rows.opened, view, held, lit, self.rounds_of(item), progress, lambda _: None)
            keep_pixels(name, held)
        return held


def _pixels_of(item: Picture | Pano) -> int:
    if isinstance(item, Pano):
        return item.width_px * item.height_px
    view = item.view()
    return view.width_px * view.height_px


def _views_of(item: Picture | Pano) -> list[View]:
    """Whose places are looked at: the picture's own, or one for each face of a panorama."""
    if not isinstance(item, Pano):
        return [item.view()]
    place, side = Place(item.camera.eye, item.front_deg), light_side(item.width_px)
    return [face_view(place, name, side, OVERLAP) for name in FACES]
