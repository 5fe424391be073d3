"""Cut-away, verticals and checks in the window: settings, plan and section, Frame, strip and the page of all
checks."""

from __future__ import annotations

import math
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu

from altana.app.canvas.aids import AIDS, hatched
from altana.app.shell.window import MODEL, MainWindow
from altana.core.edits.bounds import near_fixed, with_far, with_near
from altana.core.edits.cameras import add_camera, change_camera, set_camera
from altana.core.project import Camera
from tests.app.conftest import drag, enter, menu_of, press, until

FRONT = Camera("", "Front, angled", (16.0, 27.0, 1.5), 215.0, focal_mm=24.0, aim_m=20.0, ev=12.5)
OFFICE = Camera("", "Office across", (1.1, 10.8, 1.6), 270.0, focal_mm=35.0, aim_m=1.05, inside=True)


def active(window: MainWindow) -> Camera:
    camera = window.workspace.state.active
    assert camera is not None
    return camera


def stand(window: MainWindow, camera: Camera) -> Camera:
    """Add a camera and choose it."""
    window.workspace.state.select(window.workspace.bridge.apply_adding("x", lambda p: add_camera(p, camera)))
    return active(window)


def unfold(window: MainWindow, name: str) -> None:
    group = window.compose.settings.groups[name]
    if group.folded:
        group.fold()


def checked(window: MainWindow) -> None:
    """Wait until the shown camera was looked at as it stands."""
    until(lambda: window.compose.book.of(active(window)) is not None, 40)


# ---------------------------------------------------------------------- verticals


def test_a_camera_kept_plumb_rises_when_it_is_turned_up(window: MainWindow) -> None:
    unfold(window, "verticals")
    panel, frame = window.compose.settings, window.compose.frame
    press(panel.verticals.kept)
    assert active(window).kept_plumb
    frame.choose_way("turn")
    centre = frame.frame_rect().center()
    drag(frame, centre, centre + QPointF(0, 60))
    camera = active(window)
    assert camera.tilt_deg == 0.0
    assert camera.rise_mm > 2.0
    assert camera.view().lean_deg() == 0.0
    enter(panel.direction.tilt, "70")
    limit = window.workspace.bridge.project.limits.steepest_rise_deg
    assert active(window).tilt_deg == 0.0
    assert math.degrees(math.atan2(active(window).rise_mm, active(window).focal_mm)) == pytest.approx(limit)
    press(panel.verticals.kept)
    enter(panel.direction.tilt, "10")
    assert active(window).tilt_deg == 10.0


def test_new_cameras_are_kept_plumb_unless_told_otherwise(window: MainWindow) -> None:
    for kept in (True, False):
        if window.workspace.state.plumb_new != kept:
            window.cameras.toggle_plumb_new()
        window.compose.arm(True)
        drag(
            window.compose.plan,
            window.compose.plan.to_screen(9.0, 5.0),
            window.compose.plan.to_screen(9.0, 9.0),
        )
        assert active(window).kept_plumb is kept
    window.cameras.toggle_plumb_new()


def test_rise_is_typed_in_mm_or_as_a_share_and_dragged_in_the_frame(window: MainWindow) -> None:
    unfold(window, "verticals")
    panel, frame = window.compose.settings, window.compose.frame
    enter(panel.verticals.rise, "20 %")
    assert active(window).rise_mm == pytest.approx(0.2 * 20.25)
    enter(panel.verticals.cross, "-3")
    assert active(window).cross_mm == -3.0
    assert panel.verticals.shares.text().startswith("+20 %")
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", rise_mm=0.0, cross_mm=0.0))
    frame.setFocus()
    QTest.keyClick(frame, Qt.Key.Key_6)
    assert frame.way == "rise"
    rect = frame.frame_rect()
    before = active(window)
    drag(frame, rect.center(), rect.center() + QPointF(0, rect.height() * 0.25))
    after = active(window)
    # What was in the middle went down a quarter of the frame with the pointer.
    assert after.rise_mm == pytest.approx(0.25 * 20.25, abs=0.15)
    assert (after.eye, after.heading_deg, after.tilt_deg) == (before.eye, before.heading_deg, before.tilt_deg)
    assert window.workspace.bridge.document.undo_label == "Rise and cross"
    QTest.keyClick(frame, Qt.Key.Key_Right)
    frame.nudges.end()
    assert active(window).cross_mm == pytest.approx(0.25)
    frame.choose_way("turn")


def test_roll_to_nothing_and_plumb_by_half_keep_the_subject(window: MainWindow) -> None:
    unfold(window, "verticals")
    panel = window.compose.settings
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", tilt_deg=12.0, roll_deg=3.0))
    press(panel.verticals.roll_zero)
    assert active(window).roll_deg == 0.0
    panel.verticals.amount.setValue(50)
    press(panel.verticals.plumb)
    assert active(window).tilt_deg == pytest.approx(6.0)
    panel.verticals.amount.setValue(100)
    press(panel.verticals.plumb)
    assert active(window).tilt_deg == 0.0
    assert active(window).rise_mm == pytest.approx(24.0 * math.tan(math.radians(12.0)), abs=1e-6)


def test_the_section_aims_a_plumb_camera_by_its_rise(window: MainWindow) -> None:
    section = window.compose.section
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", kept_plumb=True, aim_m=6.0))
    until(lambda: section.drawing is not None and not section.leaves(active(window), section.drawing))
    camera = active(window)
    place = section.place_of(camera)
    drag(
        section,
        section.to_screen(place[0] + 6.0, place[1]),
        section.to_screen(place[0] + 6.0, place[1] + 1.5),
    )
    assert active(window).tilt_deg == 0.0
    assert active(window).rise_mm == pytest.approx(24.0 * 0.25, abs=0.4)


def test_facts_say_how_many_points_and_what_is_off(window: MainWindow) -> None:
    checked(window)
    facts = window.compose.facts
    assert "1-point" in facts.labels["points"].text()
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", heading_deg=9.0))
    assert "2-point" in facts.labels["points"].text()
    assert "9.0° off" in facts.labels["points"].text()
    window.workspace.state.select("cam-08")
    checked(window)
    until(lambda: "plumb" in facts.buttons["lean"].text())
    assert "px" in facts.buttons["lean"].toolTip()
    press(facts.buttons["lean"])
    checked(window)
    until(lambda: facts.buttons["lean"].isHidden())
    assert "lean <b>0.0°" in facts.labels["lean"].text()


# ---------------------------------------------------------------------- near and far


def test_a_bound_is_fixed_in_the_building_and_let_go(window: MainWindow) -> None:
    unfold(window, "cut")
    cut, plan = window.compose.settings.cut, window.compose.plan
    press(cut.near_on)
    enter(cut.near, "3")
    press(cut.near_fixed)
    assert active(window).near_at == pytest.approx((7.0, 4.3, 1.6))
    # The eye steps back: the bound stays where it is.
    drag(
        plan, plan.to_screen(7.0, 1.3), plan.to_screen(7.0, 0.6), modifier=Qt.KeyboardModifier.ControlModifier
    )
    camera = active(window)
    assert camera.eye[1] == pytest.approx(0.6, abs=0.1)
    assert camera.eye[1] + (camera.near or 0.0) == pytest.approx(4.3, abs=1e-6)
    assert cut.near.value == pytest.approx(camera.near)
    # Dragged on the plan it stays fixed, at its new place.
    drag(
        plan,
        plan.cameras.bounds.on_axis(camera, camera.near or 0.0),
        plan.cameras.bounds.on_axis(camera, 5.0),
    )
    assert active(window).near_at is not None
    assert active(window).near == pytest.approx(5.0, abs=0.08)
    press(cut.near_fixed)
    assert active(window).near_at is None
    window.workspace.bridge.apply(
        "x",
        lambda p: change_camera(
            p, "cam-01", lambda c: replace(near_fixed(with_near(c, 1.0), True), eye=(7.0, 6.0, 1.6))
        ),
    )
    assert "behind the eye" in cut.removed.text()


@pytest.mark.slow
@pytest.mark.slow
def test_past_what_stands_ahead_lists_what_each_bound_opens(window: MainWindow) -> None:
    stand(window, FRONT)
    menu = menu_of(window.compose.settings.cut.past)
    texts = [action.text() for action in menu.actions()]
    assert any("Glass front" in text and "opens" in text for text in texts)
    # The front stands obliquely: the wall cut along it is proposed first, and opens less.
    front = [text for text in texts if "Glass front" in text]
    assert "wall cut along it" in front[0] and "near bound" in front[1]
    menu.actions()[texts.index(front[0])].trigger()
    assert active(window).near is None and len(active(window).wall_cuts) == 1
    menu.actions()[texts.index(front[1])].trigger()
    assert active(window).near is not None
    window.compose.settings.cut.just_clear()
    scene = window.workspace.studio.scene
    assert scene is not None
    checked(window)
    checks = window.compose.book.of(active(window))
    assert checks is not None
    # Either it is clear now, or the window has said that no place is.
    assert checks.cut.opened == () or "opens nothing" in window.notice_bar.sentence


def test_the_far_bound_says_what_it_took_out(window: MainWindow) -> None:
    unfold(window, "cut")
    cut = window.compose.settings.cut
    window.workspace.bridge.apply("x", lambda p: change_camera(p, "cam-01", lambda c: with_far(c, 14.0)))
    checked(window)
    until(lambda: "of the model left out" in cut.removed.text())
    assert "is back at" in cut.removed.text()
    assert not window.compose.facts.buttons["far"].isHidden()
    press(window.compose.facts.buttons["far"])
    names = [action.text() for action in window.compose.mending.menu.actions()]
    assert {"Move the far bound back", "Show all beyond"} <= set(names)
    next(
        action for action in window.compose.mending.menu.actions() if action.text() == "Show all beyond"
    ).trigger()
    window.compose.mending.menu.close()
    assert active(window).far is None
    press(cut.far_on)
    press(cut.dark)
    assert active(window).far_dark


@pytest.mark.slow
def test_a_cut_is_capped_and_the_trouble_is_gone(window: MainWindow) -> None:
    camera = stand(window, with_near(FRONT, 11.0))
    checked(window)
    assert "cut faces" in window.compose.strip.told(camera).trouble
    unfold(window, "cut")
    press(window.compose.settings.cut.cap)
    assert active(window).cap
    checked(window)
    assert [item.code for item in window.compose.book.troubles(active(window)) if item.code == "cut"] == []


@pytest.mark.slow
def test_leaving_the_opened_objects_out_is_one_step(window: MainWindow) -> None:
    camera = stand(window, with_near(FRONT, 11.0))
    checked(window)
    book = window.compose.book
    assert book.mend([camera.id], "leave-out", "Leave the objects out")
    assert len(active(window).left_out.objects) >= 2
    checked(window)
    checks = book.of(active(window))
    assert checks is not None
    assert checks.cut.share == 0.0
    window.workspace.bridge.undo()
    assert active(window).left_out.objects == ()


# ---------------------------------------------------------------------- wall cuts and back through the wall


def test_a_wall_is_picked_in_the_frame_on_the_plan_and_on_the_section(window: MainWindow) -> None:
    cut, frame, plan, section = (
        window.compose.settings.cut,
        window.compose.frame,
        window.compose.plan,
        window.compose.section,
    )
    for number, view in enumerate((frame, plan, section)):
        camera = stand(window, replace(FRONT, name=f"Front {number}"))
        plan.fit_to([(0, 0), (18, 30)])
        window.table.run("camera.stand")
        window.compose.pick_wall(True)
        assert cut.pick.isChecked()
        assert not window.compose.strip.stand_button.isChecked()
        if view is frame:
            at = frame.frame_rect().center() + QPointF(-30, 0)
        elif view is plan:
            at = plan.to_screen(9.8, 18.15)
        else:
            until(lambda: section.drawing is not None and not section.leaves(active(window), section.drawing))
            at = section.to_screen(section.place_of(camera)[0] + 10.8, 2.0)
        QTest.mouseClick(view, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at.toPoint())
        (new_cut,) = active(window).wall_cuts
        assert new_cut.heading_deg == 180.0
        assert new_cut.at_m == pytest.approx(-18.065, abs=0.05)
        assert not cut.pick.isChecked()
        assert window.workspace.bridge.document.undo_label == "Wall cut"


def test_a_wall_cut_is_switched_moved_turned_and_removed(window: MainWindow) -> None:
    unfold(window, "cut")
    stand(window, FRONT)
    cut, plan = window.compose.settings.cut, window.compose.plan
    cut.take_wall((9.8, 18.15, 1.5))
    (row,) = cut.walls.rows
    assert "Glass front" in row.on.toolTip()
    press(row.on)
    assert not active(window).wall_cuts[0].on
    press(row.on)
    enter(row.offset, "40 cm")
    assert active(window).wall_cuts[0].offset_m == pytest.approx(0.4)
    # Dragged on the plan, along its normal; near the wall's face it is held there.
    plan.fit_to([(0, 8), (16, 22)])
    a, b, _ = plan.cameras.bounds.cut_ends(active(window).wall_cuts[0])
    middle = (a + b) / 2
    drag(plan, middle, middle + QPointF(0, 0.6 * plan.px_per_m))
    assert active(window).wall_cuts[0].offset_m == pytest.approx(1.0, abs=0.06)
    assert window.workspace.bridge.document.undo_label == "Move wall cut"
    menu = QMenu()
    cut.walls.fill_cut(0, menu)
    by_name = {action.text(): action for action in menu.actions()}
    by_name["Take away all before it"].trigger()
    assert active(window).wall_cuts[0].depth_m > 1000
    by_name["Keep the other side"].trigger()
    assert active(window).wall_cuts[0].heading_deg == 0.0
    by_name["Remove"].trigger()
    assert active(window).wall_cuts == ()
    assert cut.walls.rows == []


def test_a_wall_cut_is_dragged_on_the_section(window: MainWindow) -> None:
    stand(window, FRONT)
    section = window.compose.section
    window.compose.settings.cut.take_wall((9.8, 18.15, 1.5))
    until(lambda: section.drawing is not None and not section.leaves(active(window), section.drawing))
    section.fit()
    ends = section.camera.cut_ends(active(window), active(window).wall_cuts[0])
    assert ends is not None
    middle = (ends[0] + ends[1]) / 2
    drag(section, middle, middle + QPointF(1.2 * section.px_per_m, 0))
    # Along the line of sight the wall is met at an angle.
    assert active(window).wall_cuts[0].offset_m == pytest.approx(1.2 * math.cos(math.radians(35.0)), abs=0.08)


@pytest.mark.slow
def test_back_through_the_wall_from_the_menu(window: MainWindow) -> None:
    stand(window, OFFICE)
    menu = QMenu()
    window.compose.settings.cut.back.fill(menu)
    texts = [action.text() for action in menu.actions() if action.text()]
    assert texts[:4] == [
        "All of the far wall, floor to ceiling",
        "Its whole width",
        "Its whole height",
        "2 m of it",
    ]
    menu.actions()[0].trigger()
    # In a wide picture all of the height takes more of a way back than the room is wide: nothing is cut open
    # for it.
    assert active(window).near is None and len(active(window).wall_cuts) == 1
    corners = np.array([[0.0, 10.8, 0.0], [0.0, 10.8, 2.4]])
    assert active(window).view().project(corners)[:, 1] == pytest.approx([1080.0, 0.0], abs=400)
    assert active(window).view().project(corners)[0, 1] <= 1080.5
    window.workspace.bridge.undo()
    menu.actions()[1].trigger()
    camera = active(window)
    assert camera.near is not None
    assert camera.near_at is not None
    assert "behind the inner face" in window.notice_bar.sentence
    assert camera.eye[2] == 1.6
    checked(window)
    checks = window.compose.book.of(camera)
    assert checks is not None
    assert checks.cut.opened == ()
    assert "cut faces <b>0 %" in window.compose.facts.labels["cut faces"].text()
    # It stands outside its room, and yet goes by it: room, height above the room's floor, nothing wrong.
    assert "Ticket office" in window.compose.strip.told(camera).line
    assert window.compose.book.troubles(camera) == ()
    window.workspace.bridge.undo()
    assert active(window).near is None


def test_turning_a_bound_into_a_wall_cut(window: MainWindow) -> None:
    stand(window, with_near(FRONT, 11.0))
    window.compose.settings.cut.bound_to_cut()
    assert active(window).near is None
    assert len(active(window).wall_cuts) == 1
    window.compose.settings.cut.bound_to_cut()
    assert "no near bound" in window.notice_bar.sentence


# ---------------------------------------------------------------------- aids over the Frame


@pytest.mark.parametrize("name", list(AIDS))
def test_each_aid_draws_something_over_the_frame_and_not_into_pictures(window: MainWindow, name: str) -> None:
    camera = (
        with_far(with_near(FRONT, 11.0), 25.0)
        if name in ("cut faces", "gaps")
        else replace(FRONT, tilt_deg=9.0)
    )
    stand(window, camera)
    until(lambda: window.compose.frame.picture.current, 40)
    checked(window)
    frame = window.compose.frame
    # The bars beside the picture are laid out when they are.
    inside = frame.frame_rect().toRect()
    before = frame.grab(inside).toImage()
    window.compose.tools.toggle_aid(name)
    checked(window)
    until(lambda: frame.grab(inside).toImage() != before, 20)
    assert window.compose.tools.checks.styleSheet().count("background") == 1
    window.compose.tools.toggle_aid(name)
    until(lambda: frame.grab(inside).toImage() == before, 20)


def test_a_hatch_covers_its_mask_and_nothing_else() -> None:
    mask = np.zeros((9, 16), bool)
    mask[3:6, 4:8] = True
    image = hatched(mask, 160, 90, "#B87410", False)
    assert (image.width(), image.height()) == (160, 90)
    clear = QColor(0, 0, 0, 0).rgba()
    assert image.pixel(10, 10) == clear
    inside = {image.pixelColor(x, y).alpha() for x in range(42, 78) for y in range(32, 58)}
    assert inside == {80, 235}
    assert hatched(mask, 160, 90, "#B87410", True) != image
    assert isinstance(image, QImage)


# ---------------------------------------------------------------------- check all


@pytest.mark.slow
def test_the_page_of_all_checks_fills_and_mends(window: MainWindow) -> None:
    window.compose.check_all(True)
    page, book = window.compose.check_page, window.compose.book
    until(lambda: all(book.of(camera) is not None for camera in window.workspace.bridge.project.cameras), 60)
    until(lambda: page.bar.isHidden() and len(page.rows) == len(window.workspace.bridge.project.cameras))
    assert "20 of 20 looked at" in page.summary.text()
    tower = page.rows["cam-08"]
    assert "verticals 41" in tower.figures.text()
    assert "3-point" in tower.figures.text()
    press(page.which.buttons()[1])
    until(lambda: not page.filler.isActive())
    assert page.rows["cam-01"].isHidden()
    assert not tower.isHidden()
    plumb = tower.mends["plumb"]
    press(plumb)
    assert active(window).id == "cam-01"
    assert window.workspace.bridge.project.camera("cam-08").tilt_deg == 0.0  # type: ignore[union-attr]
    assert window.workspace.bridge.document.undo_label == "Plumb: Tower from the forecourt"
    until(lambda: book.of(window.workspace.bridge.project.camera("cam-08")) is not None, 30)  # type: ignore[arg-type]
    until(lambda: tower.isHidden())
    press(page.plumb_all)
    assert all(abs(camera.tilt_deg) < 1e-9 for camera in window.workspace.bridge.project.cameras)
    window.workspace.bridge.undo()
    press(page.which.buttons()[0])
    press(tower.name)
    assert not window.compose.checking
    assert active(window).id == "cam-08"


def test_checking_all_leaves_the_window_free_and_is_stopped(window: MainWindow) -> None:
    window.workspace.bridge.apply(
        "x",
        lambda p: replace(
            p, cameras=tuple(replace(c, focal_mm=c.focal_mm + 0.5 + k) for k, c in enumerate(p.cameras))
        ),
    )
    window.compose.check_all(True)
    page = window.compose.check_page
    until(lambda: not page.bar.isHidden() and page.bar.value() > 0, 30)
    press(page.stop)
    assert page.bar.isHidden()
    looked = sum(
        window.compose.book.of(camera) is not None for camera in window.workspace.bridge.project.cameras
    )
    assert 0 < looked <= 20
    QTest.keyClick(window, Qt.Key.Key_Escape)
    assert not window.compose.checking


def test_a_locked_camera_is_not_mended(window: MainWindow) -> None:
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-08", locked=True))
    assert not window.compose.book.mend(["cam-08"], "plumb", "Plumb")
    assert "locked" in window.notice_bar.sentence


# ---------------------------------------------------------------------- gaps, mends of ours, coverage


@pytest.mark.slow
def test_ground_to_the_horizon_joins_the_model_and_is_taken_back(window: MainWindow) -> None:
    scene = window.workspace.studio.scene
    assert scene is not None
    count = len(scene.model.objects)
    window.models.ground_to_horizon()
    until(
        lambda: (
            window.workspace.studio.scene is not None
            and len(window.workspace.studio.scene.model.objects) == count + 1
        ),
        60,
    )
    desk = window.model_desk
    assert not desk.patch_group.group.isHidden()
    assert desk.patch_group.patches.item(0).text() == "Plain ground to the horizon"
    window.going.choose_desk(MODEL)
    desk.patch_group.turn()
    until(
        lambda: (
            window.workspace.studio.scene is not None
            and len(window.workspace.studio.scene.model.objects) == count
        ),
        60,
    )
    assert "(off)" in desk.patch_group.patches.item(0).text()
    desk.patch_group.remove()
    assert window.workspace.bridge.project.patches == ()
    assert desk.patch_group.group.isHidden()


@pytest.mark.slow
def test_coverage_lists_what_is_never_seen_and_lays_it_over(window: MainWindow, tmp_path: Path) -> None:
    # A few cameras alone: two film frames of every second of a walk are looked at on the command line.
    window.workspace.bridge.apply("x", lambda p: replace(p, walks=(), cameras=p.cameras[:2]))
    window.going.choose_desk(MODEL)
    coverage, tree = window.model_desk.coverage, window.model_desk.tree
    press(coverage.look_button)
    assert coverage.stop_button.isEnabled()
    until(lambda: bool(coverage.result), 90)
    names = [coverage.unseen.item(row).text() for row in range(coverage.unseen.count())]
    assert any("Wing ceiling" in name for name in names)
    assert not tree.isColumnHidden(3)
    press(coverage.overlay)
    assert window.model_desk.look.hiding.faint
    assert set(window.model_desk.look.hiding.only.objects) == set(coverage.never)
    # What is hidden while working in Compose is another matter.
    assert not window.workspace.state.hiding
    assert window.compose.plan.never_seen.numbers
    press(coverage.overlay)
    assert not window.compose.plan.never_seen.numbers
    coverage.save(tmp_path / "coverage.csv")
    lines = (tmp_path / "coverage.csv").read_text().splitlines()
    assert len(lines) == len(coverage.result) + 1
    coverage.save(tmp_path / "not" / "there.csv")
    assert "there.csv" in window.notice_bar.sentence


def test_a_search_finds_the_new_actions(window: MainWindow) -> None:
    names = {command.title for command in window.table}
    wanted = {
        "Back through wall",
        "Wall cut: pick a wall",
        "Check all cameras",
        "Show verticals",
        "Keep plumb, or let it tilt",
    }
    assert wanted <= names
    keys = [command.keys for command in window.table if command.keys]
    assert len(keys) == len(set(keys))
    QApplication.processEvents()
