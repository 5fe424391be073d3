"""How rows are made, kept in files for other rows and other projects."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QMenu

from altana.app.hand_over.chosen_rows import ChosenRows
from altana.app.theme.widgets import menu_button
from altana.app.theme.words import tr
from altana.core.edits.shots import apply_preset
from altana.core.errors import UserError
from altana.storage.files import write_atomically
from altana.storage.presets import SUFFIX, preset_json, read_preset


class RowPresets:
    """A menu of presets."""

    def __init__(self, chosen: ChosenRows) -> None:
        self._chosen = chosen
        self.menu = menu_button(
            tr("Presets ▾"),
            tr("How rows are made, kept for other rows and other projects"),
            self._fill_presets,
        )

    def _fill_presets(self, menu: QMenu) -> None:
        menu.addAction(tr("Keep how this row is made…"), self._save_preset).setEnabled(
            len(self._chosen.rows) == 1
        )
        menu.addAction(tr("Use a file…"), self._use_file).setEnabled(bool(self._chosen.rows))
        files = sorted(self._chosen.presets.glob(f"*{SUFFIX}")) if self._chosen.presets.is_dir() else []
        if files:
            menu.addSeparator()
        for path in files:
            menu.addAction(path.stem, partial(self.use_preset, path)).setEnabled(bool(self._chosen.rows))

    def _save_preset(self) -> None:
        path, _ = QFileDialog.getSaveFileName(
            self.menu,
            tr("Keep preset"),
            str(self._chosen.presets / f"preset{SUFFIX}"),
            tr("Presets (*{suffix})", suffix=SUFFIX),
        )
        if path:
            self.save_preset(Path(path))

    def save_preset(self, path: Path) -> None:
        """Write how the chosen row is made."""
        path = path if path.suffix == SUFFIX else path.with_name(path.name + SUFFIX)
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            write_atomically(path, preset_json(self._chosen.rows[0].shot))
        except UserError as error:
            self._chosen.fail(error.sentence)

    def _use_file(self) -> None:
        path, _ = QFileDialog.getOpenFileName(
            self.menu, tr("Use preset"), str(self._chosen.presets), tr("Presets (*{suffix})", suffix=SUFFIX)
        )
        if path:
            self.use_preset(Path(path))

    def use_preset(self, path: Path) -> None:
        """Make the chosen rows as a file says."""
        try:
            values, ids = read_preset(path), self._chosen.ids
        except UserError as error:
            self._chosen.fail(error.sentence)
            return
        self._chosen.bridge.apply(
            tr("Preset {stem}", stem=path.stem), lambda project: apply_preset(project, ids, values)
        )
