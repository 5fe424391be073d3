"""More jobs of the trade by mouse and keys: lines first, a route film, sets of panoramas, a panorama
toned."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import QPointF

from altana.app.shell.window import MainWindow
from altana.render.film_file import film_facts, film_frame_at
from tests.app.hand import CONTROL, SHIFT, Hand
from tests.app.test_jobs import (
    CHOSEN,
    KEY,
    active,
    at_work,
    card,
    made,
    make,
    place,
    run_list,
    size_of,
    unfold,
    walk_of,
)
from tests.conftest import picture_at

pytestmark = pytest.mark.slow


@pytest.fixture
def hand(window: MainWindow, request: pytest.FixtureRequest) -> Iterator[Hand]:
    with at_work(window, request.node.name) as made_by:
        yield made_by


def middle(hand: Hand) -> QPointF:
    place = hand.see(lambda: hand.window.compose.frame.frame_rect().center())
    assert isinstance(place, QPointF)
    return place


def test_lines_first(window: MainWindow, hand: Hand) -> None:
    """2: the drawing's lines, a camera slid, stepped and circled along one axis, 28 mm against 75 mm beside
    each other."""

    def job() -> None:
        frame = window.compose.frame
        # The drawing's lines are on from the beginning.
        assert window.workspace.lines.shown
        hand.search("forecourt")
        for tool, by in (
            ("Slide", QPointF(60.0, 25.0)),
            ("Step", QPointF(6.0, -40.0)),
            ("Circle", QPointF(50.0, 20.0)),
        ):
            before = active(window)
            hand.press(tool)
            hand.drag(frame, middle(hand), middle(hand) + by, SHIFT)
            after = active(window)
            assert after.eye != before.eye and after.eye[2] == pytest.approx(before.eye[2], abs=1e-6), tool
        hand.choose("Tries", "Ladder of lenses of one's own, the subject as large…")
        hand.write("28, 75")
        hand.wait(lambda: window.compose.pictures.comparing, "both beside each other", 30)
        # 28 mm is the camera as it is.
        assert active(window).focal_mm == 28.0
        assert [round(item.focal_mm) for item in active(window).variants] == [75]
        assert all("mm" in item.name for item in active(window).variants)

    hand.perform(job)


def test_a_route_film(window: MainWindow, hand: Hand) -> None:
    """6: a route with places through the hall, 34 s at 25, the film's size typed; it opens and seeks
    everywhere."""

    def job() -> None:
        hand.key(KEY.Key_3, CONTROL)
        plan = window.walk_desk.plan
        hand.wait(lambda: plan.drawing is not None, "the plan")
        hand.see(lambda: plan.fit_to([(-4.0, -4.0), (30.0, 16.0)]))
        hand.key(KEY.Key_R)
        for at in ((4.0, 4.0), (10.0, 6.5), (16.0, 9.0), (22.0, 6.0)):
            hand.at(plan, place(hand, plan, *at))
        hand.key(KEY.Key_Return)
        assert len(walk_of(window).keys) == 4
        hand.enter("Length", "34")
        hand.enter("Width", "160")
        hand.press("Make film")
        hand.press("Proof")
        (film,) = make(hand, "*.mp4")
        facts = film_facts(film)
        assert (facts.frames, facts.width, facts.height, str(facts.rate)) == (850, 160, 90, "25")
        # It is sought anywhere.
        for second in (0.0, 17.0, 33.96):
            assert film_frame_at(film, second, facts.rate) is not None

    hand.perform(job)
    assert walk_of(window).seconds == 34.0


def test_a_set_of_panoramas(window: MainWindow, hand: Hand) -> None:
    """7: three places, one moved and made again; the sun of a day at 16:45, a picture behind, in one run."""
    folder = window.files.out_folder("stills").parent
    Image.fromarray(np.full((40, 80, 3), (90, 120, 200), np.uint8)).save(folder / "lake.png")

    def job() -> None:
        card(hand, "Hall from the quay doors")
        card(hand, "Forecourt", CONTROL)
        card(hand, "Quay, morning", CONTROL)
        hand.key(KEY.Key_L, SHIFT)
        hand.enter("Date", "2026-10-03")
        hand.enter("Time", "16:45")
        unfold(hand, "Surroundings", "Choose a picture…")
        hand.press("Choose a picture…")
        hand.write(str(folder / "lake.png"))
        hand.key(KEY.Key_F12, SHIFT)
        hand.enter("Width", "256")
        run_list(hand, CHOSEN)
        assert [size_of(path) for path in made(window, "*.jpg")] == [(256, 128)] * 3
        # One place moved is out of date, and is made again alone.
        hand.key(KEY.Key_2, CONTROL)
        card(hand, "Quay, morning")
        hand.key(KEY.Key_Up, SHIFT)
        hand.key(KEY.Key_4, CONTROL)
        run_list(hand, CHOSEN)

    before = {item.id for item in window.workspace.bridge.project.shots}
    hand.perform(job)
    project = window.workspace.bridge.project
    rows = [item for item in project.shots if item.id not in before]
    assert len(rows) == 3 and {item.kind for item in rows} == {"panorama"}
    assert (project.light.date, project.light.hour) == ("2026-10-03", 16.75)
    assert project.light.surroundings.file and project.light.surroundings.use == "background"
    # Blue above the horizon, where the picture stands.
    (quay,) = [path for path in made(window, "*.jpg") if "quay-morning" in path.name]
    above = picture_at(quay)[4:20].reshape(-1, 3).mean(axis=0)
    assert above[2] > above[0] + 40.0


def test_a_panorama_toned(window: MainWindow, hand: Hand) -> None:
    """11: a panorama with contrast, highlights, glow, sharpening and a colour table set, and the file written
    from its master."""

    folder = window.files.out_folder("stills").parent
    (folder / "evening.cube").write_text("LUT_1D_SIZE 2\n0.02 0 0.04\n1 0.95 0.9\n")

    def job() -> None:
        card(hand, "Hall from the quay doors")
        hand.key(KEY.Key_F12, SHIFT)
        hand.enter("Width", "512")
        run_list(hand, CHOSEN)
        (panorama,) = made(window, "*.jpg")
        before = picture_at(panorama).astype(int)
        hand.press("Results")
        hand.press("Tone")
        for name, value in (("Contrast", "0.3"), ("Highlights", "-0.5"), ("Glow", "0.2"), ("Sharpen", "0.5")):
            hand.enter(name, value)
        hand.choose("Colour table", "evening")
        hand.press("Write the files again")
        hand.wait(lambda: (picture_at(panorama).astype(int) != before).any(), "the file again", 60)
        assert size_of(panorama) == (512, 256)

    hand.perform(job)
