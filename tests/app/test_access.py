"""For everybody: names and roles for screen readers, focus that is seen, larger letters, windows that run
from right to left."""

from __future__ import annotations

import os
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QModelIndex, QPoint, QRect, QSettings, Qt
from PySide6.QtGui import QAccessible
from PySide6.QtWidgets import QAbstractButton, QApplication, QLabel, QWidget

from altana.app.canvas.look_round import LookRound
from altana.app.canvas.picture_view import PictureView, pixels_of
from altana.app.hand_over.film_player import FilmPlayer
from altana.app.shell.window import HAND_OVER, MainWindow
from altana.app.theme.tokens import LIGHT
from altana.app.workspace.preferences import Preferences, size_before_start
from tests.app.conftest import until

Role = QAccessible.Role
#: What does something when it is used, or tells something that changes.
CONTROLS = {
    Role.PushButton, Role.CheckBox, Role.RadioButton, Role.ComboBox, Role.EditableText, Role.Slider, Role.SpinBox,
    Role.List, Role.Table, Role.Tree, Role.ButtonMenu, Role.ButtonDropDown, Role.ProgressBar, Role.PageTab,
}  # fmt: skip


@pytest.fixture(params=range(4), ids=["model", "compose", "walk", "hand over"])
def at_desk(window: MainWindow, request: pytest.FixtureRequest) -> MainWindow:
    window.going.choose_desk(request.param)
    QApplication.processEvents()
    return window


def interfaces(window: MainWindow) -> Iterator[tuple[QWidget, object]]:
    """Every widget below the window as a screen reader meets it."""
    for item in window.findChildren(QWidget):
        interface = QAccessible.queryAccessibleInterface(item)
        # The corner of a table is no control of ours, and is never shown.
        if interface is not None and item.objectName() != "qt_tableview_cornerbutton":
            yield item, interface


def test_every_control_has_name_role_and_state(at_desk: MainWindow) -> None:
    nameless, roles, odd = [], Counter(), []
    for item, interface in interfaces(at_desk):
        role, state = interface.role(), interface.state()  # type: ignore[attr-defined]
        roles[role] += 1
        takes_keys = bool(item.focusPolicy() & Qt.FocusPolicy.TabFocus)
        if role in CONTROLS or takes_keys:
            if not interface.text(QAccessible.Text.Name).strip():  # type: ignore[attr-defined]
                nameless.append((type(item).__name__, item.objectName(), type(item.parent()).__name__))
            if bool(state.disabled) == item.isEnabled() or (
                takes_keys and item.isEnabled() and not state.focusable
            ):
                odd.append((type(item).__name__, interface.text(QAccessible.Text.Name)))  # type: ignore[attr-defined]
        if isinstance(item, QAbstractButton) and item.isCheckable():
            assert bool(state.checked) == item.isChecked()
            assert bool(state.checkable)
    assert nameless == [] and odd == []
    assert (
        roles[Role.Button] + roles[Role.PushButton] > 50
        and roles[Role.CheckBox] > 10
        and roles[Role.EditableText] > 20
    )


def test_the_tree_leads_from_the_window_to_every_control(window: MainWindow) -> None:
    window.going.choose_desk(1)
    root = QAccessible.queryAccessibleInterface(window)
    reached, waiting = set(), [root]
    while waiting:
        interface = waiting.pop()
        if interface.object() is not None:
            reached.add(id(interface.object()))
        waiting += [child for n in range(interface.childCount()) if (child := interface.child(n)) is not None]
    shown = [item for item in window.compose.findChildren(QAbstractButton) if item.isVisible()]
    assert len(shown) > 20
    assert [item.text() for item in shown if id(item) not in reached and item.objectName()[:3] != "qt_"] == []


def test_focus_is_seen_on_whatever_takes_it(at_desk: MainWindow) -> None:
    window = at_desk
    window.activateWindow()
    takers = [
        item
        for item in window.desks.currentWidget().findChildren(QWidget)
        if item.isVisible() and item.isEnabled() and item.focusPolicy() & Qt.FocusPolicy.TabFocus
        and item.objectName()[:3] != "qt_" and item.width() > 8 and item.height() > 8
    ]  # fmt: skip
    unseen = []
    for item in takers[:: max(1, len(takers) // 25)]:
        window.setFocus()
        QApplication.processEvents()
        before = pixels_of(item.grab().toImage())
        item.setFocus(Qt.FocusReason.TabFocusReason)
        QApplication.processEvents()
        after = pixels_of(item.grab().toImage())
        if item.hasFocus() and before.shape == after.shape and not (before != after).any():
            unseen.append((type(item).__name__, item.accessibleName()))
    assert len(takers) > 10
    assert unseen == []


@pytest.mark.parametrize("kind", [FilmPlayer, LookRound, PictureView])
def test_a_view_in_the_well_shows_that_it_has_the_keyboard(
    kind: type[QWidget], application: QApplication, monkeypatch: pytest.MonkeyPatch
) -> None:
    view = kind(LIGHT)  # type: ignore[arg-type]
    view.resize(300, 200)
    seen = {}
    for focused in (False, True):
        monkeypatch.setattr(kind, "hasFocus", lambda _, focused=focused: focused)
        seen[focused] = pixels_of(view.grab().toImage())
    assert (seen[True] != seen[False]).any(axis=2).sum() > 2 * (300 + 200)


def test_the_shot_list_shows_that_it_has_the_keyboard_with_no_row_in_hand(window: MainWindow) -> None:
    window.going.choose_desk(HAND_OVER)
    table = window.handover.table
    table.setCurrentIndex(QModelIndex())
    window.activateWindow()
    window.setFocus()
    QApplication.processEvents()
    before = pixels_of(table.grab().toImage())
    table.setFocus(Qt.FocusReason.TabFocusReason)
    QApplication.processEvents()
    assert table.hasFocus() and (pixels_of(table.grab().toImage()) != before).any()


def test_from_right_to_left_nothing_is_lost(at_desk: MainWindow) -> None:
    window, application = at_desk, QApplication.instance()
    assert isinstance(application, QApplication)
    left_before = places(window)
    application.setLayoutDirection(Qt.LayoutDirection.RightToLeft)
    try:
        for _ in range(5):
            QApplication.processEvents()
        mirrored = places(window)
        # What stood at the left stands at the right, and nothing is cut off or lies outside.
        moved = [
            name
            for name in left_before
            if name in mirrored and abs(left_before[name].left() - mirrored[name].left()) > 200
        ]
        assert len(moved) > 5
        inside = QRect(QPoint(0, 0), window.size())
        assert [name for name, place in mirrored.items() if not inside.contains(place)] == []
        narrow = [
            item.text()
            for item in window.findChildren(QLabel)
            if item.isVisible() and item.text() and type(item) is QLabel and "<" not in item.text() and not item.wordWrap() and item.pixmap().isNull()
            and item.width() + 1 < item.fontMetrics().horizontalAdvance(item.text()) and not item.visibleRegion().isEmpty()
        ]  # fmt: skip
        assert narrow == []
    finally:
        application.setLayoutDirection(Qt.LayoutDirection.LeftToRight)
        QApplication.processEvents()


def places(window: MainWindow) -> dict[str, QRect]:
    """Where the visible buttons that scroll with nothing lie in the window."""
    return {
        item.accessibleName(): QRect(item.mapTo(window, QPoint(0, 0)), item.size())
        for item in window.findChildren(QAbstractButton)
        if item.isVisible() and item.accessibleName() and not item.visibleRegion().isEmpty()
        and item.visibleRegion().boundingRect().size() == item.size()
    }  # fmt: skip


@pytest.mark.slow
def test_a_picture_is_never_mirrored(window: MainWindow) -> None:
    application = QApplication.instance()
    assert isinstance(application, QApplication)
    window.going.choose_desk(1)
    frame = window.compose.frame
    until(lambda: frame.picture.current, 60)
    before = pixels_of(frame.grab().toImage()).astype(int)
    application.setLayoutDirection(Qt.LayoutDirection.RightToLeft)
    try:
        QApplication.processEvents()
        until(lambda: frame.picture.current, 60)
        after = pixels_of(frame.grab().toImage()).astype(int)
    finally:
        application.setLayoutDirection(Qt.LayoutDirection.LeftToRight)
        QApplication.processEvents()
    high, wide = before.shape[:2]
    middle = np.s_[high // 3 : high // 2, wide // 3 : 2 * wide // 3]
    straight = np.abs(after[middle] - before[middle]).mean()
    assert straight < 1.0 or straight < np.abs(after[middle][:, ::-1] - before[middle]).mean() / 4


@pytest.mark.parametrize(
    ("kept", "told"), [(150, "1.5"), (200, "2"), (100, None), ("many", None), (900, None)]
)
def test_everything_can_be_larger(
    kept: object, told: str | None, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.delenv("QT_SCALE_FACTOR", raising=False)
    settings = QSettings(str(tmp_path / "own.ini"), QSettings.Format.IniFormat)
    settings.setValue("preferences/size_percent", kept)
    size_before_start(settings)
    assert os.environ.get("QT_SCALE_FACTOR") == told
    monkeypatch.delenv("QT_SCALE_FACTOR", raising=False)
    monkeypatch.setenv("QT_SCALE_FACTOR", "1.25")
    size_before_start(settings)
    assert os.environ["QT_SCALE_FACTOR"] == "1.25"


def test_the_size_is_chosen_in_the_preferences(window: MainWindow) -> None:
    window.show_preferences()
    page = window.preferences_page
    field = page.everything
    field.setFocus()
    field.changed.emit(150.0)
    preferences = Preferences(window.files.settings)
    assert preferences.size_percent == 150
    preferences.size_percent = 100
    page.accept()
