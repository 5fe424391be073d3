"""The project being worked on: applies edits, runs gestures, undoes and tells subscribers.

A gesture (a drag) is ``begin``, any number of ``preview``, then ``commit`` with a label or ``cancel``: one
undo step, or none.  Subscribers hear every change with the project before and after and whether it is only
a preview; previews repaint, commits are worth saving.
"""

from __future__ import annotations

from collections.abc import Callable

from altana.core.edits.locks import respect_locks
from altana.core.history import History, Step
from altana.core.project import Project

Edit = Callable[[Project], Project]
Listener = Callable[[Project, Project, bool], None]


class Document:
    """Holds the current project; the only place where it is swapped."""

    def __init__(self, project: Project) -> None:
        self._project = project
        self._saved = project
        self._started: Project | None = None
        self._history = History()
        self._listeners: list[Listener] = []

    @property
    def project(self) -> Project:
        """The project as shown now, a preview included."""
        return self._project

    @property
    def settled(self) -> Project:
        """The project without the gesture that is going on."""
        return self._started if self._started is not None else self._project

    @property
    def changed(self) -> bool:
        """Whether there is something that was not saved."""
        return self.settled is not self._saved

    @property
    def undo_label(self) -> str | None:
        """Name of the step that undo takes back."""
        return self._history.done[-1].label if self._history.done else None

    @property
    def redo_label(self) -> str | None:
        """Name of the step that redo does again."""
        return self._history.undone[-1].label if self._history.undone else None

    def subscribe(self, listener: Listener) -> None:
        """Call ``listener(before, after, preview)`` on every change."""
        self._listeners.append(listener)

    def apply(self, label: str, edit: Edit, over_locks: bool = False) -> bool:
        """Do one edit as one undo step; False when it changed nothing.  Errors of the edit pass through.

        Raises Refused where it would change what is locked, unless it goes ``over_locks``: another state of
        the whole project.
        """
        self.cancel()
        before = self._project
        after = edit(before) if over_locks else respect_locks(before, edit(before))
        if after == before:
            return False
        self._history.record(Step(label, before, after))
        self._swap(after, preview=False)
        return True

    def amend(self, label: str, edit: Edit) -> bool:
        """Make an edit part of the newest step, if that is still the one with this label and no gesture goes
        on."""
        if self._started is not None or self.undo_label != label or self._history.undone:
            return False
        after = respect_locks(self._project, edit(self._project))
        if after == self._project:
            return False
        self._history.amend(after)
        self._swap(after, preview=False)
        return True

    def begin(self) -> None:
        """Start a gesture; one that was left open is cancelled."""
        self.cancel()
        self._started = self._project

    def preview(self, edit: Edit) -> None:
        """Show an edit of the project as it was when the gesture began."""
        if self._started is None:
            raise RuntimeError("preview outside a gesture")
        self._swap(respect_locks(self._started, edit(self._started)), preview=True)

    def commit(self, label: str) -> bool:
        """End the gesture as one undo step; False when nothing changed in the end."""
        started, self._started = self._started, None
        if started is None:
            return False
        if self._project == started:
            self._swap(started, preview=False)
            return False
        self._history.record(Step(label, started, self._project))
        self._announce(started, self._project, preview=False)
        return True

    def cancel(self) -> None:
        """End the gesture and go back to where it began."""
        started, self._started = self._started, None
        if started is not None:
            self._swap(started, preview=False)

    def undo(self) -> str | None:
        """Take the newest step back; its label, or None."""
        self.cancel()
        step = self._history.back()
        if step is None:
            return None
        self._swap(step.before, preview=False)
        return step.label

    def redo(self) -> str | None:
        """Do the newest undone step again; its label, or None."""
        self.cancel()
        step = self._history.forth()
        if step is None:
            return None
        self._swap(step.after, preview=False)
        return step.label

    def mark_saved(self) -> None:
        """The settled project is what the file holds now."""
        self._saved = self.settled

    def _swap(self, project: Project, preview: bool) -> None:
        before, self._project = self._project, project
        if before is not project or not preview:
            self._announce(before, project, preview)

    def _announce(self, before: Project, after: Project, preview: bool) -> None:
        for listener in self._listeners:
            listener(before, after, preview)
