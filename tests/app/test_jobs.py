"""Jobs of the trade done with mouse and keys as a stranger would, from the first press to the file.

``scripts/test --slow tests/app/test_jobs.py -n 0 -s`` prints how many presses, drags and typed values each
took, and what was waited for. The demo's sizes are small here, so that it is done in minutes.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from PIL import Image
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtWidgets import QApplication, QComboBox, QPushButton, QTableWidget

from altana.app.canvas.plan import PlanView
from altana.app.hand_over.shot_table import EXPECTED
from altana.app.shell.window import MainWindow
from altana.core.project import PAPER, PENCIL, Camera, Walk
from altana.render.film_file import film_facts
from tests.app.conftest import forget_what_was_made
from tests.app.hand import CONTROL, NONE, SHIFT, Hand, Lost

pytestmark = pytest.mark.slow
KEY = Qt.Key
CHOSEN = "the chosen rows"


@contextmanager
def at_work(window: MainWindow, job: str) -> Iterator[Hand]:
    """A hand at the window, with nothing made before; what it did is told at the end."""
    forget_what_was_made(window)
    window.handover.tone_button.setChecked(False)
    hand = Hand(window)
    yield hand
    told = {what: f" (told: {words})" for what, words in hand.told.items()}
    waits = ", ".join(f"{what} {seconds:.1f} s{told.get(what, '')}" for what, seconds in hand.waits.items())
    print(f"\n{job}: {hand.actions} actions; {waits or 'no waits'}")


@pytest.fixture
def hand(window: MainWindow, request: pytest.FixtureRequest) -> Iterator[Hand]:
    with at_work(window, request.node.name) as hand_at_work:
        yield hand_at_work


def active(window: MainWindow) -> Camera:
    camera = window.workspace.state.active
    assert camera is not None
    return camera


def walk_of(window: MainWindow) -> Walk:
    walk = window.workspace.state.walk
    assert walk is not None
    return walk


def place(hand: Hand, plan: PlanView, x: float, y: float) -> QPointF:
    point = hand.see(lambda: plan.to_screen(x, y))
    assert isinstance(point, QPointF)
    return point


def card(hand: Hand, name: str, modifier: Qt.KeyboardModifier = NONE) -> None:
    """Press a camera's card in the strip."""
    strip = hand.window.compose.strip

    def look() -> QPointF:
        camera = hand.window.workspace.bridge.project.camera_named(name)
        row = next(
            index for index, item in enumerate(strip.rows.rows) if getattr(item, "id", "") == camera.id
        )
        strip.view.scrollTo(strip.rows.index(row))
        QApplication.processEvents()
        return QPointF(strip.view.visualRect(strip.rows.index(row)).center())

    hand.at(strip.view.viewport(), hand.see(look), modifier)


def made(window: MainWindow, pattern: str) -> list[Path]:
    """What was made beside the project, without the last versions of it."""
    folder = window.files.out_folder("stills").parent
    files = [path for path in folder.rglob(pattern) if "before" not in path.parts and path.parent != folder]
    return sorted(path for path in files if not any(part.startswith(".") for part in path.parts))


def size_of(path: Path) -> tuple[int, int]:
    with Image.open(path) as picture:
        return picture.size


def unfold(hand: Hand, group: str, held: str) -> None:
    """Open a group of settings where it is folded: a press only where one is needed."""
    try:
        hand.find(held)
    except Lost:
        hand.press(f"{group}, fold or unfold")


def make(hand: Hand, pattern: str, count: int = 1) -> list[Path]:
    """Press the button of the sheet that is open, and wait for the files."""
    window = hand.window
    told = hand.see(lambda: window.making.sheet.expected.text())
    assert told, "the sheet says how long it takes"
    hand.press(window.making.sheet.go)
    hand.wait(
        lambda: not window.making.work.running and len(made(window, pattern)) >= count, pattern, told=told
    )
    return made(window, pattern)


def times_told(window: MainWindow) -> str:
    """How long the list says that the chosen rows take, each."""
    table = window.handover.table
    rows = sorted({index.row() for index in table.selectedIndexes()})
    return " + ".join(str(table.model().index(row, EXPECTED).data()) for row in rows)


def run_list(hand: Hand, entry: str) -> None:
    """Make rows of the list, and wait until they are made."""
    production = hand.window.handover.production
    told = hand.see(lambda: times_told(hand.window)) if entry == CHOSEN else ""
    if entry == CHOSEN:
        hand.press("Make chosen")
    else:
        hand.choose("Make", entry)
    hand.wait(lambda: production.running, "begins", 30)
    hand.wait(lambda: not production.running, "the run", told=told)


def along(hand: Hand, share: float) -> QPointF:
    """Where the route lies on the plan, after a share of its points."""
    desk = hand.window.walk_desk

    def look() -> QPointF:
        assert desk.line is not None
        points = desk.line.route.points
        x, y = points[round(share * (len(points) - 1)), :2].tolist()
        return desk.plan.to_screen(x, y)

    place = hand.see(look)
    assert isinstance(place, QPointF)
    return place


def at_share(rect: QRectF, across: float, down: float) -> QPointF:
    return QPointF(rect.left() + across * rect.width(), rect.top() + down * rect.height())


def stand(hand: Hand, eye: tuple[float, float], aim: tuple[float, float]) -> None:
    """Stand a camera on the plan, and aim it."""
    plan = hand.window.compose.plan
    hand.see(lambda: plan.fit_to([eye, aim, (eye[0] - 8.0, eye[1]), (eye[0] + 8.0, aim[1])]))
    before = len(hand.window.workspace.bridge.project.cameras)
    hand.drag(plan, place(hand, plan, *eye), place(hand, plan, *aim), SHIFT)
    focused = hand.see(lambda: hand.window.focusWidget())
    after = len(hand.window.workspace.bridge.project.cameras)
    assert after == before + 1, (
        f"no camera was stood; the keyboard is in {focused and focused.accessibleName()!r}"
    )


def test_round_the_building(window: MainWindow, hand: Hand) -> None:
    """1: two cameras on opposite sides, a bent route that looks at the building, a film, and a pencil
    drawing."""

    def job() -> None:
        card(hand, "Forecourt")
        card(hand, "Quay, morning", CONTROL)
        hand.key(KEY.Key_R, SHIFT)
        hand.search("look at the building all along")
        plan = window.walk_desk.plan
        # The desk comes to its size, and the plan to its drawing, before it is looked at.
        hand.wait(lambda: plan.drawing is not None and window.walk_desk.line is not None, "the plan")
        hand.rest(0.5)
        hand.see(lambda: plan.fit_to([(-75.0, -75.0), (75.0, 75.0)]))
        # The route is pulled round the building by its middle.
        hand.drag(plan, along(hand, 0.5), place(hand, plan, -26.0, 6.0))
        hand.choose("Film frames a second", "20")
        hand.enter("Film frames", "14")
        hand.enter("Width", "320")
        hand.key(KEY.Key_F2)
        hand.write("Round the building")
        hand.press("Make film")
        (film,) = make(hand, "*.mp4")
        facts = film_facts(film)
        assert (facts.frames, facts.width, facts.height, str(facts.rate)) == (14, 320, 180, "20")
        assert film.stem == "round-the-building"
        hand.key(KEY.Key_2, CONTROL)
        card(hand, "Forecourt")
        unfold(hand, "Drawn as", "Background of the picture")
        hand.choose(hand.find("Drawn as", QComboBox), "pencil")
        hand.choose("Background of the picture", "paper white")
        hand.key(KEY.Key_E, CONTROL)
        (drawing,) = make(hand, "*.png")
        with Image.open(drawing) as picture:
            assert picture.getpixel((5, 5)) > (240, 235, 225)
        shot = next(
            item for item in window.workspace.bridge.project.shots if item.subject == active(window).id
        )
        assert (shot.rendition, shot.background) == (PENCIL, PAPER)

    hand.perform(job)
    walk = walk_of(window)
    assert (
        [item.name for item in walk.looks] == ["the building"] and walk.keys[0].handle and walk.keys[1].handle
    )


def past_and_wide(
    hand: Hand, eye: tuple[float, float], aim: tuple[float, float], past: tuple[float, float]
) -> None:
    """Stand, take what stands before a place out of the way, and make a still of 2.2:1."""
    stand(hand, eye, aim)
    hand.key(KEY.Key_U)
    plan = hand.window.compose.plan
    hand.at(plan, place(hand, plan, *past))
    unfold(hand, "Format", "Proportion")
    hand.enter("Proportion", "2.2:1")
    hand.key(KEY.Key_E, CONTROL)
    (still,) = make(hand, "*.png")
    width, height = size_of(still)
    assert width == 1920 and width / height == pytest.approx(2.2, abs=0.002)


def test_past_the_glass(window: MainWindow, hand: Hand) -> None:
    """3: the hall from outside with its glass front out of the way, 2.2:1."""

    def job() -> None:
        past_and_wide(hand, (7.0, 27.0), (7.0, 12.0), (9.0, 18.0))

    hand.perform(job)
    # The front alone is cut, along its own plane.
    (cut,) = active(window).cuts
    assert cut.heading_deg == pytest.approx(180.0) and cut.name.startswith("Glass front")


def test_a_panorama_for_a_phone(window: MainWindow, hand: Hand) -> None:
    """4: the middle of the room, a draft, two eyes, taken by the host."""

    def job() -> None:
        card(hand, "Hall from the quay doors")
        hand.key(KEY.Key_B, SHIFT)
        hand.key(KEY.Key_F12, SHIFT)
        hand.enter("Width", "512")
        run_list(hand, CHOSEN)
        assert [size_of(path) for path in made(window, "*.jpg")] == [(512, 256)]
        hand.press("Results")
        verdict = window.handover.results.phone.verdict
        hand.wait(lambda: verdict.text().startswith("✓"), "what the host says", 20)
        hand.press("Stereo, eyes 64 mm apart")
        run_list(hand, CHOSEN)
        assert [size_of(path) for path in made(window, "*.jpg")] == [(512, 512)]
        hand.wait(lambda: verdict.text().startswith("✓"), "what the host says of two eyes", 20)

    hand.perform(job)


def fit_front(hand: Hand, eye: tuple[float, float], aim: tuple[float, float]) -> None:
    """Stand before a front, take it square and whole, and make a small test of it."""
    stand(hand, eye, aim)
    hand.key(KEY.Key_Q, SHIFT)
    hand.key(KEY.Key_E, CONTROL)
    sheet = hand.window.making.sheet
    assert sheet is not None
    hand.enter("Width", "400")
    hand.press("Make a test")
    hand.wait(lambda: not sheet.trial.running, "the test")
    assert [size_of(path) for path in made(hand.window, "*.png")] == [(400, 225)]
    assert sheet.trial.path is not None and not sheet.trial.picture.pixmap().isNull()


def test_the_front_and_the_tower(window: MainWindow, hand: Hand) -> None:
    """9 and 10: the front centred and square, a test and a larger one; the tower upright in 9:16."""

    def job() -> None:
        fit_front(hand, (3.0, -15.0), (6.0, -2.0))
        hand.enter("Width", "2560")
        make(hand, "*.png", 2)
        assert {size_of(path) for path in made(window, "*.png")} == {(400, 225), (2560, 1440)}
        camera = active(window)
        assert camera.heading_deg % 90.0 == pytest.approx(0.0, abs=1e-6) and camera.tilt_deg == 0.0
        hand.search("tower from the forecourt")
        unfold(hand, "Format", "Proportion")
        hand.choose("Formats", "Tall 9:16")
        hand.enter("Width", "3240")
        assert (active(window).width_px, active(window).height_px) == (3240, 5760)
        hand.key(KEY.Key_P)

    hand.perform(job)
    assert active(window).view().lean_deg() == pytest.approx(0.0, abs=1e-9)


def test_a_turntable_round_a_bench(window: MainWindow, hand: Hand) -> None:
    """5: round a bench, 25 a second, no pause, closing."""

    def job() -> None:
        # The bench in the foreground of the Frame.
        frame = window.compose.frame
        hand.at(frame, hand.see(lambda: at_share(frame.frame_rect(), 0.5, 0.8)))
        scene = window.workspace.studio.scene
        assert scene is not None
        name = scene.model.objects[scene.lookup.index[window.workspace.state.object_id]].name
        assert name.startswith("Bench")
        hand.key(KEY.Key_3, CONTROL)
        hand.press(f"Turntable: {name}")
        hand.enter("Film frames", "10")
        hand.enter("Width", "160")
        hand.press("Make film")
        (film,) = make(hand, "*.mp4")
        facts = film_facts(film)
        assert (facts.frames, facts.width, facts.height, str(facts.rate)) == (10, 160, 90, "25")

    hand.perform(job)
    walk = walk_of(window)
    assert walk.turntable is not None and walk.turntable.sweep_deg == 360.0
    # It closes: the film frame after the last would be the first.
    assert not walk.ease_in_s and not walk.ease_out_s and not any(key.dwell_s for key in walk.keys)


def test_print_and_kept_views(window: MainWindow, hand: Hand) -> None:
    """12 and 13: 10 × 7 inches; heights of eye and aim in millimetres, a typed lens, a name, there and
    back."""

    def job() -> None:
        hand.search("quay, morning")
        unfold(hand, "Format", "Proportion")
        hand.enter("Width", "10 x 7 in")
        assert (active(window).width_px, active(window).height_px) == (3000, 2100)
        hand.search("waiting hall to the water")
        hand.key(KEY.Key_T, CONTROL)
        hand.enter("Eye above floor", "1550 mm")
        hand.enter("Aim above floor", "1400 mm")
        hand.press("Move the camera")
        hand.enter("Focal length", "30")
        hand.key(KEY.Key_F2)
        hand.write("Hall, typed")
        camera = active(window)
        assert (camera.name, camera.focal_mm, camera.eye[2]) == ("Hall, typed", 30.0, pytest.approx(1.55))

    hand.perform(job)


def test_a_night_with_five_rows(window: MainWindow, hand: Hand, tmp_path: Path) -> None:
    """14: five chosen rows, a winter's day, a command of one's own at the end."""
    over = tmp_path / "over"

    def job() -> None:
        hand.key(KEY.Key_4, CONTROL)
        hand.press(hand.find("Shot list", QPushButton))
        table = hand.find("Shot list", QTableWidget)
        for number in (0, 1, 3, 5, 7):

            def look(number: int = number) -> QPointF:
                index = table.model().index(number, 2)
                table.scrollTo(index)
                QApplication.processEvents()
                return QPointF(table.visualRect(index).center())

            hand.at(table.viewport(), hand.see(look), CONTROL if number else NONE)
        unfold(hand, "Making", "Own date")
        hand.press("Proof")
        hand.enter("Scale", "10")
        hand.enter("Own date", "2026-12-21")
        hand.choose("What happens when all is made", "Run a command…")
        hand.write(f"touch {over}")
        run_list(hand, CHOSEN)

    hand.perform(job)
    assert len([path for path in made(window, "*.*") if path.suffix in (".png", ".tif")]) == 5
    assert over.exists()
    production = window.handover.production
    production.end_action, production.end_command = "nothing", ""


def test_composing_and_turning_all_round(window: MainWindow, hand: Hand) -> None:
    """15 and 17: a sitting eye and 7:5; a quarter turn exactly while the panorama is live."""

    def job() -> None:
        stand(hand, (5.0, 4.0), (9.0, 14.0))
        hand.press("Seated")
        unfold(hand, "Format", "Proportion")
        hand.enter("Proportion", "7:5")
        camera = active(window)
        assert camera.eye[2] == pytest.approx(
            1.2, abs=0.02
        ) and camera.width_px / camera.height_px == pytest.approx(1.4, abs=0.001)
        hand.search("waiting hall to the water")
        hand.key(KEY.Key_Z)
        before = active(window).heading_deg
        hand.key(KEY.Key_Right, CONTROL | SHIFT)
        assert active(window).heading_deg == pytest.approx(before + 90.0, abs=1e-9)
        hand.key(KEY.Key_Escape)

    hand.perform(job)


def test_an_early_camera_and_a_far_bound(window: MainWindow, hand: Hand) -> None:
    """18 and 19: a step outside the wall, gaps listed for the modeller; a far bound typed in feet."""

    def job() -> None:
        stand(hand, (7.0, 2.0), (7.0, 14.0))
        hand.key(KEY.Key_Q)
        hand.enter("Focal length", "18")
        hand.key(KEY.Key_Y)
        hand.search("list gaps for whoever")
        hand.wait(lambda: not window.making.work.running and made(window, "gaps.html"), "gaps", 120)
        hand.search("forecourt")
        unfold(hand, "Cut-away", "Just clear")
        hand.press("Hide beyond")
        hand.enter("Far", "120 ft")
        assert active(window).far_m == pytest.approx(36.576)

    hand.perform(job)
    (page,) = made(window, "gaps.html")
    (table,) = made(window, "gaps.csv")
    head = table.read_text("utf-8").splitlines()[0]
    assert "camera" in head.lower() and "gaps to be closed" in page.read_text("utf-8")
