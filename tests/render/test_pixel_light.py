"""Light that was reckoned for the places a view shows, as pictures have it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import numpy as np
import pytest

from altana.core.camera.pose import Pose
from altana.core.camera.view import Blur, Lens, View
from altana.core.conventions import Floats32
from altana.core.light.lightmap import spread
from altana.core.light.pixel_light import LitPixels
from altana.core.light.sky import sky_of
from altana.core.light.transport import solve
from altana.core.model import Model
from altana.core.project import Light
from altana.core.staging import WHOLE
from altana.jobs.pixel_light import pixel_view, seen_places
from altana.render.images import albedos
from altana.render.pixel_light import at_edges
from altana.render.quality import Quality
from altana.render.renderer import Renderer

NIGHT = sky_of(Light(hour=1.0))
VIEW = View(Pose((3.0, 0.5, 1.6), 0.0), Lens(24), 96, 64)
LUX = 500.0
#: What its plaster throws of that, cd/m2: colours are kept as roots.
THROWN = 0.8**2 * LUX / np.pi


@pytest.fixture(scope="module")
def renderer(room: Model) -> Iterator[Renderer]:
    """A closed room at night: its light map is dark."""
    made = Renderer(room, solve(room, spread(room, 2000), albedos(room), NIGHT))
    yield made
    made.close()


@pytest.fixture(autouse=True)
def plain(renderer: Renderer) -> Iterator[None]:
    yield
    renderer.pixel_light.show(None)


def lit(renderer: Renderer, view: View = VIEW) -> LitPixels:
    """All that the view shows under LUX."""
    seen = seen_places(renderer, view, WHOLE)
    grid = pixel_view(view)
    shape = seen["offset"].shape
    nothing, all_known = np.zeros(shape, np.float32), np.ones(shape[:2], bool)
    normal, lux = seen["normal"].astype(np.float32), np.full(shape, LUX, np.float32)
    return LitPixels(grid, seen["offset"], normal, lux, nothing, all_known)


def seen(renderer: Renderer, view: View = VIEW, passes: int = 4) -> Floats32:
    master = renderer.master(view, NIGHT, Quality(passes=passes), True)
    assert master is not None
    return master.light.mean(axis=2)


def test_places_are_drawn_in_their_own_light(renderer: Renderer) -> None:
    dark = seen(renderer)
    renderer.pixel_light.show(lit(renderer))
    light = seen(renderer)
    # Plaster under LUX from all sides, its sheen among it.
    assert np.median(light) == pytest.approx(THROWN, rel=0.12)
    assert np.abs(light / np.median(light) - 1.0).max() < 0.15 and dark.max() < 0.01 * light.min()
    renderer.pixel_light.show(None)
    assert np.array_equal(seen(renderer), dark)


def test_what_is_not_known_keeps_the_light_of_the_map(renderer: Renderer) -> None:
    known = lit(renderer)
    known.known[:, : known.known.shape[1] // 2] = False
    renderer.pixel_light.show(known)
    light, dark = seen(renderer), 0.01 * LUX
    third = light.shape[1] // 3
    # Walls run on to both sides: what lies within two places of the known is told by them.
    assert light[:, :third].max() < dark < 10 * dark < light[:, -third:].min()


def test_light_stays_on_its_plane_and_its_side(renderer: Renderer) -> None:
    """The floor is lit, the walls are not: where they meet no light runs up."""
    known = lit(renderer)
    floor = known.normal[..., 2] > 0.9
    known.known[:] = floor
    renderer.pixel_light.show(known)
    light, facts = seen(renderer, passes=1), renderer.facts(VIEW)
    on_floor = facts.normal[..., 2] > 0.9
    assert light[on_floor].min() > 0.5 * THROWN
    assert light[~on_floor].max() < 0.01 * LUX


def test_they_are_found_again_from_beside(renderer: Renderer) -> None:
    """Places are places, not pixels: out of focus the eye moves in its opening, and passes are shifted."""
    renderer.pixel_light.show(lit(renderer))
    blurred = replace(VIEW, blur=Blur(0.02, 2.0))
    light = seen(renderer, blurred, passes=8)
    inner = light[8:-8, 8:-8]
    assert inner.min() > 0.6 * THROWN


def test_sky_has_no_places(renderer: Renderer) -> None:
    outside = View(Pose((30.0, 30.0, 12.0), 225.0), Lens(24), 96, 64)
    places = seen_places(renderer, outside, WHOLE)
    none = places["material"] < 0
    assert none.any() and not none.all() and not places["offset"][none].any()
    facts = renderer.facts(outside)
    assert (none == (facts.object_index < 0)).all()
    # Each place lies on the line through its pixel, as deep as the picture shows.
    deep = places["offset"] @ outside.pose.forward
    assert np.allclose(deep[~none], facts.depth_m[~none], rtol=1e-4)


def test_rough_things_shine_as_their_pixels_say(renderer: Renderer) -> None:
    """What was gathered for the eye stands for what the shader would guess."""
    known = lit(renderer)
    known.lux[:] = 0.0
    known.sheen[:] = 25.0
    renderer.pixel_light.show(known)
    light = seen(renderer)
    assert np.abs(light[4:-4, 4:-4] / 25.0 - 1.0).max() < 0.02


def test_at_an_edge_of_its_plane_a_place_hardly_counts(renderer: Renderer) -> None:
    """Cleaning mixes light over edges: what such places say is asked for only where there are no others."""
    known = lit(renderer)
    edge = at_edges(known)
    # Down the middle: where floor and wall meet, two places.
    rows = np.flatnonzero(edge[:, 48])
    facing = known.normal[rows, 48, 2]
    assert len(rows) >= 2 and edge.mean() < 0.2 and facing.max() > 0.9 and facing.min() < 0.1
    renderer.pixel_light.show(known)
    plain = seen(renderer, passes=1)
    known = lit(renderer)
    known.lux[edge] *= 5.0
    renderer.pixel_light.show(known)
    ratio = seen(renderer, passes=1) / plain
    assert ratio[edge].mean() < 1.8 and np.abs(ratio[~edge] - 1.0).max() < 0.1
    # Where nothing but edges is known they are all there is.
    known = replace(known, known=edge)
    renderer.pixel_light.show(known)
    alone = seen(renderer, passes=1) / plain
    assert np.median(alone[edge]) == pytest.approx(5.0, rel=0.1)
