"""The Model desk through the real window: the tree, two kinds of hiding, problems, cameras of the file,
reload; search and keys."""

from __future__ import annotations

import shutil
from pathlib import Path

import numpy as np
import pytest
import trimesh
from PySide6.QtCore import QMimeData, QModelIndex, QPoint, Qt
from PySide6.QtGui import QStandardItem
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog, QPushButton

from altana.app.model.tree import HERE, KIND, PICTURES, ObjectTree
from altana.app.shell.search import Entry, best, rank
from altana.app.shell.window import COMPOSE, MODEL, MainWindow
from altana.core.edits.cameras import add_camera, set_camera
from altana.core.project import Camera, LeftOut, ModelRef, Project
from altana.storage import autosave
from altana.storage.project_file import read_project, write_project
from tests.app.conftest import enter, press, until
from tests.conftest import box_between

Y_UP = np.array([[1.0, 0, 0, 0], [0, 0, 1, 0], [0, -1, 0, 0], [0, 0, 0, 1]])


def row(tree: ObjectTree, *path: str) -> tuple[QStandardItem, int]:
    """A row of the tree by the beginnings of the names that lead to it: its parent and its number."""
    parent = tree.items.invisibleRootItem()
    number = 0
    for name in path:
        if parent.data(KIND) == "group":
            tree.fill_group(parent)
        number = next(
            index for index in range(parent.rowCount()) if parent.child(index).text().startswith(name)
        )
        row_index, parent = parent, parent.child(number)
    return row_index, number


def test_the_tree_counts_and_fills_itself(window: MainWindow) -> None:
    window.going.choose_desk(MODEL)
    tree, scene = window.model_desk.tree, window.workspace.studio.scene
    assert scene is not None

    def names_at_the_top() -> list[str]:
        return [tree.items.index(index, 0).data() for index in range(tree.items.rowCount())]

    names = names_at_the_top()
    assert [name.split("  ·  ")[0] for name in names] == [
        "Lookout",
        "Roofs",
        "Gallery storey",
        "Ground storey",
    ]
    assert sum(int(name.split("  ·  ")[1]) for name in names) == len(scene.model.objects)
    parent, number = row(tree, "Ground", "Furniture", "Bench 3")
    assert parent.child(number).data(KIND) == "objects"
    window.model_desk._order.chosen.emit(1)
    assert "Furniture" in {name.split("  ·  ")[0] for name in names_at_the_top()}
    window.model_desk._order.chosen.emit(0)
    window.model_desk.filter.setText("bench 3")
    shown = [tree.model().index(index, 0) for index in range(tree.model().rowCount(QModelIndex()))]
    assert [index.data().split("  ·  ")[0] for index in shown] == ["Ground storey"]
    window.model_desk.filter.clear()


def test_two_kinds_of_marks(window: MainWindow) -> None:
    window.going.choose_desk(MODEL)
    tree = window.model_desk.tree
    parent, number = row(tree, "Gallery", "Furniture")
    before = window.workspace.bridge.project
    parent.child(number, HERE).setCheckState(Qt.CheckState.Unchecked)
    hidden = window.workspace.state.hiding.hidden.objects
    assert len(hidden) > 5
    assert window.workspace.bridge.project is before
    parent, number = row(tree, "Ground", "Planting")
    parent.child(number, PICTURES).setCheckState(Qt.CheckState.Unchecked)
    assert len(window.workspace.bridge.project.left_out.objects) == 8
    assert window.workspace.bridge.document.undo_label == "Leave out of pictures"
    parent, number = row(tree, "Roofs")
    parent.child(number, PICTURES).setCheckState(Qt.CheckState.Unchecked)
    assert window.workspace.bridge.project.left_out.storeys == ("storey-3",)
    window.workspace.bridge.undo()
    window.workspace.bridge.undo()
    assert window.workspace.bridge.project.left_out == LeftOut()
    parent, number = row(tree, "Ground", "Planting")
    assert parent.child(number, PICTURES).checkState() == Qt.CheckState.Checked
    window.workspace.state.hide_as_before()
    assert not window.workspace.state.hiding
    tree.setCurrentIndex(tree.filtered.mapFromSource(parent.child(number).index()))
    window.model_desk.only(True)
    assert window.workspace.state.hiding.faint
    assert len(window.workspace.state.hiding.only.objects) == 8
    window.workspace.state.hide_as_before()


def test_problems_lead_to_their_objects(window: MainWindow) -> None:
    window.going.choose_desk(MODEL)
    desk = window.model_desk
    until(lambda: any(problem.code == "holes" for problem in desk.problem_group.found), 30)
    item = next(
        desk.problem_group.problems.item(index)
        for index in range(desk.problem_group.problems.count())
        if "not closed" in desk.problem_group.problems.item(index).text()
    )
    before = window.workspace.bridge.project
    # Another row was chosen before, and Ctrl is held: what is gone to is chosen alone all the same.
    parent, number = row(desk.tree, "Ground", "Planting")
    desk.tree.setCurrentIndex(desk.tree.filtered.mapFromSource(parent.child(number).index()))
    QTest.keyPress(window, Qt.Key.Key_Control, Qt.KeyboardModifier.ControlModifier)
    desk.problem_group.problems.itemClicked.emit(item)
    first = window.workspace.state.object_id
    problem = item.data(Qt.ItemDataRole.UserRole)
    assert first == problem.object_ids[0]
    seen = desk.look.loose
    assert seen is not None
    desk.problem_group.problems.itemClicked.emit(item)
    assert window.workspace.state.object_id == problem.object_ids[1]
    QTest.keyRelease(window, Qt.Key.Key_Control)
    assert desk.look.loose != seen
    assert window.workspace.bridge.project is before
    objects = window.workspace.studio.scene.model.objects  # type: ignore[union-attr]
    assert [item.text() for item in desk.tree.chosen_items()] == [
        next(o.name for o in objects if o.id == problem.object_ids[1])
    ]


def test_cameras_are_sent_and_taken_in_from_beside_those_of_the_file(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    asked: list[str] = []
    for kind in ("Save", "Open"):
        monkeypatch.setattr(
            QFileDialog,
            f"get{kind}FileName",
            lambda *rest, kind=kind, **more: (asked.append(kind), ("", ""))[1],
        )
    window.going.choose_desk(MODEL)
    for name in ("Send…", "Take in…"):
        (pressed,) = (item for item in window.model_desk.findChildren(QPushButton) if item.text() == name)
        pressed.click()
    assert asked == ["Save", "Open"]


def test_cameras_of_the_file_are_offered_not_mixed_in(window: MainWindow) -> None:
    window.going.choose_desk(MODEL)
    desk, count = window.model_desk, len(window.workspace.bridge.project.cameras)
    assert desk.camera_group.found.count() == 2
    assert all("Architect" not in camera.name for camera in window.workspace.bridge.project.cameras)
    desk.camera_group.found.setCurrentRow(
        next(index for index in range(2) if "Architect" in desk.camera_group.found.item(index).text())
    )
    desk.camera_group.take_over(False)
    taken_over = window.workspace.state.active
    assert taken_over is not None
    assert taken_over.name == "Architect's view of the forecourt"
    assert not taken_over.inside
    assert window.desks.currentIndex() == COMPOSE
    desk.camera_group.take_over(True)
    assert len(window.workspace.bridge.project.cameras) == count + 3
    window.workspace.bridge.undo()
    window.workspace.bridge.undo()
    assert len(window.workspace.bridge.project.cameras) == count


def small_model(path: Path, post_at: float, extra: bool) -> None:
    scene = trimesh.Scene()
    scene.add_geometry(box_between((-8, -8, -0.3), (8, 8, 0)), node_name="Slab")
    scene.add_geometry(box_between((post_at, 2, 0), (post_at + 0.5, 2.5, 3)), node_name="Post")
    if extra:
        scene.add_geometry(box_between((-3, 4, 0), (-2, 5, 1)), node_name="Crate")
    scene.apply_transform(Y_UP)
    scene.export(path)


@pytest.mark.slow
def test_a_reload_says_what_changed_in_each_view(window: MainWindow, tmp_path: Path) -> None:
    home = window.files.path
    small_model(tmp_path / "small.glb", 1.0, False)
    project = Project("Small", models=(ModelRef("model-01", "small.glb"),))
    project, _ = add_camera(project, Camera("", "Towards the post", (0.0, -6.0, 1.6)))
    project, _ = add_camera(project, Camera("", "Away", (0.0, -6.0, 1.6), 180.0, -5.0))
    write_project(tmp_path / "small.altana", project)
    try:
        assert window.files.open_path(tmp_path / "small.altana")
        until(
            lambda: (
                window.workspace.studio.scene is not None
                and len(window.workspace.studio.scene.model.objects) == 2
            )
        )
        until(lambda: all(window.compose.strip.thumb(name) is not None for name in ("cam-01", "cam-02")), 60)
        before = window.workspace.bridge.project
        small_model(tmp_path / "small.glb", 1.6, True)
        QTest.keyClick(window, Qt.Key.Key_F5)
        until(lambda: bool(window.model_desk.reloading.changes), 60)
        change = window.model_desk.reloading.changes[0]
        assert [item.camera_id for item in window.model_desk.reloading.changes] == ["cam-01"]
        assert [line.split(":")[0] for line in change.lines] == ["Crate", "Post"]
        assert 0.005 < change.share < 0.3
        assert window.workspace.bridge.project is before
        assert "1 new, 0 gone, 1 altered" in window.notice_bar.sentence
        window.model_desk.reloading.changed.setCurrentRow(0)
        assert window.model_desk.reloading.comparison.before is not None
        assert window.model_desk.reloading.comparison.title == "Towards the post"
        # A file that is damaged now: what was open stays open, and it is said.
        (tmp_path / "small.glb").write_bytes(b"glTF" + b"\0" * 40)
        window.models.reload()
        until(
            lambda: "small.glb" in window.notice_bar.sentence and "damaged" in window.notice_bar.sentence, 60
        )
        assert len(window.workspace.bridge.project.cameras) == 2
    finally:
        assert home is not None
        window.workspace.bridge.document.mark_saved()
        window.files.open_path(home)
        until(
            lambda: (
                window.workspace.studio.scene is not None
                and len(window.workspace.studio.scene.model.objects) > 100
            )
        )


@pytest.mark.slow
def test_unit_and_axis_are_corrected(window: MainWindow) -> None:
    window.going.choose_desk(MODEL)
    desk = window.model_desk
    scene = window.workspace.studio.scene
    assert scene is not None
    desk.files.choice.setCurrentIndex(0)
    desk.files.unit.activated.emit(4)
    assert window.workspace.bridge.project.models[0].unit_m == 0.3048
    until(
        lambda: window.workspace.studio.scene is not None and window.workspace.studio.scene is not scene, 60
    )
    smaller = window.workspace.studio.scene
    assert smaller is not None
    assert np.ptp(smaller.bounds, axis=0)[2] == pytest.approx(
        np.ptp(scene.bounds, axis=0)[2] * 0.3048, rel=1e-4
    )
    window.workspace.bridge.undo()
    window.models.reopen()
    until(
        lambda: window.workspace.studio.scene is not None and window.workspace.studio.scene is not smaller, 60
    )


def test_search_ranks_and_leads_there(window: MainWindow) -> None:
    assert [
        rank("Waiting hall to the water", words) for words in (["waiting"], ["hall"], ["ater"], ["sea"])
    ] == [4, 3, 2, 0]
    entries = [
        Entry(name, kind, lambda: None)
        for name, kind in (("Bench", "Furniture"), ("Bench view", "camera"), ("A bench", "room"))
    ]
    assert [item.kind for item in best(entries, "bench")] == ["camera", "Furniture", "room"]
    # What is called exactly so comes before a walk that only begins so.
    stairs = [Entry("Stair to the gallery", "walk", lambda: None), Entry("Stair", "Stair", lambda: None)]
    assert [item.name for item in best(stairs, "stair")] == ["Stair", "Stair to the gallery"]
    QTest.keyClick(window, Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
    assert window.top.search.hasFocus()
    QTest.keyClicks(window.top.search, "tower from")
    assert window.top.search.list.isVisible()
    QTest.keyClick(window.top.search, Qt.Key.Key_Return)
    assert window.workspace.state.active is not None
    assert window.workspace.state.active.name == "Tower from the forecourt"
    QTest.keyClick(window, Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
    QTest.keyClicks(window.top.search, "plumb")
    QTest.keyClick(window.top.search, Qt.Key.Key_Return)
    assert window.workspace.bridge.document.undo_label == "Plumb"
    window.top.search.setFocus()
    QTest.keyClicks(window.top.search, "cafe gal")
    QTest.keyClick(window.top.search, Qt.Key.Key_Return)
    assert window.compose.plan.storey is not None
    assert window.compose.plan.storey.name == "Gallery storey"
    window.top.search.setFocus()
    QTest.keyClicks(window.top.search, "ferry hull")
    QTest.keyClick(window.top.search, Qt.Key.Key_Return)
    assert window.desks.currentIndex() == MODEL
    assert window.workspace.state.object_id
    window.top.search.setFocus()
    QTest.keyClicks(window.top.search, "xyzzy")
    assert "Nothing" in window.top.search.list.item(0).text()
    QTest.keyClick(window.top.search, Qt.Key.Key_Escape)
    assert not window.top.search.list.isVisible()


def test_every_action_has_its_own_key_and_stands_on_the_page(window: MainWindow) -> None:
    keys = [keys for command in window.table for keys in command.keys.split("; ") if keys]
    assert len(keys) == len(set(keys))
    names = [command.title for command in window.table]
    assert len(names) == len(set(names))
    QTest.keyClick(window, Qt.Key.Key_F1)
    page = window.keys_page
    from PySide6.QtWidgets import QLabel

    shown = {item.text() for item in page.findChildren(QLabel)}
    assert {command.title for command in window.table if command.keys} <= shown
    page.accept()


def test_planned_shots_groups_order_and_marks(window: MainWindow) -> None:
    strip = window.compose.strip
    planned = window.workspace.bridge.project.planned
    assert len(planned) == 2
    strip.stand_for.emit(planned[0].id)
    assert window.compose.plan.standing
    QTest.keyClick(window.compose.plan, Qt.Key.Key_Return)
    camera = window.workspace.state.active
    assert camera is not None
    assert camera.intent == planned[0].intent
    assert len(window.workspace.bridge.project.planned) == 1
    window.workspace.bridge.undo()
    # The same on a floor seen in the Frame.
    window.workspace.state.select("cam-01")
    strip.stand_for.emit(planned[1].id)
    rect = window.compose.frame.frame_rect()
    px, py, _ = window.workspace.bridge.project.cameras[0].view().project(np.array([(9.0, 6.0, 0.0)]))[0]
    floor = QPoint(
        round(rect.left() + px / 1920 * rect.width()), round(rect.top() + py / 1080 * rect.height())
    )
    QTest.mouseClick(window.compose.frame, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, floor)
    stood = window.workspace.state.active
    assert stood is not None
    assert (stood.intent, len(window.workspace.bridge.project.planned)) == (planned[1].intent, 1)
    window.workspace.bridge.undo()
    # A ceiling is not a floor, however its triangles are wound.
    window.workspace.state.select("cam-01")
    before = window.workspace.bridge.project
    window.compose.arm(True)
    ceiling = QPoint(round(rect.center().x()), round(rect.top() + 6))
    QTest.mouseClick(window.compose.frame, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, ceiling)
    assert window.workspace.bridge.project is before
    assert "not a floor" in window.notice_bar.sentence
    window.compose.arm(False)
    ids = strip.ids()
    window.workspace.state.select(ids[1])
    QTest.keyClick(window, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
    assert strip.ids()[:2] == [ids[1], ids[0]]
    data = strip.rows.mimeData(
        [
            strip.rows.index(number)
            for number, item in enumerate(strip.rows.rows)
            if getattr(item, "id", "") == ids[0]
        ]
    )
    assert isinstance(data, QMimeData)
    first = next(number for number, item in enumerate(strip.rows.rows) if isinstance(item, Camera))
    strip.rows.dropMimeData(data, Qt.DropAction.MoveAction, first, 0, QModelIndex())
    assert strip.ids()[:2] == ids[:2]
    window.workspace.state.select(ids[0])
    QTest.keyClick(window, Qt.Key.Key_S)
    assert not window.workspace.bridge.project.cameras[0].in_shot_list
    strip.filter.setText("gallery")
    assert strip.ids() == [window.workspace.bridge.project.camera_named("Gallery, seated").id]
    strip.filter.clear()
    assert len(strip.ids()) == len(ids)
    heading = next(item for item in strip.rows.rows if getattr(item, "name", "") == "Turntable stills")
    strip._pressed(strip.rows.index(strip.rows.rows.index(heading)))
    assert len(strip.ids()) == len(ids) - 8
    strip._pressed(
        strip.rows.index(
            next(
                n for n, item in enumerate(strip.rows.rows) if getattr(item, "name", "") == "Turntable stills"
            )
        )
    )
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", name="Odd"))
    window.cameras.suggest_name()
    assert window.workspace.bridge.project.cameras[0].name == "Waiting hall, north"


def test_leaving_out_and_nudging_from_the_panel(window: MainWindow) -> None:
    scene = window.workspace.studio.scene
    assert scene is not None
    bench = next(item for item in scene.model.objects if item.name == "Bench 1")
    camera = window.workspace.state.active
    assert camera is not None
    rect = window.compose.frame.frame_rect()
    used = np.unique(scene.model.faces[bench.first_face : bench.first_face + bench.face_count])
    px, py, _ = camera.view().project(scene.model.vertices[used].astype(float).mean(axis=0)[None])[0]
    spot = rect.topLeft().toPoint() + type(rect.topLeft().toPoint())(
        round(px / 1920 * rect.width()), round(py / 1080 * rect.height())
    )
    QTest.mouseClick(window.compose.frame, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, spot)
    assert window.workspace.state.object_id == bench.id
    panel = window.compose.settings.left_out
    QTest.keyClick(window, Qt.Key.Key_O)
    assert window.workspace.bridge.project.cameras[0].left_out.objects == (bench.id,)
    assert panel.list.item(0).text() == "Bench 1: left out"
    panel.list.setCurrentRow(0)
    press(panel.back)
    assert window.workspace.bridge.project.cameras[0].left_out == LeftOut()
    enter(panel.moves[0], "0.75")
    enter(panel.turned, "30")
    nudge = window.workspace.bridge.project.cameras[0].nudges[0]
    assert (nudge.object_id, nudge.move, nudge.turn_deg) == (bench.id, (0.75, 0.0, 0.0), 30.0)
    assert "+0.75 m east" in panel.list.item(0).text()
    panel.list.setCurrentRow(0)
    panel.take_back()
    assert window.workspace.bridge.project.cameras[0].nudges == ()


def test_intent_note_and_guides(window: MainWindow) -> None:
    panel = window.compose.settings
    enter(panel.intent.line, "Arriving travellers")
    panel.intent.note.setPlainText("Early light")
    until(lambda: window.workspace.bridge.project.cameras[0].note == "Early light", 5)
    assert window.workspace.bridge.project.cameras[0].intent == "Arriving travellers"
    # A long one shows its beginning.
    enter(panel.intent.line, "Arriving travellers see the water before they see anything else")
    assert panel.intent.line.cursorPosition() == 0
    panel.format.toggle_guide("golden")
    assert window.workspace.bridge.project.cameras[0].guides == ("thirds", "golden")
    with_guides = window.compose.frame.grab().toImage()
    QTest.keyClick(window, Qt.Key.Key_G)
    assert window.compose.frame.grab().toImage() != with_guides
    QTest.keyClick(window, Qt.Key.Key_G)
    enter(panel.format.proportion, "2.39:1")
    camera = window.workspace.bridge.project.cameras[0]
    assert camera.width_px / camera.height_px == pytest.approx(2.39, rel=1e-3)
    QTest.keyClick(window, Qt.Key.Key_W)
    swapped = window.workspace.bridge.project.cameras[0]
    assert (swapped.width_px, swapped.height_px) == (camera.height_px, camera.width_px)


def test_what_is_not_saved_is_kept_and_offered_after_a_crash(
    window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("ALTANA_AUTOSAVE", str(tmp_path / "kept"))
    path = window.files.path
    assert path is not None
    saved = read_project(path)
    # Whatever an earlier test left to be offered is decided.
    window.workspace.bridge.document.mark_saved()
    assert window.files.open_path(path)
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", name="Not saved"))
    window.files.keep_now()
    copy = autosave.kept(path)
    assert copy is not None
    assert copy.project.cameras[0].name == "Not saved"
    # As after a crash: the project is opened from its file.
    window.workspace.bridge.document.mark_saved()
    assert window.files.open_path(path)
    assert "ended without saving" in window.notice_bar.sentence
    # Neither waiting nor further work makes what is offered vanish before it is taken or left on purpose.
    window.files.keep_now()
    assert autosave.kept(path) is not None
    # What another test saved may have locked some.
    free = next(item.id for item in saved.cameras[1:] if not item.locked)
    assert window.workspace.bridge.apply("y", lambda p: set_camera(p, free, name="Later"))
    window.files.keep_now()
    first = autosave._read(path, False)
    newest = autosave.kept(path)
    assert first is not None
    assert newest is not None
    assert first.project.cameras[0].name == "Not saved"
    later = newest.project.camera(free)
    assert later is not None and later.name == "Later"
    window.workspace.bridge.undo()
    press(window.notice_bar.offer)
    assert window.workspace.bridge.project.cameras[0].name == "Not saved"
    window.workspace.bridge.undo()
    assert window.workspace.bridge.project == saved
    window.files.save()
    assert autosave.kept(path) is None
    (tmp_path / "kept").mkdir(exist_ok=True)
    autosave._file(path).write_text("{broken")
    assert autosave.kept(path) is None
    shutil.rmtree(tmp_path / "kept")
    until(lambda: window.workspace.studio.scene is not None and window.compose.plan.drawing is not None)


def test_an_assumed_unit_is_changed_by_one_press_and_a_model_is_placed(
    window: MainWindow, tmp_path: Path
) -> None:
    home = window.files.path
    box_between((0, 0, 0), (472, 360, 118)).export(tmp_path / "shed.stl")
    write_project(tmp_path / "shed.altana", Project("Shed", models=(ModelRef("model-01", "shed.stl"),)))
    desk = window.model_desk
    try:
        assert window.files.open_path(tmp_path / "shed.altana")
        until(
            lambda: (
                window.workspace.studio.scene is not None
                and window.workspace.studio.scene.model.source == "shed.stl"
            )
        )
        window.going.choose_desk(MODEL)
        until(lambda: any(problem.code == "unit-assumed" for problem in desk.problem_group.found))
        item = next(
            desk.problem_group.problems.item(index)
            for index in range(desk.problem_group.problems.count())
            if "names no unit" in desk.problem_group.problems.item(index).text()
        )
        problem = item.data(Qt.ItemDataRole.UserRole)
        assert "Take as" in item.text() and problem.remedy.startswith("unit:")
        desk.problem_group.problems.itemClicked.emit(item)
        wanted = float(problem.remedy.partition(":")[2])
        until(
            lambda: (
                window.workspace.studio.scene is not None
                and window.workspace.studio.scene.model.unit == f"{wanted:g} m, as chosen"
            )
        )
        assert window.workspace.bridge.project.models[0].unit_m == wanted
        assert window.workspace.bridge.document.undo_label == "Unit of the model"
        enter(desk.files.move[0], "12.5")
        until(
            lambda: (
                window.workspace.studio.scene is not None
                and abs(window.workspace.studio.scene.bounds[0, 0] - 12.5) < 1e-4
            )
        )
        assert not desk.files.shown.isEnabled()
        window.workspace.bridge.undo()
        assert (
            window.workspace.bridge.project.models[0].move == (0.0, 0.0, 0.0)
            and desk.files.move[0].value == 0.0
        )
    finally:
        window.workspace.bridge.document.mark_saved()
        assert home is not None
        window.files.open_path(home)
        until(
            lambda: (
                window.workspace.studio.scene is not None
                and "larkwater" in window.workspace.studio.scene.model.source
            )
        )
