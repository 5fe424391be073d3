"""Jobs of the trade by mouse and keys: up every stair, a print with its region, a small room brightened,
stills looked at by pixel."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import pytest
from PySide6.QtCore import QPointF
from PySide6.QtWidgets import QLabel, QTableWidget

from altana.app.canvas.picture_view import ACTUAL
from altana.app.shell.window import MainWindow
from altana.render.film_file import film_facts, film_frame_at
from tests.app.hand import ALT, CONTROL, Hand
from tests.app.test_jobs import CHOSEN, KEY, active, at_work, card, made, make, run_list, size_of, unfold
from tests.conftest import picture_at

pytestmark = pytest.mark.slow


@pytest.fixture
def hand(window: MainWindow, request: pytest.FixtureRequest) -> Iterator[Hand]:
    with at_work(window, request.node.name) as made_by:
        yield made_by


def test_up_every_stair(window: MainWindow, hand: Hand) -> None:
    """16: two flights with a landing and a spiral, at eye height, looking about at an object, 24 a second, a
    date stamp, AVI."""

    def up(stair: str, looked_at: str) -> None:
        hand.search(f"walk up {stair}")
        hand.wait(lambda: getattr(window.workspace.state.walk, "name", "") == f"Up {stair}", "the stair", 20)
        hand.search(f"look at {looked_at}")

    def job() -> None:
        up("Stair", "bench 5")
        hand.choose("Film frames a second", "24")
        hand.enter("Width", "160")
        hand.press("Make film")
        hand.press("Proof")
        hand.choose("Kind", "AVI, motion JPEG: for old players")
        hand.choose("None", "Date and local time of the sun")
        (first,) = make(hand, "*.avi")
        up("Tower stair", "lookout roof")
        hand.press("Make film")
        second = next(path for path in make(hand, "*.avi", 2) if path != first)
        for film, walk in zip((first, second), window.workspace.bridge.project.walks[-2:], strict=True):
            facts = film_facts(film)
            assert (str(facts.rate), facts.width, facts.height) == ("24", 160, 90)
            assert facts.frames == round(walk.seconds * 24) and len(walk.looks) == 1
            assert film_frame_at(film, walk.seconds / 2, facts.rate) is not None

    hand.perform(job, 900.0)


def print_with_region(hand: Hand, rows: str) -> None:
    """The shown camera as 10 × 7 inches: a region as a draft, then the whole and the region at print
    resolution."""
    window = hand.window
    view = window.handover.results.picture
    unfold(hand, "Format", "Proportion")
    hand.enter("Width", "10 x 7 in")
    hand.key(KEY.Key_F12)
    hand.key(KEY.Key_D, CONTROL)
    unfold(hand, "Size", "Region…")
    hand.press("Region…")
    hand.wait(lambda: view.image is not None, "the picture", 30)
    box = hand.see(view.picture_rect)
    corner, wide, high = box.topLeft(), box.width(), box.height()
    hand.drag(view, corner + QPointF(wide * 0.4, high * 0.4), corner + QPointF(wide * 0.6, high * 0.6))
    hand.press("Test pictures")
    hand.wait(lambda: any(path.parent.name == "tests" for path in made(window, "*.png")), "the draft", 120)
    run_list(hand, rows)
    sizes = sorted(size_of(path) for path in made(window, "*.png") if path.parent.name != "tests")
    assert sizes == [(pytest.approx(600, abs=10), pytest.approx(420, abs=8)), (3000, 2100)]
    hand.press("Results")


def test_a_print_and_its_region(window: MainWindow, hand: Hand) -> None:
    """12: an outside view of 10 × 7 inches; a region as a draft; the whole; the region at print resolution
    beside it."""

    def job() -> None:
        card(hand, "Quay, morning")
        print_with_region(hand, "The rows of Quay, morning (2)")

    hand.perform(job, 900.0)
    camera = active(window)
    assert (camera.width_px, camera.height_px) == (3000, 2100)


def brightened(hand: Hand) -> None:
    """The shown camera as a row, made, then two stops brighter, highlights, contrast, a curve; written
    again."""
    window = hand.window
    hand.key(KEY.Key_F12)
    run_list(hand, CHOSEN)
    (picture,) = made(window, "*.png")
    before = picture_at(picture).astype(float)
    hand.press("Results")
    hand.press("Tone")
    tone = window.handover.tone
    hand.wait(lambda: tone.fields["exposure_ev"].isEnabled(), "the master", 30)
    for name, value in (("Exposure", "2"), ("Highlights", "-0.5"), ("Contrast", "0.2")):
        hand.enter(name, value)
    curve = tone.curve
    middle = hand.see(lambda: QPointF(curve.rect().center()))
    hand.drag(curve, middle, middle - QPointF(0.0, 12.0))
    hand.press("Write the files again")
    hand.wait(lambda: (picture_at(picture) != before).any(), "the file again", 60)
    after = picture_at(picture).astype(float)
    assert np.median(after) > np.median(before) + 20.0
    # Nothing is cut black: the whole of the wall is seen.
    assert (after.max(axis=2) < 3).mean() < 0.02
    camera = active(window)
    assert size_of(picture) == (camera.width_px, camera.height_px)


def square_room(hand: Hand) -> None:
    """The room that one stands in square and centred, at mid height, all of its far wall, wide and square."""
    window = hand.window
    hand.key(KEY.Key_Q)
    hand.key(KEY.Key_B)
    hand.key(KEY.Key_4, ALT)
    hand.key(KEY.Key_Y)
    wide = active(window)
    hand.choose("Another format for this camera", "Square 1:1")
    hand.key(KEY.Key_Y)
    camera = active(window)
    assert camera.id == wide.id and (camera.width_px, camera.height_px) == (1080, 1080)
    assert camera.heading_deg % 90.0 == pytest.approx(0.0, abs=1e-6)
    # What is free to its left and right.
    told = hand.find("To side walls").parentWidget().findChildren(QLabel)
    free = next(label.text() for label in told if " · " in label.text() and label.text().endswith("m"))
    left, right = (float(part.split()[0]) for part in free.split(" · "))
    assert left == pytest.approx(right, abs=0.02)


def test_a_small_room_brightened(window: MainWindow, hand: Hand) -> None:
    """20: square, at mid height, wide and square formats, all of the far wall; two stops brighter,
    highlights, contrast, a curve."""

    def job() -> None:
        card(hand, "Ticket office")
        square_room(hand)
        brightened(hand)

    hand.perform(job, 600.0)


def test_five_stills_looked_at(window: MainWindow, hand: Hand) -> None:
    """8: five lenses of one's own large beside each other; five stills from three places, then looked at
    pixel by pixel."""

    def job() -> None:
        hand.search("waiting hall to the water")
        hand.choose("Tries", "Ladder of lenses of one's own…")
        hand.write("14, 20, 28, 50, 85")
        hand.wait(lambda: window.compose.pictures.comparing, "five lenses", 30)
        assert [round(item.focal_mm) for item in active(window).variants] == [14, 20, 28, 50, 85]
        hand.press("Back to the Frame")
        for name in ("Forecourt", "Quay, morning", "Gallery, seated", "Lookout"):
            card(hand, name, CONTROL)
        hand.press("Make 5 stills…")
        hand.press("Proof")
        hand.choose("Size", "Quarter")
        make(hand, "*.png", 5)
        hand.key(KEY.Key_4, CONTROL)
        hand.press("Results")
        results = window.handover.results
        hand.wait(lambda: results.picture.image is not None, "the picture", 30)
        hand.press("Actual pixels")
        assert hand.see(lambda: results.picture.mode) == ACTUAL

    hand.perform(job, 600.0)
    assert len(made(window, "*.png")) == 5
    assert {size_of(path) for path in made(window, "*.png")} <= {(480, 270)}
    assert isinstance(window.handover.table, QTableWidget)
