"""One real window with the demo, shared by all tests of a process; each test starts from the saved
project."""

from __future__ import annotations

import contextlib
import shutil
import threading
from collections.abc import Callable, Iterator
from dataclasses import replace
from pathlib import Path

import pytest
from PySide6.QtCore import QEvent, QEventLoop, QPoint, QPointF, QSettings, Qt, QTimer
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit, QMenu, QToolButton, QWidget

from altana.app.hand_over.desk import LIST, HandOverDesk
from altana.app.shell.window import COMPOSE, HAND_OVER, MainWindow
from altana.app.theme.style import apply_theme
from altana.app.workspace.ordered import HERE
from altana.app.workspace.production import Production, State
from altana.core.edits.shots import add_shots, start_values
from altana.core.hiding import NOTHING_HIDDEN
from altana.core.patching import CATEGORY
from altana.core.project import FILM, PANORAMA, Making, Project, Qualities, Shot
from altana.demo.project import DRAWING, PROJECT
from altana.storage.made import FILE
from altana.storage.project_file import read_project


@pytest.fixture(scope="session")
def application() -> QApplication:
    instance = QApplication.instance() or QApplication([])
    assert isinstance(instance, QApplication)
    apply_theme(instance)
    return instance


# A machine with other work to do takes many times as long; a test waits that long before it says that
# something never comes.
PATIENCE = 8.0


def until(condition: Callable[[], object], seconds: float = 60.0) -> None:
    """Let the window live until something holds.  ``seconds`` : how long it may take on a machine with
    nothing else to do."""
    loop = QEventLoop()
    timer = QTimer()
    timer.timeout.connect(lambda: loop.quit() if condition() else None)
    timer.start(10)
    QTimer.singleShot(int(seconds * PATIENCE * 1000), loop.quit)
    if not condition():
        loop.exec()
    timer.stop()
    assert condition()


def drag(
    widget: QWidget,
    start: QPointF,
    *stops: QPointF,
    release: bool = True,
    modifier: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier,
) -> None:
    """A press, moves to each stop, and a release, as the window system would send them."""
    QTest.mousePress(widget, Qt.MouseButton.LeftButton, modifier, start.toPoint())
    for stop in stops:
        place = stop.toPoint()
        event = QMouseEvent(
            QEvent.Type.MouseMove,
            QPointF(place),
            QPointF(widget.mapToGlobal(place)),
            Qt.MouseButton.NoButton,
            Qt.MouseButton.LeftButton,
            modifier,
        )
        QApplication.sendEvent(widget, event)
        QApplication.processEvents()
    if release:
        QTest.mouseRelease(
            widget, Qt.MouseButton.LeftButton, modifier, stops[-1].toPoint() if stops else start.toPoint()
        )


def press(widget: QWidget) -> None:
    """A click in a widget's middle."""
    QTest.mouseClick(
        widget,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
        QPoint(widget.width() // 2, widget.height() // 2),
    )


@pytest.fixture(scope="session")
def shared_window(
    application: QApplication, demo_files: Path, tmp_path_factory: pytest.TempPathFactory
) -> Iterator[MainWindow]:
    folder = tmp_path_factory.mktemp("project")
    for name in (PROJECT, "larkwater.glb", DRAWING):
        shutil.copyfile(demo_files / name, folder / name)
    window = MainWindow(settings=QSettings(str(folder / "settings.ini"), QSettings.Format.IniFormat))
    desk = window.handover
    #: As a person finds the Hand-over desk who comes to it first.
    window.setProperty("began_with", [part.isHidden() for part in (desk.tone_button, desk.framing)])
    window.resize(1280, 800)
    window.show()
    assert window.files.open_path(folder / PROJECT)
    until(lambda: window.workspace.studio.scene is not None and window.compose.plan.drawing is not None)
    yield window
    window.workspace.bridge.document.mark_saved()
    window.close()


@pytest.fixture
def window(shared_window: MainWindow, demo_files: Path) -> MainWindow:
    """The window with the demo as it was written."""
    project = read_project(demo_files / PROJECT)
    # As it will be made, but not as often drawn over itself.
    quick = Qualities(Making(1, 1), Making(2, 2), Making(3, 3))
    project = replace(project, qualities=quick)
    # What a test that failed left open would take the keys of all that follow.
    for left in QApplication.topLevelWidgets():
        if left is not shared_window and left.isVisible():
            left.close()
    shared_window.light.hide()
    shared_window.handover.run_bar.where.choose(HERE)
    # While results are looked at the settings are those of a file's row.
    shared_window.handover.choose_page(LIST)
    # A press with Ctrl in the test before would stay held for everything that asks.
    QTest.keyRelease(shared_window, Qt.Key.Key_Control, Qt.KeyboardModifier.NoModifier)
    shared_window.workspace.state.loose = None
    shared_window.workspace.bridge.replace_document(project)
    # A test before may have put mends of ours on the model, or taken them back a moment ago.
    until(
        lambda: (
            (now := shared_window.workspace.studio.scene) is not None
            and now.model.objects[-1].category != CATEGORY
        )
    )
    shared_window.going.choose_desk(COMPOSE)
    shared_window.compose.pictures.compare(False)
    shared_window.compose.arm(False)
    shared_window.compose.check_all(False)
    shared_window.compose.pictures.leave_flicking()
    if shared_window.compose.frame.surround:
        shared_window.compose.tools.toggle_around()
    shared_window.compose.frame.aids.clear()
    shared_window.compose.plan.show_unseen(frozenset())
    shared_window.workspace.state.hide(NOTHING_HIDDEN)
    shared_window.workspace.state.choose_object("")
    shared_window.compose.settings.lens.hold.setChecked(False)
    shared_window.workspace.state.forget_views()
    shared_window.compose.plan.arm(False)
    shared_window.workspace.state.select("cam-01")
    shared_window.workspace.state.choose_walk("walk-01")
    shared_window.notice_bar.hide()
    shared_window.making.last.clear()
    shared_window.activateWindow()
    shared_window.compose.frame.setFocus()
    scene = shared_window.workspace.studio.scene
    assert scene is not None
    if shared_window.compose.plan.storey != scene.model.storeys[0]:
        shared_window.compose.plan.choose_storey(scene.model.storeys[0])
    shared_window.compose.plan.fit()
    return shared_window


def menu_of(button: QToolButton) -> QMenu:
    """The menu of a button, as it is filled when it opens."""
    menu = button.menu()
    menu.aboutToShow.emit()
    return menu


def press_card(
    window: MainWindow, camera_id: str, modifier: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier
) -> None:
    """A press on a camera's card in the strip, brought to sight first."""
    view, rows = window.compose.strip.view, window.compose.strip.rows
    number = next(index for index, row in enumerate(rows.rows) if getattr(row, "id", "") == camera_id)
    view.scrollTo(rows.index(number))
    QApplication.processEvents()
    place = view.visualRect(rows.index(number)).center()
    QTest.mouseClick(view.viewport(), Qt.MouseButton.LeftButton, modifier, place)


def enter(field: QLineEdit, text: str) -> None:
    """Text typed into a field, and Return."""
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, text)
    QTest.keyClick(field, Qt.Key.Key_Return)


def child_processes() -> list[int]:
    """Those of this process that live, by number; asking for all processes of the machine, once a test, takes
    longer than many a test."""
    processes: list[int] = []
    for task in Path("/proc/self/task").iterdir():
        # A thread may end meanwhile.
        with contextlib.suppress(OSError):
            processes += map(int, (task / "children").read_text().split())
    alive = []
    for number in processes:
        with contextlib.suppress(OSError):
            if (Path("/proc") / str(number) / "stat").read_text().rpartition(")")[2].split()[0] != "Z":
                alive.append(number)
    return alive


@pytest.fixture(autouse=True)
def nothing_left_behind(request: pytest.FixtureRequest) -> Iterator[None]:
    """A test that leaves a thread, a child process or a window behind fails, and says which."""
    if "shared_window" in request.fixturenames:
        request.getfixturevalue("shared_window")
    application = QApplication.instance()
    windows = (
        {widget for widget in QApplication.topLevelWidgets() if widget.isVisible()} if application else set()
    )
    threads, children = set(threading.enumerate()), len(child_processes())
    yield
    left: list[str] = []

    def clean() -> bool:
        left[:] = [f"thread {item.name}" for item in threading.enumerate() if item not in threads]
        shown = (
            {widget for widget in QApplication.topLevelWidgets() if widget.isVisible()}
            if application
            else set()
        )
        left.extend(f"window {type(item).__name__} {item.windowTitle()}" for item in shown - windows)
        alive = child_processes()
        left.extend(["a child process"] if len(alive) > children else [])
        return not left

    if application is None:
        assert clean(), left
    else:
        with contextlib.suppress(AssertionError):
            until(clean, 8.0)
        assert not left, left


# ---------------------------------------------------------------------- the Hand-over desk


def forget_what_was_made(window: MainWindow) -> None:
    """Take away what tests before made, by the list or straight from a camera or a walk."""
    for name in ("delivery", "stills", "films", "panoramas", "frames", "shade", "gaps"):
        shutil.rmtree(window.files.out_folder(name), ignore_errors=True)


@pytest.fixture
def desk(window: MainWindow) -> HandOverDesk:
    desk = window.handover
    forget_what_was_made(window)
    shutil.rmtree(desk.out, ignore_errors=True)
    (desk.project_path.parent / FILE).unlink(missing_ok=True)
    desk.list.states, desk.list.outdated = (), ()
    shutil.rmtree(Production.job_of(desk.project_path), ignore_errors=True)
    desk.production.state = State()
    desk.production.end_action = "nothing"
    desk.tone_button.setChecked(False)

    def few(project: Project) -> Project:
        hall, quay = (
            project.camera_named(name).id for name in ("Waiting hall to the water", "Quay, morning")
        )
        walks = tuple(
            replace(walk, seconds=0.5, rate="12", width_px=96, height_px=54) for walk in project.walks
        )
        bare = replace(project, shots=(), walks=walks)
        still = replace(start_values(bare, "still", hall), width_px=160, quality="proof")
        rows = [still, replace(still, subject=quay, file="jpg", keep_master=False)]
        rows.append(replace(start_values(bare, PANORAMA, hall), width_px=256, quality="proof"))
        rows.append(replace(start_values(bare, FILM, "walk-01"), quality="proof"))
        return add_shots(bare, rows)

    window.workspace.bridge.apply("few", few)
    window.going.choose_desk(HAND_OVER)
    desk.choose_page(LIST)
    desk.refresh()
    desk.table.choose([])
    return desk


def shots_of(window: MainWindow) -> tuple[Shot, ...]:
    return window.workspace.bridge.project.shots


def named(desk: HandOverDesk, part: str) -> int:
    """Where the file lies in the list of results whose name has this part."""
    return next(number for number, path in enumerate(desk.results.made) if part in path.name)


def look_at(desk: HandOverDesk, row: int) -> None:
    """Choose a file of the results, and wait until it is read."""
    desk.results.files.setCurrentRow(-1)
    desk.results.files.setCurrentRow(row)
    if desk.results.viewers.currentWidget() is desk.picture:
        until(lambda: desk.picture.image is not None, 20)
    elif desk.results.viewers.currentWidget() is desk.results.round_holder:
        until(lambda: desk.results.round.pixels is not None, 20)
