"""The colour table of a tone: which file, and how far it counts."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QMenu

from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import Group, menu_button
from altana.app.theme.words import tr
from altana.app.workspace.background import Newest
from altana.app.workspace.workspace import Workspace
from altana.core.errors import UserError
from altana.core.project import Tone
from altana.storage.project_file import take_in
from altana.storage.tables import FOLDER, SUFFIX, read_table


class ToneTables:
    """tone : what holds now.  attempt, set_field : a figure while it is dragged, and set.  apply : another
    tone."""

    def __init__(
        self,
        workspace: Workspace,
        tone: Callable[[], Tone],
        attempt: Callable[[str, float], None],
        apply: Callable[[str, Tone], None],
        set_field: Callable[[str, str, float], None],
    ) -> None:
        self._bridge, self._tone, self._try, self._apply, self._set = (
            workspace.bridge,
            tone,
            attempt,
            apply,
            set_field,
        )
        self.project_path = Path("untitled.altana").resolve()
        self._table_read = Newest(workspace.background, "reading a colour table", self._take)

    def add_to(self, group: Group) -> None:
        """The two fields."""
        self.menu = menu_button(
            tr("none ▾"),
            tr("Colour table: a .cube file in the project's folder, put over everything else"),
            self._fill,
        )
        group.add_field(tr("Colour table"), self.menu)
        self.share = NumberField(
            tr("Share of the table"), tr("How far the colour table counts"), "%", 0, 5.0, 0.0, 100.0
        )
        self.share.changing.connect(lambda value: self._try("table_share", value / 100.0))
        self.share.changed.connect(
            lambda value: self._set(tr("Share of the table"), "table_share", value / 100.0)
        )
        self._share_label = group.add_field(tr("Share of it"), self.share)

    def show(self, tone: Tone) -> None:
        """Follow the tone."""
        table = Path(tone.table).stem if tone.table else tr("none")
        self.menu.setText(f"{table} ▾")
        self.share.show_value(tone.table_share * 100.0)
        for part in (self.share, self._share_label):
            part.setVisible(bool(tone.table))

    def _fill(self, menu: QMenu) -> None:
        base = self.project_path.parent
        files = sorted({*base.glob(f"*{SUFFIX}"), *(base / FOLDER).glob(f"*{SUFFIX}")})
        menu.addAction(tr("None"), partial(self.use, None))
        for path in files:
            menu.addAction(path.stem, partial(self.use, path))
        menu.addSeparator()
        menu.addAction(tr("Choose a file…"), self._ask)

    def _ask(self) -> None:
        path, _ = QFileDialog.getOpenFileName(
            self.menu,
            tr("Colour table"),
            str(self.project_path.parent),
            tr("Colour tables (*{suffix})", suffix=SUFFIX),
        )
        if path:
            self.use(Path(path))

    def use(self, path: Path | None) -> None:
        """Put a colour table over the picture; one from elsewhere is copied beside the project.  A large one
        takes a moment."""
        project_path = self.project_path

        def read() -> tuple[str, str]:
            try:
                if path is None:
                    return "", ""
                read_table(path)
                return take_in(path, [], project_path, FOLDER), ""
            except UserError as error:
                return "", error.sentence

        self._table_read.wish(read)

    def _take(self, answer: tuple[str, str]) -> None:
        name, wrong = answer
        if wrong:
            self._bridge.notices.trouble(wrong)
        else:
            self._apply(tr("Colour table"), replace(self._tone(), table=name))
