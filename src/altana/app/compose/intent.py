"""What the picture is to show, a note, and whether it is done."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QCheckBox, QLineEdit, QPlainTextEdit

from altana.app.theme.widgets import Group
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.project import Camera

#: Typing that pauses this long is one undo step.
TYPED_MS = 900


class IntentGroup:
    """What the picture is to show, a note, and whether it is done."""

    def __init__(self, workspace: Workspace) -> None:
        self._edits, self._state = workspace.edits, workspace.state
        self.group = Group(tr("Intent"))
        self.line = QLineEdit()
        self.line.setAccessibleName(tr("Intent"))
        self.line.setPlaceholderText(tr("What should this picture show?"))
        self.line.setToolTip(tr("One line: what the picture is for; goes to captions and the contact sheet"))
        self.line.editingFinished.connect(self._take_line)
        self.group.add_wide(self.line)
        self.note = QPlainTextEdit()
        self.note.setAccessibleName(tr("Note"))
        self.note.setPlaceholderText(tr("A note for yourself"))
        self.note.setFixedHeight(58)
        self.note.setTabChangesFocus(True)
        self._pause = QTimer(self.note)
        self._pause.setSingleShot(True)
        self._pause.setInterval(TYPED_MS)
        self._pause.timeout.connect(self._take_note)
        self.note.textChanged.connect(self._typed)
        self.group.add_wide(self.note)
        self.done = QCheckBox(tr("Done"))
        self.done.setAccessibleName(tr("Done"))
        self.done.setToolTip(tr("This picture is composed as it should be"))
        self.done.clicked.connect(
            lambda checked: self._edits.commit(
                tr("Done") if checked else tr("To do"), lambda c, v: replace(c, done=v), bool(checked)
            )
        )
        self.group.add_wide(self.done)
        self._shown = ""

    def _take_line(self) -> None:
        if self.line.isModified():
            self.line.setModified(False)
            self._edits.commit(tr("Intent"), lambda c, v: replace(c, intent=v), self.line.text().strip())

    def _typed(self) -> None:
        if self.note.toPlainText() != self._shown:
            self._pause.start()

    def _take_note(self) -> None:
        self._shown = self.note.toPlainText()
        active = self._state.active
        if active is not None and active.note != self._shown:
            self._edits.commit(tr("Note"), lambda c, v: replace(c, note=v), self._shown)

    def show_camera(self, camera: Camera) -> None:
        """Show intent, note and whether it is done."""
        if not self.line.isModified():
            self.line.setText(camera.intent)
            # Its beginning is seen where it is longer than the field.
            self.line.setCursorPosition(0)
        if camera.note != self._shown and not self._pause.isActive():
            self._shown = camera.note
            self.note.setPlainText(camera.note)
        self.done.setChecked(camera.done)
        self.group.show_figure(tr("done") if camera.done else tr("to do") if camera.intent else "")
