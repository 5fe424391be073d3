"""The light of what a picture at rest shows: found, reckoned, kept, and asked for by the children."""

from __future__ import annotations

import os
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.light.transport import Cancelled
from altana.core.picture_key import KNOWN
from altana.core.project import Light, Project
from altana.core.staging import WHOLE, Staging
from altana.jobs import pixel_light
from altana.jobs.children import lighting as lighting_module
from altana.jobs.children import pictures as pictures_module
from altana.jobs.children.lighting import LightingWorker
from altana.jobs.children.pictures import PicturesWorker
from altana.jobs.light import known_light
from altana.jobs.models import Opened
from altana.jobs.orders import DrawPicture, FindPlaces, LightPlaces, OpenModels, PlacesFound, PlacesLit
from altana.jobs.pixel_light import (
    KnownPixels,
    PixelWork,
    find_places,
    known_pixels,
    pixel_view,
    pixels_name,
    rounds_of,
    seen_places,
)
from altana.jobs.service import Task
from altana.render.renderer import Renderer
from altana.storage import cache
from altana.storage.cache import cache_folder, keep_pixels, load_pixels
from tests.jobs.sheds import NOON, shed_of
from tests.jobs.test_drawn_before import FakeDesk

VIEW = View(Pose((2.0, 0.4, 1.5), 0.0), Lens(20), 96, 64)


@pytest.fixture
def shed(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Opened:
    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path))
    monkeypatch.setenv("ALTANA_LIGHT_POINTS", "1000")
    monkeypatch.setattr(pixel_light, "ROUNDS", 2)
    monkeypatch.setattr(pixel_light, "MOST_ROUNDS", 4)
    return shed_of(tmp_path)


@pytest.fixture
def renderer(shed: Opened) -> Iterator[Renderer]:
    made = Renderer(shed.model, known_light(shed, NOON))
    yield made
    made.close()


def yes(_share: float) -> bool:
    return True


def lit(shed: Opened, renderer: Renderer, view: View = VIEW) -> list[float]:
    """Have a view's pixels lit; the shares at which there was more to see."""
    shown: list[float] = []
    name = find_places(renderer, shed, NOON, view, WHOLE)
    PixelWork().light(shed, PlacesFound(view, NOON, name), Path(), yes, shown.append)
    return shown


def test_light_is_kept_with_the_view_it_is_of(shed: Opened, renderer: Renderer) -> None:
    assert known_pixels(shed, NOON, VIEW, WHOLE) == (0, None)
    assert lit(shed, renderer) == [0.25, 1.0]
    rounds, pixels = known_pixels(shed, NOON, VIEW, WHOLE)
    assert pixels is not None and rounds == rounds_of(VIEW) == 4 and pixels.view == pixel_view(VIEW)
    assert pixels.known.all() and pixels.lux.min() > 0.0
    # Known wholly, nothing is looked for again; of anything else nothing is known.
    assert find_places(renderer, shed, NOON, VIEW, WHOLE) == ""
    for light, view, staging in (
        (Light(hour=9.0), VIEW, WHOLE),
        (NOON, replace(VIEW, pose=replace(VIEW.pose, heading_deg=1.0)), WHOLE),
        (NOON, VIEW, Staging(omitted=(6,))),
    ):
        assert known_pixels(shed, light, view, staging) == (0, None)


def test_between_two_shelves_it_is_darker_than_on_the_wall(shed: Opened, renderer: Renderer) -> None:
    lit(shed, renderer)
    pixels = known_pixels(shed, NOON, VIEW, WHOLE)[1]
    assert pixels is not None
    x, y, z = (pixels.offset[..., k] + VIEW.pose.eye[k] for k in range(3))
    wall, level = np.abs(y - 4.0) < 0.01, pixels.lux.mean(axis=2)
    between = wall & (x > 1.2) & (x < 1.8) & (z > 1.25) & (z < 1.47)
    free = wall & (x > 2.5) & (z > 1.2) & (z < 1.5)
    assert between.sum() > 20 and level[between].mean() < 0.7 * level[free].mean()


def test_pictures_are_as_large_as_there_are_places() -> None:
    large = replace(VIEW, width_px=3840, height_px=2160)
    grid = pixel_view(large)
    assert 0.98 < grid.width_px * grid.height_px / pixel_light.MOST_PLACES < 1.02
    assert pixel_view(VIEW) == VIEW and pixel_view(grid) == grid
    assert rounds_of(large) == pixel_light.ROUNDS < rounds_of(VIEW) == pixel_light.MOST_ROUNDS


def test_what_was_broken_off_or_damaged_begins_anew(shed: Opened, renderer: Renderer, tmp_path: Path) -> None:
    name = find_places(renderer, shed, NOON, VIEW, WHOLE)
    told: list[float] = []

    def until_half(share: float) -> bool:
        told.append(share)
        return share < 0.5

    with pytest.raises(Cancelled):
        PixelWork().light(shed, PlacesFound(VIEW, NOON, name), Path(), until_half, lambda _: None)
    assert known_pixels(shed, NOON, VIEW, WHOLE)[0] == 1 and told == sorted(told)
    # What is known stays in sight when it is asked for again.
    assert find_places(renderer, shed, NOON, VIEW, WHOLE) == name
    assert known_pixels(shed, NOON, VIEW, WHOLE)[0] == 1
    whole = lit(shed, renderer)
    assert whole[-1] == 1.0
    before = known_pixels(shed, NOON, VIEW, WHOLE)[1]
    file = tmp_path / "pixels" / f"{name}.npz"
    file.write_bytes(file.read_bytes()[:5000])
    assert load_pixels(name) is None and known_pixels(shed, NOON, VIEW, WHOLE) == (0, None)
    lit(shed, renderer)
    again = known_pixels(shed, NOON, VIEW, WHOLE)[1]
    assert before is not None and again is not None and np.array_equal(before.lux, again.lux)


def test_without_a_light_map_there_is_nothing_to_see(shed: Opened, renderer: Renderer) -> None:
    other = Light(hour=8.0)
    shown: list[float] = []
    name = find_places(renderer, shed, other, VIEW, WHOLE)
    PixelWork().light(shed, PlacesFound(VIEW, other, name), Path(), yes, shown.append)
    assert shown == [1.0] and known_pixels(shed, other, VIEW, WHOLE) == (0, None)


def test_the_last_one_is_held_until_there_is_more(shed: Opened, renderer: Renderer) -> None:
    held = KnownPixels(shed)
    assert held.of(NOON, VIEW, WHOLE) == (0, None)
    lit(shed, renderer)
    rounds, pixels = held.of(NOON, VIEW, WHOLE)
    assert rounds == 4 and pixels is not None and held.of(NOON, VIEW, WHOLE)[1] is pixels


def test_the_oldest_pictures_give_way(
    shed: Opened, renderer: Renderer, monkeypatch: pytest.MonkeyPatch
) -> None:
    names = []
    for turn in range(4):
        view = replace(VIEW, pose=replace(VIEW.pose, heading_deg=float(turn)))
        names.append(find_places(renderer, shed, NOON, view, WHOLE))
        os.utime(cache_folder() / "pixels" / f"{names[-1]}.npz", (turn + 1.0, turn + 1.0))
    size = (cache_folder() / "pixels" / f"{names[0]}.npz").stat().st_size
    monkeypatch.setattr(cache, "MOST_PIXELS", 2.5 * size)
    keep_pixels(names[1], seen_places(renderer, VIEW, WHOLE))
    assert [load_pixels(name) is not None for name in names] == [False, True, False, True]


class Desk(FakeDesk):
    """Stops a task at a share."""

    def __init__(self) -> None:
        super().__init__()
        self.stop, self.put_off = False, 0

    def outdated(self, task: Task) -> bool:
        return self.stop

    def later(self, task: Task) -> None:
        self.put_off += 1


def test_the_children_pass_it_on(
    shed: Opened, renderer: Renderer, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The one that draws finds places, the one for light reckons, and the same picture is another then."""
    project, path = Project(light=NOON), str(tmp_path / "p.altana")
    for module in (lighting_module, pictures_module):
        monkeypatch.setattr(module, "open_project_models", lambda project, path: shed)
    desk = Desk()
    drawing, lighting = PicturesWorker(desk), LightingWorker(desk)  # type: ignore[arg-type]
    drawing(Task("models", 0, 0, OpenModels(project, path)))
    still = DrawPicture("still", VIEW, NOON, 12.0, True)
    drawing(Task("frame", 1, 3, still))
    drawing(Task("places:frame", 2, 5, FindPlaces(VIEW, NOON)))
    found = desk.answers[-1]
    assert isinstance(found, PlacesFound) and found.name == pixels_name(shed, NOON, VIEW, WHOLE)
    order = LightPlaces(project, path, "frame", found)
    desk.stop = True
    lighting(Task("places", 3, 5, order))
    assert desk.put_off == 1 and not any(isinstance(item, PlacesLit) for item in desk.answers)
    desk.stop = False
    lighting(Task("places", 3, 5, order))
    replies = [item for item in desk.answers if isinstance(item, PlacesLit)]
    assert [item.share for item in replies if item.more] == [0.25, 1.0]
    assert {item.picture for item in replies} == {"frame"} and [item.final for item in replies][-1]
    shares = [item.share for item in replies]
    assert shares == sorted(shares) and 2 < len(shares) < 30
    drawing(Task("frame", 4, 3, still))
    assert len(desk.pictures) == 2 and (desk.pictures[0] != desk.pictures[1]).any()
    # While something is dragged, and for small pictures, the map is enough.
    for look in ("coarse", "small"):
        drawing(Task("frame", 5, 3, replace(still, look=look)))
    stage = drawing._stage
    assert stage is not None and stage.lit == KNOWN and stage.renderer.pixel_light.uniforms() == {}
    drawing(Task("places:frame", 6, 5, FindPlaces(VIEW, NOON)))
    assert isinstance(desk.answers[-1], PlacesFound) and not desk.answers[-1].name
    # None found: what is under way is left off.
    count = len(desk.answers)
    lighting(Task("places", 7, 5, LightPlaces(project, path, "frame")))
    assert len(desk.answers) == count
    stage.renderer.close()
