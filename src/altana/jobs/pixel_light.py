"""Light reckoned for the very places a picture shows, while its camera stands still: where they are, what
comes to them, and how both are kept."""

from __future__ import annotations

import hashlib
import math
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any

import numpy as np

from altana.core.camera.view import View
from altana.core.conventions import Bools, Floats, Floats32, Ints32
from altana.core.light.light_scene import LightScene
from altana.core.light.map_texels import MapTexels
from altana.core.light.pixel_light import LitPixels, PixelLight, PixelPlaces, even_sheen
from altana.core.light.sky import Sky
from altana.core.light.transport import LightMap
from altana.core.model import GLASS, WATER, Model
from altana.core.progress import Progress
from altana.core.project import Light
from altana.core.staging import Staging
from altana.jobs.light import known_light, light_name
from altana.jobs.models import Opened
from altana.jobs.orders import PlacesFound
from altana.jobs.surroundings import sky_for
from altana.render.images import albedos
from altana.render.quality import MOST_PLACES
from altana.render.renderer import Renderer
from altana.render.traced.tracer import Guides, denoised
from altana.storage.cache import keep_pixels, load_pixels, pixels_changed

#: So many rounds of rays where there are so many places, and more where there are fewer; the first is shown
#: at once.
ROUNDS, MOST_ROUNDS = 4, 16
#: Lux that half floats still hold.
MOST_LUX = 60_000.0


def pixel_view(view: View) -> View:
    """The view whose pixels are the places of a picture: the same, as large as there are places."""
    scale = min(1.0, math.sqrt(MOST_PLACES / (view.width_px * view.height_px)))
    wide, high = (max(2, round(side * scale)) for side in (view.width_px, view.height_px))
    return replace(view, width_px=wide, height_px=high, blur=None)


def rounds_of(view: View) -> int:
    """How many rounds of rays the places of a picture get."""
    grid = pixel_view(view)
    return min(MOST_ROUNDS, round(ROUNDS * MOST_PLACES / (grid.width_px * grid.height_px)))


def pixels_name(opened: Opened, light: Light, view: View, staging: Staging, rounds: int = 0) -> str:
    """What the kept light of a view's pixels is called in the cache; of so many ``rounds`` of rays, where
    others will not do."""
    told = [str(rounds)] if rounds else []
    text = "|".join([light_name(opened, light), repr(pixel_view(view)), repr(staging), *told])
    return hashlib.blake2b(text.encode(), digest_size=20).hexdigest()


def find_places(renderer: Renderer, opened: Opened, light: Light, view: View, staging: Staging) -> str:
    """Keep the places that a view shows, under the name that comes back; nothing where all of their light is
    known."""
    name = pixels_name(opened, light, view, staging)
    held = load_pixels(name)
    if held is None:
        keep_pixels(name, seen_places(renderer, view, staging))
    # What is known of light that was broken off is shown until there is more.
    return "" if held is not None and int(held["rounds"]) >= rounds_of(view) else name


def seen_places(renderer: Renderer, view: View, staging: Staging) -> dict[str, Any]:
    """The places that a view shows, as they are kept (storage.cache.PIXELS); nothing is known of their light
    yet."""
    grid = pixel_view(view)
    facts = renderer.facts(grid, staging)
    rows, columns = np.mgrid[: grid.height_px, : grid.width_px]
    along = grid.rays(np.column_stack([columns.ravel() + 0.5, rows.ravel() + 0.5]))
    deep = facts.depth_m.ravel() / np.maximum(along @ grid.pose.forward, 1e-9)
    shown = np.isfinite(deep) & (facts.object_index.ravel() >= 0)
    offset = np.where(shown[:, None], along * np.where(shown, deep, 0.0)[:, None], 0.0)
    shape = (grid.height_px, grid.width_px)
    return {
        "offset": offset.reshape(*shape, 3).astype(np.float32),
        "normal": facts.normal.astype(np.float16),
        "material": np.where(shown.reshape(shape), facts.material_index, -1).astype(np.int32),
        "lux": np.zeros((*shape, 3), np.float16),
        "sheen": np.zeros((*shape, 3), np.float16),
        "known": np.zeros(shape, bool),
        "rounds": np.array(0),
    }


def known_pixels(opened: Opened, light: Light, view: View, staging: Staging) -> tuple[int, LitPixels | None]:
    """How many rounds of rays the light of a view's pixels is of, and that light; 0 while none is known."""
    held = load_pixels(pixels_name(opened, light, view, staging))
    if held is None or int(held["rounds"]) == 0:
        return 0, None
    return int(held["rounds"]), lit_pixels(view, held)


def lit_pixels(view: View, held: dict[str, Any]) -> LitPixels:
    """Kept places of a view, as they are drawn."""
    normal, lux, sheen = (held[name].astype(np.float32) for name in ("normal", "lux", "sheen"))
    return LitPixels(pixel_view(view), held["offset"], normal, lux, sheen, held["known"])


@dataclass(slots=True)
class KnownPixels:
    """The light of the pixels of pictures of some models; the last one stays in memory."""

    opened: Opened
    _last: tuple[tuple[str, float], tuple[int, LitPixels | None]] | None = field(default=None)

    def of(self, light: Light, view: View, staging: Staging) -> tuple[int, LitPixels | None]:
        """As known_pixels has it."""
        name = pixels_name(self.opened, light, view, staging)
        key = name, pixels_changed(name)
        if self._last is None or self._last[0] != key:
            self._last = key, known_pixels(self.opened, light, view, staging)
        return self._last[1]


@dataclass(slots=True)
class PixelWork:
    """Reckons the light of pixels; what light meets of a model is held for the next picture."""

    #: Of which models, and the colours of their materials.
    _scene: tuple[tuple[str, ...], LightScene, Floats] | None = field(default=None)

    def let_go(self) -> None:
        """Give the memory back."""
        self._scene = None

    def light(
        self, opened: Opened, found: PlacesFound, base: Path, told: Progress, shown: Callable[[float], None]
    ) -> None:
        """Reckon the light of places, and keep it with them; ``shown(share)`` is called when there is more to
        see, and at the end.  Where the light map is not known there is nothing to see.  Raises Cancelled."""
        name, view, light = found.name, found.view, found.light
        held, light_map = load_pixels(name), known_light(opened, light)
        if held is None or light_map is None:
            shown(1.0)
            return
        rounds = rounds_of(view)

        def more(number: int) -> None:
            keep_pixels(name, held)
            shown(number / rounds)

        self.reckon(opened, view, held, (light_map, sky_for(light, base)), rounds, told, more)

    def reckon(
        self,
        opened: Opened,
        view: View,
        held: dict[str, Any],
        lit: tuple[LightMap, Sky],
        rounds: int,
        told: Progress,
        more: Callable[[int], None],
    ) -> None:
        """Reckon the light of the places of a view by so many rounds of rays, into ``held``; ``more(number)``
        is called after the first round and the last.  lit : the light map, and the sky it is of.  Raises
        Cancelled."""
        model = opened.model
        scene, albedo = self._scene_of(opened)
        work = PixelLight(model, scene, MapTexels.of(lit[0], model), lit[1])
        seen = held["material"] >= 0
        places = _places_of(held, seen, view, model)
        straight = work.straight(places, told)
        lux, sheen, open_ = np.zeros_like(straight), np.zeros_like(straight), np.zeros(len(straight))
        guides = Guides(_colours(albedo, held["material"]), held["normal"].astype(np.float32))
        for number in range(rounds):

            def part(share: float, number: int = number) -> bool:
                return told((number + share) / rounds)

            brought = work.gathered(places, number, part)
            lux, sheen, open_ = lux + brought.lux, sheen + brought.sheen, open_ + brought.open
            if number in (0, rounds - 1):
                for kind, total, clear in (
                    ("lux", lux, straight),
                    ("sheen", sheen, even_sheen(places, straight)),
                ):
                    clean = _cleaned(total / (number + 1), seen, guides)
                    # What comes straight from lamps has no grain, and shadows with edges.
                    clean[seen] += clear
                    held[kind] = np.minimum(clean, MOST_LUX).astype(np.float16)
                held["known"][seen] = open_ > number / 2.0
                held["rounds"] = np.array(number + 1)
                more(number + 1)

    def _scene_of(self, opened: Opened) -> tuple[LightScene, Floats]:
        keys = tuple(opened.keys)
        if self._scene is None or self._scene[0] != keys:
            albedo = albedos(opened.model)
            self._scene = keys, LightScene.of(opened.model, albedo), albedo
            self._scene[1].rays.warm()
        return self._scene[1:]


def _places_of(held: dict[str, Any], seen: Bools, view: View, model: Model) -> PixelPlaces:
    """The kept places that are ``seen`` (h, w)."""
    normal, offset = (held[name][seen].astype(float) for name in ("normal", "offset"))
    return PixelPlaces(
        offset + np.asarray(view.pose.eye, float),
        normal / np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-9),
        np.flatnonzero(seen.ravel()),
        -offset / np.maximum(np.linalg.norm(offset, axis=1, keepdims=True), 1e-9),
        _roughness(model)[held["material"][seen]],
    )


def _cleaned(values: Floats, seen: Bools, guides: Guides) -> Floats32:
    """(h, w, 3) light without grain of the places (n, 3) that are ``seen`` (h, w)."""
    light = np.zeros((*seen.shape, 3), np.float32)
    light[seen] = values
    clean: Floats32 = denoised(light, guides)
    return clean


def _roughness(model: Model) -> Floats:
    """(materials,) how rough each is, 0 where it does not shine as paint does."""
    return np.array(
        [
            0.0
            if item.kind in (WATER, GLASS) or item.metal > 0.5 or any(item.emission)
            else max(item.roughness, 0.01)
            for item in model.materials
        ]
    )


def _colours(albedo: Floats, material: Ints32) -> Floats32:
    """(h, w, 3) the mean colours of what is seen, white where nothing is.  albedo : (materials, 3)."""
    shown = albedo[np.maximum(material, 0)].astype(np.float32)
    shown[material < 0] = 1.0
    return np.clip(shown, 0.0, 1.0)
