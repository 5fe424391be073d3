"""Jobs of the trade on a real house that nobody here made, by mouse and keys, from the file itself to what
was made of it."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QApplication, QComboBox

from altana.app.shell.window import COMPOSE, MainWindow
from altana.core.project import PAPER, PENCIL
from altana.render.film_file import film_facts
from tests.app.conftest import until
from tests.app.hand import CONTROL, SHIFT, Hand
from tests.app.test_jobs import (
    KEY,
    active,
    along,
    at_work,
    card,
    fit_front,
    made,
    make,
    past_and_wide,
    place,
    size_of,
    stand,
    unfold,
    walk_of,
)
from tests.app.test_jobs_pictures import brightened, print_with_region, square_room

HOUSE = Path(__file__).resolve().parents[3] / "shared/models/real-house.ifc"
pytestmark = [
    pytest.mark.slow,
    pytest.mark.skipif(
        not HOUSE.is_file(), reason="the real house lies beside the project on the founders' machines only"
    ),
]


@pytest.fixture(scope="module")
def house(application: QApplication, tmp_path_factory: pytest.TempPathFactory) -> Iterator[MainWindow]:
    folder = tmp_path_factory.mktemp("house")
    shutil.copyfile(HOUSE, folder / "house.ifc")
    window = MainWindow(settings=QSettings(str(folder / "settings.ini"), QSettings.Format.IniFormat))
    window.resize(1280, 800)
    window.show()
    assert window.files.open_path(folder / "house.ifc")
    until(lambda: window.workspace.studio.scene is not None, 120)
    assert window.files.save_to(folder / "house.altana")
    until(lambda: window.workspace.studio.scene is not None and window.compose.plan.drawing is not None, 120)
    window.activateWindow()
    yield window
    window.workspace.bridge.document.mark_saved()
    window.close()


@pytest.fixture
def hand(house: MainWindow, request: pytest.FixtureRequest) -> Iterator[Hand]:
    house.going.choose_desk(COMPOSE)
    with at_work(house, request.node.name) as made_by:
        yield made_by


def test_round_the_house(house: MainWindow, hand: Hand) -> None:
    """1: two cameras on opposite sides, a route bent round the house that looks at it, a film, a drawing in
    pencil."""

    def job() -> None:
        stand(hand, (6.0, -14.0), (6.0, 5.0))
        first = active(house).name
        stand(hand, (6.0, 24.0), (6.0, 5.0))
        card(hand, first, CONTROL)
        hand.key(KEY.Key_R, SHIFT)
        hand.search("look at the building all along")
        plan = house.walk_desk.plan
        hand.wait(lambda: plan.drawing is not None and house.walk_desk.line is not None, "the plan")
        hand.rest(0.5)
        hand.see(lambda: plan.fit_to([(-45.0, -45.0), (45.0, 45.0)]))
        hand.drag(plan, along(hand, 0.5), place(hand, plan, 34.0, 5.0))
        hand.enter("Film frames", "14")
        hand.enter("Width", "320")
        hand.key(KEY.Key_F2)
        hand.write("Round the house")
        hand.press("Make film")
        (film,) = make(hand, "*.mp4")
        facts = film_facts(film)
        assert (facts.frames, facts.width, facts.height) == (14, 320, 180) and film.stem == "round-the-house"
        hand.key(KEY.Key_2, CONTROL)
        card(hand, first)
        unfold(hand, "Drawn as", "Background of the picture")
        hand.choose(hand.find("Drawn as", QComboBox), "pencil")
        hand.choose("Background of the picture", "paper white")
        hand.key(KEY.Key_E, CONTROL)
        (drawing,) = make(hand, "*.png")
        assert size_of(drawing) == (1920, 1080)

    hand.perform(job)
    shot = next(item for item in house.workspace.bridge.project.shots if item.subject == active(house).id)
    assert (shot.rendition, shot.background) == (PENCIL, PAPER)
    line = house.walk_desk.line
    assert line is not None and [item.name for item in walk_of(house).looks] == ["the building"]
    # It goes round, not through: the eye keeps out of the house all the way.
    points = line.route.points[:, :2]
    assert not ((points > 0.0) & (points < (12.0, 10.0))).all(axis=1).any()


def test_a_turntable_round_the_house(house: MainWindow, hand: Hand) -> None:
    """5: round one's own house, 25 a second, closing."""

    def job() -> None:
        hand.key(KEY.Key_3, CONTROL)
        hand.press("Turntable: whole building")
        hand.enter("Film frames", "8")
        hand.enter("Width", "160")
        hand.press("Make film")
        hand.press("Proof")
        (film,) = make(hand, "*.mp4")
        facts = film_facts(film)
        assert (facts.frames, facts.width, str(facts.rate)) == (8, 160, "25")

    hand.perform(job)
    table = walk_of(house).turntable
    assert table is not None and table.sweep_deg == 360.0 and table.radius_m > 8.0


def test_composing_in_a_room(house: MainWindow, hand: Hand) -> None:
    """15: a sitting eye in a room found by its name, 7:5, thirds."""

    def job() -> None:
        hand.search("stand in Wohnen")
        hand.press("Seated")
        unfold(hand, "Format", "Proportion")
        hand.enter("Proportion", "7:5")
        hand.press("Back to wall")

    hand.perform(job)
    camera = active(house)
    scene = house.workspace.studio.scene
    assert scene is not None and scene.model.room_at(camera.eye) is not None
    assert camera.eye[2] - (scene.floor_m(camera) or 0.0) == pytest.approx(1.2, abs=0.02)
    assert camera.width_px / camera.height_px == pytest.approx(1.4, abs=0.001) and camera.guides == (
        "thirds",
    )
    assert not scene.footing(camera.eye).trouble


def test_an_early_camera_in_the_house(house: MainWindow, hand: Hand) -> None:
    """18: one-point inside, a wide lens, a step outside the wall, a list of gaps for the modeller."""

    def job() -> None:
        hand.search("stand in Schlafzimmer")
        hand.key(KEY.Key_Q)
        hand.enter("Focal length", "35")
        hand.key(KEY.Key_Y)
        hand.search("list gaps for whoever")
        hand.wait(lambda: not house.making.work.running and made(house, "gaps.html"), "gaps", 120)

    hand.perform(job)
    camera = active(house)
    assert camera.heading_deg % 90.0 == pytest.approx(0.0, abs=1e-6) and camera.focal_mm == 35.0
    assert camera.bounded
    (table,) = made(house, "gaps.csv")
    assert "camera" in table.read_text("utf-8").splitlines()[0].lower()


def test_past_a_wall_of_the_house(house: MainWindow, hand: Hand) -> None:
    """3: a wide picture of a room from outside, the wall before it out of the way and nothing else, 2.2:1."""

    def job() -> None:
        past_and_wide(hand, (3.0, -7.0), (3.0, 4.0), (3.0, 2.0))

    hand.perform(job)
    camera = active(house)
    assert len(camera.cuts) == 1 and camera.cuts[0].heading_deg % 90.0 == pytest.approx(0.0, abs=0.1)
    assert camera.near_m is None


def test_the_front_of_the_house(house: MainWindow, hand: Hand) -> None:
    """9: its front square and centred, a small test and a larger one."""

    def job() -> None:
        fit_front(hand, (3.0, -15.0), (6.0, -1.0))
        hand.enter("Width", "2560")
        hand.press(house.making.sheet.go)
        hand.wait(
            lambda: (
                not house.making.work.running
                and any(size_of(path) == (2560, 1440) for path in made(house, "*.png"))
            ),
            "the larger one",
        )

    hand.perform(job)
    camera = active(house)
    assert camera.heading_deg == pytest.approx(0.0, abs=1e-6) and camera.tilt_deg == 0.0
    # The front's middle lies in the picture's, by shift from where one stands: 12 m wide, from 0 to 12.
    (across, _, _), *_ = camera.view().project(np.array([[6.0, 0.0, 1.6]])).tolist()
    assert across == pytest.approx(camera.width_px / 2, abs=0.02 * camera.width_px)


def test_a_print_of_the_house(house: MainWindow, hand: Hand) -> None:
    """12: 10 × 7 inches from outside, a region of it, both at print resolution."""

    def job() -> None:
        stand(hand, (-6.0, -9.0), (5.0, 3.0))
        print_with_region(hand, "The rows of " + active(house).name + " (2)")

    hand.perform(job, 900.0)


def test_up_the_stair_of_the_house(house: MainWindow, hand: Hand) -> None:
    """16: its winding stair, looking about at an object, 24 a second, a stamp, AVI."""

    def job() -> None:
        hand.search("walk up wendeltreppe")
        hand.wait(
            lambda: getattr(house.workspace.state.walk, "name", "") == "Up Wendeltreppe", "the stair", 20
        )
        hand.choose("Film frames a second", "24")
        hand.enter("Width", "160")
        hand.press("Make film")
        hand.press("Proof")
        hand.choose("Kind", "AVI, motion JPEG: for old players")
        hand.choose("None", "Date and local time of the sun")
        (film,) = make(hand, "*.avi")
        facts = film_facts(film)
        assert (facts.frames, str(facts.rate), facts.width) == (round(walk_of(house).seconds * 24), "24", 160)

    hand.perform(job)
    line = house.walk_desk.line
    assert line is not None
    # At eye height from the ground floor to the one above, and never jumping.
    height = line.route.points[:, 2]
    assert height[0] == pytest.approx(1.6, abs=0.01) and height[-1] == pytest.approx(4.3, abs=0.02)
    assert np.abs(np.diff(height)).max() < 0.05


def test_a_small_room_of_the_house(house: MainWindow, hand: Hand) -> None:
    """20: the bathroom square and centred, wide and square, all of its far wall; two stops brighter,
    contrast, a curve."""

    def job() -> None:
        scene = house.workspace.studio.scene
        assert scene is not None
        x, y = np.mean(
            next(room for room in scene.model.rooms if room.name == "Bad").outline, axis=0
        ).tolist()
        stand(hand, (x, y), (x + 0.8, y))
        square_room(hand)
        brightened(hand)

    hand.perform(job, 600.0)
    assert active(house).heading_deg % 90.0 == pytest.approx(0.0, abs=1e-6)
