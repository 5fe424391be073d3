"""The single place where the window listens to the document and passes on what changed."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, Signal

from altana.app.workspace.notices import Notices
from altana.core.document import Document
from altana.core.edits.walks import timed
from altana.core.errors import Refused
from altana.core.project import Project, Walk

Edit = Callable[[Project], Project]
AddingEdit = Callable[[Project], tuple[Project, str]]


class Bridge(QObject):
    """Holds the document; emits by comparing identities before and after.

    ``settled`` follows committed changes only, the others follow previews too.
    """

    cameras_changed = Signal()
    walks_changed = Signal()
    models_changed = Signal()
    patches_changed = Signal()
    light_changed = Signal()
    planned_changed = Signal()
    left_out_changed = Signal()
    name_changed = Signal()
    settled = Signal()
    previewing = Signal(bool)

    def __init__(self, project: Project, notices: Notices) -> None:
        super().__init__()
        self.notices = notices
        self.in_gesture = False
        self._open(Document(project))

    def _open(self, document: Document) -> None:
        self.document = document
        document.subscribe(lambda before, after, preview: self._told(document, before, after, preview))

    @property
    def project(self) -> Project:
        """The project as shown."""
        return self.document.project

    def replace_document(self, project: Project) -> None:
        """Another project: everything changed."""
        self._open(Document(project))
        self.in_gesture = False
        for signal in (
            self.models_changed,
            self.patches_changed,
            self.light_changed,
            self.cameras_changed,
            self.walks_changed,
            self.planned_changed,
            self.left_out_changed,
            self.name_changed,
            self.settled,
        ):
            signal.emit()

    def apply(self, label: str, edit: Edit, over_locks: bool = False) -> bool:
        """One undo step; what the core refuses is said, and nothing changes."""
        try:
            return self.document.apply(label, edit, over_locks)
        except Refused as error:
            self.notices.trouble(error.sentence)
            return False

    def amend(self, label: str, edit: Edit) -> bool:
        """Make an edit part of the newest undo step, if it still has this label."""
        return not self.in_gesture and self.document.amend(label, edit)

    def apply_adding(self, label: str, edit: AddingEdit) -> str:
        """One undo step that adds something; the id of what was added, or nothing when it could not be."""
        created = ""

        def adding(project: Project) -> Project:
            nonlocal created
            after, created = edit(project)
            return after

        return created if self.apply(label, adding) else ""

    def change_walk(self, label: str, walk: Walk, edit: Edit) -> bool:
        """One undo step on a walk; refused with a sentence where it is locked or could no longer be timed."""
        return self.apply(label, lambda project: timed(edit(project), walk.id))

    def undo(self) -> None:
        """Take the last change back."""
        self.document.undo()

    def redo(self) -> None:
        """Do it again."""
        self.document.redo()

    def begin(self) -> None:
        """Start a gesture."""
        self.document.begin()
        self.in_gesture = True
        self.previewing.emit(True)

    def preview(self, edit: Edit) -> None:
        """Show an edit while the gesture goes on; impossible places are skipped."""
        if not self.in_gesture:
            return
        try:
            self.document.preview(edit)
        except Refused:
            return
        except BaseException:
            # A fault in a gesture would come again at every move of the pointer: the gesture ends without a
            # trace.
            self.cancel()
            raise

    def commit(self, label: str) -> None:
        """End the gesture as one undo step."""
        if self.in_gesture:
            self.in_gesture = False
            self.document.commit(label)
            self.previewing.emit(False)

    def cancel(self) -> None:
        """End the gesture without a trace."""
        if self.in_gesture:
            self.in_gesture = False
            self.document.cancel()
            self.previewing.emit(False)

    def _told(self, document: Document, before: Project, after: Project, preview: bool) -> None:
        if document is not self.document:
            return
        if before.models is not after.models:
            self.models_changed.emit()
        if before.patches is not after.patches:
            self.patches_changed.emit()
        if before.light is not after.light:
            self.light_changed.emit()
        if before.cameras is not after.cameras:
            self.cameras_changed.emit()
        if before.walks is not after.walks:
            self.walks_changed.emit()
        if before.planned is not after.planned:
            self.planned_changed.emit()
        if before.left_out is not after.left_out:
            self.left_out_changed.emit()
        if before.name != after.name:
            self.name_changed.emit()
        if not preview:
            self.settled.emit()
