"""Whatever a camera, a model or a file is called: the window shows it letter by letter and reads nothing
because of it."""

from __future__ import annotations

from dataclasses import replace

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QLabel, QWidget

from altana.app.shell.window import MainWindow
from altana.app.theme.plain_text import tip_text
from altana.app.theme.widgets import OneLine, label
from altana.core.edits.cameras import set_camera
from altana.core.edits.walks import set_walk
from altana.core.naming import cell, named, unreserved
from altana.jobs.requests import file_stem
from tests.app.conftest import until

HOSTILE = '<img src="/dev/zero"><b>x</b>&amp;'


def test_labels_and_tips_take_no_markup(application: QApplication) -> None:
    line = OneLine()
    line.tell(HOSTILE)
    for widget in (label(HOSTILE), line):
        assert widget.textFormat() == Qt.TextFormat.PlainText and widget.text() == HOSTILE
    assert "<img" not in tip_text(HOSTILE) and "&lt;img" in tip_text(HOSTILE)
    assert tip_text("Hall, 24 mm") == "Hall, 24 mm"


def test_hostile_names_are_shown_as_they_are_everywhere(window: MainWindow) -> None:
    bridge = window.workspace.bridge
    bridge.apply(
        "x", lambda p: set_camera(p, "cam-01", name=HOSTILE, intent=HOSTILE, note=HOSTILE, group=HOSTILE)
    )
    bridge.apply("x", lambda p: set_walk(p, "walk-01", name=HOSTILE))
    bridge.apply("x", lambda p: replace(p, name=HOSTILE))
    window.workspace.notices.note(HOSTILE)
    for desk in range(4):
        window.going.choose_desk(desk)
        QApplication.processEvents()
        window.grab()
    window.going.choose_desk(3)
    window.handover.list.follow_made()
    until(lambda: window.handover.table.rowCount() > 0, 10)
    rich = [
        item.text()
        for item in window.findChildren(QLabel)
        if item.textFormat() != Qt.TextFormat.PlainText and HOSTILE in item.text()
    ]
    assert rich == []
    tips = [item.toolTip() for item in window.findChildren(QWidget) if "<img" in item.toolTip()]
    table = window.handover.table
    cells = [table.item(row, column) for row in range(table.rowCount()) for column in range(8)]
    tips += [item.toolTip() for item in cells if item is not None and "<img" in item.toolTip()]
    assert tips == []
    rows = window.compose.strip.view.model()
    tips = [rows.index(row, 0).data(Qt.ItemDataRole.ToolTipRole) for row in range(rows.rowCount())]
    assert any("&lt;img" in str(tip) for tip in tips) and not any("<img" in str(tip) for tip in tips)


@pytest.mark.parametrize("name", ["con", "CON", "aux", "lpt1", "com9.tar", "nul"])
def test_no_file_gets_a_name_that_a_system_keeps_for_itself(name: str) -> None:
    for file_name in (
        named(name, {}),
        named("{camera}", {"camera": name}),
        f"{file_stem(name)}.png",
        unreserved(name),
    ):
        first = file_name.partition(".")[0].lower()
        assert first not in {"con", "aux", "lpt1", "com9", "nul"}


def test_a_cell_is_no_formula() -> None:
    assert (
        cell('=HYPERLINK("x")') == '\'=HYPERLINK("x")'
        and cell("@x")[0] == "'"
        and cell("Bench 1") == "Bench 1"
    )
