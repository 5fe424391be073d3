"""The first page: projects opened lately, the demo, or a model of one's own."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QHBoxLayout, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from altana.app.theme.plain_text import tip_text
from altana.app.theme.widgets import button, label
from altana.app.theme.words import moment, tr


class StartPage(QDialog):
    """Offers what to begin with.  open_path : opens a project; ask : asks for a file; demo : shows the
    demo."""

    def __init__(
        self,
        parent: QWidget,
        recent: list[Path],
        open_path: Callable[[Path], object],
        ask: Callable[[], object],
        demo: Callable[[], object],
    ) -> None:
        super().__init__(parent)
        self._recent, self._open_path = recent, open_path
        self.setWindowTitle("Altana")
        self.setMinimumWidth(460)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 18)
        column.setSpacing(11)
        column.addWidget(label(tr("Where to begin?"), "title"))
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Projects opened lately"))
        for path in recent:
            day = moment(path.stat().st_mtime)
            item = QListWidgetItem(f"{path.stem}\n{path.parent}   ·   {day}")
            item.setToolTip(tip_text(str(path)))
            self.list.addItem(item)
        self.list.itemActivated.connect(lambda _: self._take())
        self.list.itemClicked.connect(lambda _: self._take())
        if recent:
            column.addWidget(label(tr("Opened lately"), "group"))
            column.addWidget(self.list, 1)
            self.list.setCurrentRow(0)
            self.list.setFocus(Qt.FocusReason.OtherFocusReason)
        else:
            explanation = label(
                tr(
                    "Open a building model (IFC, glTF, USD, OBJ, DAE, DXF …) or a project; or look round in the demo first."
                ),
                "quiet",
            )
            explanation.setWordWrap(True)
            column.addWidget(explanation)
        column.addLayout(self._buttons(ask, demo))

    def _buttons(self, ask: Callable[[], object], demo: Callable[[], object]) -> QHBoxLayout:
        row = QHBoxLayout()
        self.own = button(
            tr("Open a model or project…"),
            "" if self._recent else "primary",
            tr("A file of your own"),
            lambda: self._leave(ask),
        )
        self.demo = button(
            tr("Look at the demo"), "", tr("The made-up Larkwater ferry terminal"), lambda: self._leave(demo)
        )
        row.addWidget(self.own)
        row.addWidget(self.demo)
        row.addStretch(1)
        return row

    def _take(self) -> None:
        number = self.list.currentRow()
        if 0 <= number < len(self._recent):
            path = self._recent[number]
            self._leave(lambda: self._open_path(path))

    def _leave(self, run: Callable[[], object]) -> None:
        self.accept()
        run()
