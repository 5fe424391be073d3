"""Others who write the same project: noticed while it is open, and never overwritten."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, QTimer
from PySide6.QtWidgets import QDialog, QHBoxLayout, QListWidget, QVBoxLayout, QWidget

from altana.app.theme.widgets import button, label
from altana.app.theme.words import spoken, tr
from altana.app.workspace.background import Newest
from altana.app.workspace.notices import Offer
from altana.app.workspace.workspace import Workspace
from altana.core.errors import UserError
from altana.core.merging import Merged, differences, merged
from altana.core.project import Project
from altana.storage.project_file import read_project, write_project
from altana.storage.sharing import digest_of, locked

LOOK_MS = 2000
BOTH, COPY, THEIRS = "both", "copy", "theirs"


class MeetingPage(QDialog):
    """What somebody else changed in the file, and what can be done; ``choice`` says what was chosen, empty
    for nothing."""

    def __init__(self, parent: QWidget, name: str, base: Project, ours: Project, theirs: Project) -> None:
        super().__init__(parent)
        self.choice = ""
        self.both: Merged = merged(base, ours, theirs)
        self.setWindowTitle(tr("Changed by somebody else"))
        self.resize(560, 460)
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 18, 22, 16)
        column.setSpacing(10)
        column.addWidget(label(tr("Changed by somebody else"), "title"))
        explanation = label(
            tr(
                "{name} was saved by somebody else since you opened it. Nothing of either is lost yet.",
                name=name,
            ),
            "quiet",
        )
        explanation.setWordWrap(True)
        column.addWidget(explanation)
        self.lists = []
        for title, lines in (
            (tr("They changed"), [item.words for item in differences(base, theirs)]),
            (tr("You changed"), [item.words for item in differences(base, ours)]),
            (tr("Both changed, differently"), list(self.both.clashes)),
        ):
            if lines or title != tr("Both changed, differently"):
                column.addWidget(label(title, "group"))
                shown = QListWidget()
                shown.setAccessibleName(title)
                shown.addItems([spoken(words) for words in lines] or [tr("nothing")])
                column.addWidget(shown, 1)
                self.lists.append(shown)
        self._add_choices(column)

    def _add_choices(self, column: QVBoxLayout) -> None:
        tip = tr("Both changes in one project")
        if self.both.clashes:
            tip += tr("; where both changed the same, yours")
        row = QHBoxLayout()
        self.take_both = button(tr("Take both"), "primary", tip, lambda: self._choose(BOTH))
        self.keep_copy = button(
            tr("Keep mine as a copy"),
            "",
            tr("Yours goes into another file; theirs is opened"),
            lambda: self._choose(COPY),
        )
        self.read_theirs = button(
            tr("Read theirs"), "", tr("Give up your changes"), lambda: self._choose(THEIRS)
        )
        for part in (self.take_both, self.keep_copy, self.read_theirs):
            row.addWidget(part)
        row.addStretch(1)
        row.addWidget(button(tr("Later"), "quiet", tr("Nothing for now (Escape)"), self.reject))
        column.addLayout(row)

    def _choose(self, choice: str) -> None:
        self.choice = choice
        self.accept()


class Sharing(QObject):
    """Knows what the open project's file held when it was read or written last."""

    def __init__(
        self,
        window: QWidget,
        workspace: Workspace,
        show: Callable[[Project, Path], object],
        save: Callable[[], object],
    ) -> None:
        """show : puts a project on the desks; save : saves what is open, which meets what others saved."""
        super().__init__()
        self._save = save
        self._window, self._bridge, self._notices, self._show = (
            window,
            workspace.bridge,
            workspace.notices,
            show,
        )
        self._path: Path | None = None
        #: The file's content by its digest, and the project that was in it.
        self._digest = ""
        self._base = Project()
        self._stamp: tuple[int, int, int] = (0, 0, 0)
        self._told = ""
        self._read = Newest(workspace.background, "looking at the project's file", self._looked)
        self._timer = QTimer(self)
        self._timer.setInterval(LOOK_MS)
        self._timer.timeout.connect(self.look)

    def follow(self, path: Path, project: Project) -> None:
        """This is open from now on, as its file holds it."""
        self._path, self._base, self._digest, self._told = path, project, digest_of(path), ""
        self._stamp = _stamp(path)
        self._timer.start()

    def forget(self) -> None:
        """What is open has no file yet."""
        self._path = None
        self._timer.stop()

    def stop(self) -> None:
        """Nothing is watched any more."""
        self._timer.stop()

    def look(self) -> None:
        """See whether the file is another by now."""
        path = self._path
        if path is None:
            return
        stamp = _stamp(path)
        if stamp != self._stamp and stamp != (0, 0, 0):
            self._stamp = stamp
            self._read.wish(lambda: (path, digest_of(path), _readable(path)))

    def _looked(self, answer: tuple[Path, str, Project | None]) -> None:
        path, digest, theirs = answer
        # What cannot be read is damaged, or somebody is in the middle of it: what is open here stays.
        if path != self._path or theirs is None or digest in ("", self._digest, self._told):
            return
        self._told = digest
        changed = differences(self._base, theirs)
        if not changed:
            self._digest = digest
            return
        words = "; ".join(spoken(item.words) for item in changed[:3])
        more = tr(" and %n more things", "", len(changed) - 3) if len(changed) > 3 else ""
        text = tr("Look at it") if self._bridge.document.changed else tr("Read it")
        self._notices.note(
            tr("{name} was changed by somebody else: {told}{more}.", name=path.name, told=words, more=more),
            Offer(text, self._take_in),
        )

    def _take_in(self) -> None:
        """Read what is in the file now; where something was changed here meanwhile, both are shown first, as
        saving does."""
        path = self._path
        if path is None:
            return
        if self._bridge.document.changed:
            self._save()
            return
        try:
            theirs = read_project(path)
        except UserError as error:
            self._notices.trouble(error.sentence)
            return
        self._show(theirs, path)

    def write(self, path: Path, project: Project) -> bool:
        """Save; False where somebody else's changes were met and nothing was decided.  Raises UserError."""
        with locked(path):
            if path != self._path or digest_of(path) in ("", self._digest):
                write_project(path, project)
                self.follow(path, project)
                return True
        return self.meet()

    def meet(self) -> bool:
        """Show what somebody else changed, and do what is chosen; whether our changes are in the file then.
        Raises UserError."""
        path = self._path
        if path is None:
            return False
        with locked(path):
            theirs, digest = read_project(path), digest_of(path)
        ours = self._bridge.document.settled
        page = MeetingPage(self._window, path.name, self._base, ours, theirs)
        page.exec()
        page.deleteLater()
        if page.choice == BOTH:
            return self._put_together(path, theirs, digest, page.both.project)
        if page.choice == COPY:
            copy = _free(path)
            write_project(copy, ours)
            self._notices.done(tr("Yours is kept as {name}; theirs is open.", name=copy.name))
        if page.choice in (COPY, THEIRS):
            self._show(theirs, path)
        return False

    def _put_together(self, path: Path, theirs: Project, digest: str, both: Project) -> bool:
        """Write both changes, unless the file is another once more since they were shown; then that is
        shown."""
        self._bridge.apply(tr("Take both"), lambda _: both, over_locks=True)
        # From now on ours is what goes beyond theirs.
        self._base, self._digest = theirs, digest
        return self.write(path, self._bridge.document.settled)


def _readable(path: Path) -> Project | None:
    try:
        return read_project(path)
    except UserError:
        return None


def _stamp(path: Path) -> tuple[int, int, int]:
    try:
        at = path.stat()
    except OSError:
        return (0, 0, 0)
    return (at.st_ino, at.st_size, at.st_mtime_ns)


def _free(path: Path) -> Path:
    number, copy = 1, path.with_name(tr("{stem} mine{suffix}", stem=path.stem, suffix=path.suffix))
    while copy.exists():
        number += 1
        copy = path.with_name(
            tr("{stem} mine {number}{suffix}", stem=path.stem, number=number, suffix=path.suffix)
        )
    return copy
