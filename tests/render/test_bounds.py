"""Bounds in pictures: what they take away, that light stays whole, capped cuts, and verticals found on
pixels."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import numpy as np
import pytest
from scipy import ndimage

from altana.core.back_through import back_through_wall
from altana.core.camera.bounds import look
from altana.core.camera.plumb import plumb
from altana.core.camera.view import View, part_of
from altana.core.camera.wall_cut import WallCut
from altana.core.edits.bounds import with_far, with_near
from altana.core.geometry.rays import RayScene
from altana.core.geometry.sight import passed_faces
from altana.core.light.sky import sky_of
from altana.core.model import Material
from altana.core.project import Camera, Light, Project
from altana.core.staging import WHOLE, Lookup, Staging
from altana.jobs.models import Opened
from altana.render.quality import FULL, STILL
from altana.render.renderer import Renderer
from tests.conftest import box_between, model_of

SKY = sky_of(Light(latitude_deg=47.5, longitude_deg=9.4, date="2026-06-21", hour=10.2))


@pytest.fixture(scope="module")
def demo(demo_opened: Opened) -> Iterator[Renderer]:
    renderer = Renderer(demo_opened.model)
    yield renderer
    renderer.close()


@pytest.fixture(scope="module")
def rays(demo_opened: Opened) -> RayScene:
    return RayScene(demo_opened.model.vertices, demo_opened.model.faces)


def same_objects(renderer: Renderer, rays: RayScene, opened: Opened, view: View) -> float:
    """The share of pixels in which the renderer and rays with all bounds heeded see the same object."""
    objects = renderer.facts(view).object_index
    x, y = np.meshgrid(np.arange(view.width_px) + 0.5, np.arange(view.height_px) + 0.5)
    along = view.rays(np.column_stack([x.ravel(), y.ravel()]))
    _, met = look(view, rays, along, passed_faces(opened.model))
    owner = opened.model.face_objects()
    by_rays = np.where(met.face >= 0, owner[met.face], -1)
    return float((by_rays == objects.ravel()).mean())


FRONT = Camera("", "Front", (16.0, 27.0, 1.5), 215.0, focal_mm=24.0)
GLASS = WallCut((9.83, 18.065, 1.5), 180.0, 4.169, 9.829, 1.499, 5.679, depth_m=0.35)


@pytest.mark.parametrize(
    "camera",
    [
        FRONT,
        with_near(FRONT, 11.0),
        with_far(FRONT, 20.0),
        replace(FRONT, wall_cuts=(GLASS,)),
        replace(
            FRONT,
            wall_cuts=(
                replace(GLASS, depth_m=1e5, offset_m=1.2),
                WallCut((0.0, 10.0, 2.0), 270.0, 3.0, 4.0, 2.0, 3.0),
            ),
        ),
        with_far(
            replace(
                with_near(FRONT, 6.0),
                wall_cuts=(GLASS,),
                tilt_deg=4.0,
                roll_deg=2.0,
                rise_mm=3.0,
                cross_mm=-4.0,
            ),
            30.0,
        ),
    ],
    ids=["none", "near", "far", "wall cut", "two wall cuts", "all"],
)
def test_pictures_and_rays_agree_about_what_is_cut_away(
    demo: Renderer, rays: RayScene, demo_opened: Opened, camera: Camera
) -> None:
    assert same_objects(demo, rays, demo_opened, camera.view(320, 180)) > 0.985


def test_a_wall_cut_changes_only_what_is_seen_through_its_rectangle(demo: Renderer) -> None:
    view = FRONT.view(480, 270)
    through = replace(FRONT, wall_cuts=(GLASS,)).view(480, 270)
    before, after = demo.facts(view), demo.facts(through)
    changed = before.object_index != after.object_index
    corners = view.project(GLASS.corners())[:, :2]
    rows, columns = np.nonzero(changed)
    assert changed.mean() > 0.05
    assert columns.min() >= corners[:, 0].min() - 2
    assert columns.max() <= corners[:, 0].max() + 2
    assert rows.min() >= corners[:, 1].min() - 2
    assert rows.max() <= corners[:, 1].max() + 2


# ---------------------------------------------------------------------- what light sees is whole


def untouched(renderer: Renderer, bound: View, whole: View) -> np.ndarray:
    """Pixels in which both views see the same place through no pane, a border of three pixels left away."""
    one, other = renderer.facts(bound), renderer.facts(whole)
    apart = np.abs(
        np.where(one.object_index >= 0, one.depth_m, 0.0)
        - np.where(other.object_index >= 0, other.depth_m, 0.0)
    )
    same = (one.object_index == other.object_index) & (apart < 1e-3) & ~one.pane & ~other.pane
    return np.asarray(ndimage.binary_erosion(same & (one.object_index >= 0), iterations=3))


@pytest.mark.slow
@pytest.mark.parametrize("quality", [FULL, STILL], ids=["full", "still"])
@pytest.mark.parametrize("near", [4.5, pytest.param(9.0, marks=pytest.mark.slow)])
def test_a_bound_changes_no_shadow_and_no_contact_shade(
    demo: Renderer, demo_project: Project, quality: object, near: float
) -> None:
    """The hall with its nearest benches cut away: whatever both pictures show is lit alike, bench shadows
    included."""
    camera = demo_project.camera_named("Waiting hall to the water")
    whole, bound = camera.view(640, 360), with_near(camera, near).view(640, 360)
    same = untouched(demo, bound, whole)
    assert 0.2 < same.mean() < 0.995
    one = demo.picture(bound, SKY, camera.ev, quality, True)  # type: ignore[arg-type]
    other = demo.picture(whole, SKY, camera.ev, quality, True)  # type: ignore[arg-type]
    assert one is not None and other is not None
    difference = np.abs(one.astype(int) - other.astype(int)).max(axis=2)
    # A few pixels at the rim of what was cut away mix with their neighbours; all others are the same to the
    # last bit.
    assert (difference[same] > 2).mean() < 1e-3
    assert difference[same].mean() < 0.05
    # The bound did take something away.
    assert (difference > 30).mean() > 0.01


def test_a_wall_cut_lets_no_light_in(demo: Renderer) -> None:
    """With the glass front cut away the hall is lit as it is behind its panes and bars: their shadows
    stay."""
    ev = 11.0
    whole, through = FRONT.view(640, 360), replace(FRONT, wall_cuts=(GLASS,)).view(640, 360)
    same = untouched(demo, through, whole)
    one, other = demo.picture(through, SKY, ev, FULL), demo.picture(whole, SKY, ev, FULL)
    assert one is not None and other is not None
    assert same.mean() > 0.3
    difference = np.abs(one.astype(int) - other.astype(int)).max(axis=2)[same]
    assert (difference > 2).mean() < 1e-4


@pytest.mark.slow
def test_the_ticket_office_is_lit_the_same_with_and_without_its_bound(
    demo: Renderer, rays: RayScene, demo_opened: Opened
) -> None:
    """From behind the wall: where the bound lies makes no difference to what is seen either way, and places
    on the far wall are as bright as they are to an eye within the room that needs no bound."""
    office = Camera("", "Office", (1.1, 10.8, 1.6), 270.0, focal_mm=35.0, aim_m=1.05, inside=True)
    back = back_through_wall(demo_opened.model, rays, office, whole="width").camera
    assert back.near is not None
    deeper = with_near(back, back.near + 0.4)
    same = untouched(demo, deeper.view(960, 540), back.view(960, 540))
    one, other = (demo.picture(camera.view(960, 540), SKY, 8.6, FULL, True) for camera in (deeper, back))
    assert one is not None and other is not None
    assert same.mean() > 0.3
    assert np.abs(one.astype(int) - other.astype(int)).max(axis=2)[same].max() <= 2
    within = replace(back, eye=(2.18, back.eye[1], back.eye[2]), near_m=None, near_at=None)
    places = np.array([[0.021, y, z] for y in np.arange(9.6, 12.1, 0.1) for z in np.arange(1.95, 2.3, 0.05)])
    values = []
    for camera in (back, within):
        view = camera.view(960, 540)
        picture = demo.picture(view, SKY, 8.6, STILL, True)
        facts = demo.facts(view)
        assert picture is not None
        px, py, depth = view.project(places).T
        inside = (px > 3) & (px < 957) & (py > 3) & (py < 537)
        column, row = px.clip(0, 959).astype(int), py.clip(0, 539).astype(int)
        seen = inside & (np.abs(facts.depth_m[row, column] - depth) < 0.01)
        smooth = ndimage.uniform_filter(picture.astype(float).mean(axis=2), 5)
        values.append(np.where(seen, smooth[row, column], np.nan))
    both = ~np.isnan(values[0]) & ~np.isnan(values[1])
    assert both.sum() > 60
    # Not exactly: the same place fills more pixels from nearer by, and the books beside it reach further into
    # them.
    assert np.abs(values[0][both] - values[1][both]).mean() < 6.0


def test_what_lies_wholly_beyond_may_be_left_out_of_the_light() -> None:
    """A wall beyond the far bound, towards the sun, shades the ground before the camera, unless it is told
    not to."""
    sun = np.asarray(SKY.sun)
    plaster = Material("Plaster", (0.8, 0.8, 0.8, 1.0))
    heading = float(np.degrees(np.arctan2(sun[0], sun[1]))) % 360.0
    ahead = np.array([np.sin(np.radians(heading)), np.cos(np.radians(heading))])
    x, y = ahead * 9.0
    model = model_of(
        ("Ground", box_between((-40, -40, -1), (40, 40, 0)), plaster),
        ("Wall", box_between((x - 3, y - 3, 0), (x + 3, y + 3, 14)), plaster),
    )
    renderer = Renderer(model)
    camera = with_far(Camera("", "x", (0.0, 0.0, 1.6), heading, 0.0, focal_mm=24.0, rise_mm=-8.0), 4.4)
    try:
        pictures = []
        for item in (camera, replace(camera, far_dark=True)):
            picture = renderer.picture(
                item.view(320, 180), SKY, 13.0, FULL, staging=Lookup(model).staging(Project(), item)
            )
            assert picture is not None
            pictures.append(picture[120:].astype(float).mean())
    finally:
        renderer.close()
    assert pictures[1] > pictures[0] + 15


# ---------------------------------------------------------------------- capped cuts


@pytest.mark.slow
def test_capped_cuts_are_one_dark_even_ink(demo: Renderer) -> None:
    camera = with_near(FRONT, 11.0)
    view = camera.view(640, 360)
    cut = np.asarray(ndimage.binary_erosion(demo.inside(view), iterations=2))
    assert cut.sum() > 2000
    plain, capped = (
        demo.picture(view, SKY, 12.0, STILL, staging=staging) for staging in (WHOLE, Staging(cap=True))
    )
    assert plain is not None and capped is not None
    assert capped[cut].mean() < 75
    assert capped[cut].astype(float).std() < 3
    assert plain[cut].astype(float).std() > 10
    beside = ~ndimage.binary_dilation(demo.inside(view), iterations=3)
    # What is thinner than a pixel is met by some samples of a pixel only.
    assert (np.abs(plain[beside].astype(int) - capped[beside].astype(int)).max(axis=1) > 2).mean() < 1e-3


def test_the_ink_does_not_depend_on_the_exposure(demo: Renderer) -> None:
    view = with_near(FRONT, 11.0).view(320, 180)
    cut = np.asarray(ndimage.binary_erosion(demo.inside(view), iterations=2))
    means = []
    for ev in (9.0, 14.0):
        picture = demo.picture(view, SKY, ev, FULL, staging=Staging(cap=True))
        assert picture is not None
        means.append(picture[cut].astype(float).mean())
    assert means[0] == pytest.approx(means[1], abs=1.5)


# ---------------------------------------------------------------------- verticals on pixels


def edge_places(brightness: np.ndarray, rows: range, guess: float, reach: int = 9) -> np.ndarray:
    """(n, 2) row and place of the strongest step near a column, in fractions of a pixel: the middle of the
    step."""
    places = []
    for row in rows:
        first = max(0, round(guess) - reach)
        line = brightness[row, first : round(guess) + reach]
        low, high = line[:3].mean(), line[-3:].mean()
        if abs(high - low) < 25:
            continue
        share = np.clip((line - low) / (high - low), 0, 1)
        # The step's place from the area under it: exact whatever its softness.
        places.append((row + 0.5, first + len(line) - share.sum()))
    return np.array(places)


def test_vertical_edges_of_the_tower_are_vertical_on_pixels_after_plumb(
    demo: Renderer, demo_project: Project
) -> None:
    """At 1920 x 1080, over the tower's whole seen height, an edge fitted to pixels is within 0.3 px of
    vertical."""
    tower = replace(
        demo_project.camera_named("Tower from the forecourt"), width_px=1920, height_px=1080, focal_mm=20.0
    )
    straight = tower.with_view(*plumb(tower.pose, tower.lens))
    # The part of the picture with the shaft: the same rays through the same pixels.
    view = part_of(straight.view(), (0.36, 0.06, 0.64, 0.58))
    picture = demo.picture(view, SKY, tower.ev, STILL)
    assert picture is not None
    brightness = picture.astype(float).mean(axis=2)
    # The shaft's two outer edges against the sky: where they should be is only the place to begin looking.
    tops = view.project(
        np.array([[-9.0, 7.0, 16.0], [-4.0, 7.0, 16.0], [-9.0, 12.0, 16.0], [-4.0, 12.0, 16.0]])
    )
    guesses = (float(tops[:, 0].min()), float(tops[:, 0].max()))
    foot = view.project(np.array([[-6.5, 7.0, 8.0]]))[0, 1]
    fitted = 0
    for guess in guesses:
        rows = range(max(2, int(tops[:, 1].max()) + 4), min(view.height_px - 2, int(foot)))
        places = edge_places(brightness, rows, guess)
        if len(places) < 150:
            continue
        middle = np.median(places[:, 1])
        places = places[np.abs(places[:, 1] - middle) < 1.5]
        slope, _ = np.polyfit(places[:, 0], places[:, 1], 1)
        assert abs(slope) * (places[-1, 0] - places[0, 0]) < 0.3
        fitted += 1
    assert fitted >= 1
    # Before plumb the same tower leans by far more.
    before = tower.view().project(np.array([[-9.0, 7.0, 2.0], [-9.0, 7.0, 16.0]]))
    assert abs(before[1, 0] - before[0, 0]) > 20
