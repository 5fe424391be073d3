"""Pages for the client, written in the background from what was made."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QUrl, Signal
from PySide6.QtGui import QDesktopServices
from PySide6.QtWidgets import QMenu, QSizePolicy, QVBoxLayout, QWidget

from altana.app.hand_over.shot_rows import ShotRows
from altana.app.theme.widgets import button, menu_button
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.errors import UserError
from altana.core.project import PANORAMA


class ClientPages(QWidget):
    """A menu of pages, and the folder.  ``written`` when there are new files; ``tell`` says how it went."""

    written = Signal()

    def __init__(self, workspace: Workspace, rows: ShotRows, tell: Callable[[str], None]) -> None:
        super().__init__()
        self._bridge, self._studio, self._background = (
            workspace.bridge,
            workspace.studio,
            workspace.background,
        )
        self._list, self._tell = rows, tell
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(7)
        self.sheet_button = menu_button(
            tr("Pages for the client ▾"),
            tr("Pages for the client: contact sheet, presentation, look round"),
            self._fill_pages,
        )
        self.sheet_button.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.open_button = button(
            tr("Open the folder"), "", tr("Show what was made in the file manager"), self._open_folder
        )
        column.addWidget(self.sheet_button)
        column.addWidget(self.open_button)

    def _fill_pages(self, menu: QMenu) -> None:
        kinds = (
            (tr("Contact sheet (PNG)"), ("sheet",), "one"),
            (tr("Presentation, a picture a page (PDF)"), ("presentation",), "one"),
            (tr("Presentation, four a page (PDF)"), ("presentation",), "grid"),
            (tr("Look round in a browser (HTML)"), ("look-round",), "one"),
            (
                tr("Everything for the client (ZIP)"),
                ("sheet", "presentation", "look-round", "index", "zip"),
                "one",
            ),
        )
        panoramas = any(
            row.shot.kind == PANORAMA and row.file and (self._list.out / row.file).is_file()
            for row in self._list.rows
        )
        for words, what, template in kinds:
            wanted = (
                what if panoramas or len(what) == 1 else tuple(name for name in what if name != "look-round")
            )
            action = menu.addAction(words, partial(self.make_pages, wanted, template))
            action.setEnabled(self._studio.scene is not None and (panoramas or what != ("look-round",)))

    def make_pages(self, what: tuple[str, ...], template: str = "one") -> None:
        """Write pages for the client beside the delivery, in the background."""
        scene = self._studio.scene
        if scene is None:
            return
        project, rows, out, model = (
            self._bridge.document.settled,
            self._list.rows,
            self._list.out,
            scene.model,
        )
        self._tell(tr("Writing pages for the client…"))

        def write() -> str:
            from altana.jobs.pages import write_pages

            try:
                return tr(
                    "{name} in {out}.",
                    name=", ".join(
                        path.name for path in write_pages(project, rows, model, out, what, template)
                    ),
                    out=out,
                )
            except UserError as error:
                return error.sentence

        failed = partial(self._tell, tr("No pages were written."))
        self._background.run(tr("writing pages for the client"), write, self._pages_made, failed)

    def _open_folder(self) -> None:
        QDesktopServices.openUrl(QUrl.fromLocalFile(str(self._list.out)))

    def _pages_made(self, sentence: str) -> None:
        self._tell(sentence)
        self.written.emit()
