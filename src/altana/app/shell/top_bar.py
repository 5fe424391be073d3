"""The bar on top: the project with its menu, the desks, undo and redo by name, search."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QMenu, QToolButton, QWidget

from altana.app.shell.search import Entry, SearchField
from altana.app.theme.widgets import button
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace

MODEL, COMPOSE, WALK, HAND_OVER = range(4)
DESKS = (
    (tr("Model"), tr("The building: objects, what is hidden, problems (Ctrl+1)")),
    (tr("Compose"), tr("Stand, aim and frame cameras (Ctrl+2)")),
    (tr("Walk"), tr("Routes and films (Ctrl+3)")),
    (tr("Hand over"), tr("The shot list, its making, and what was made (Ctrl+4)")),
)
WIDEST_LABEL_PX = 170


class TopBar(QWidget):
    """entries : what search finds; fill : puts everything into the menu; choose_desk : goes to a desk by its
    number."""

    def __init__(
        self,
        window: QWidget,
        workspace: Workspace,
        entries: Callable[[str], Iterable[Entry]],
        fill: Callable[[QMenu], object],
        choose_desk: Callable[[int], object],
    ) -> None:
        super().__init__()
        self._bridge = workspace.bridge
        self._fill = fill
        self.setObjectName("chrome")
        self.setFixedHeight(44)
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 0, 14, 0)
        row.setSpacing(4)
        self.project = QToolButton()
        self.project.setObjectName("quiet")
        self.project.setStyleSheet("font-weight: 700; font-size: 15px;")
        self.project.setToolTip(tr("Everything that can be done, by menus (F10)"))
        self.project.setAccessibleName(tr("Menu"))
        self.project.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.menu = QMenu(window)
        self.menu.aboutToShow.connect(self.fill_menu)
        self.project.setMenu(self.menu)
        row.addWidget(self.project)
        row.addSpacing(24)
        self._group = QButtonGroup(self)
        for index, (name, tip) in enumerate(DESKS):
            desk = button(name, "desk", tip, checkable=True)
            self._group.addButton(desk, index)
            row.addWidget(desk)
        self._group.button(COMPOSE).setChecked(True)
        self._group.idClicked.connect(choose_desk)
        row.addStretch(1)
        self.undo = button(
            tr("Undo"), "quiet", tr("Take the last change back (Ctrl+Z)"), workspace.bridge.undo
        )
        self.redo = button(tr("Redo"), "quiet", tr("Do it again (Ctrl+Shift+Z)"), workspace.bridge.redo)
        row.addWidget(self.undo)
        row.addWidget(self.redo)
        self.search = SearchField(window, entries)
        row.addWidget(self.search)

    def fill_menu(self) -> None:
        """Everything that can be done, as it is now."""
        self.menu.clear()
        self._fill(self.menu)

    def show_desk(self, index: int) -> None:
        """Mark a desk as the one in sight."""
        self._group.button(index).setChecked(True)

    def refresh(self, path: Path | None) -> str:
        """Follow the document; what is to be said of its file."""
        document = self._bridge.document
        self.project.setText(f"{self._bridge.project.name}  ▾")
        for item, word, label in (
            (self.undo, tr("Undo"), document.undo_label),
            (self.redo, tr("Redo"), document.redo_label),
        ):
            text = item.fontMetrics().elidedText(
                f"{word} {label}" if label else word, Qt.TextElideMode.ElideRight, WIDEST_LABEL_PX
            )
            if item.text() != text:
                item.setText(text)
            item.setEnabled(label is not None)
        return (
            tr("changes not saved")
            if document.changed
            else tr("saved")
            if path
            else tr("not saved yet")
            if self._bridge.project.models
            else ""
        )
