"""Coverage on the Model desk: what the cameras and walks see of the building, and what none of them ever
shows."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtWidgets import QFileDialog, QListWidget, QListWidgetItem, QWidget

from altana.app.theme.widgets import Group, Segments, button, label
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.checks.coverage import ObjectCoverage, as_csv
from altana.core.errors import UserError
from altana.storage.files import write_atomically

MOST_LISTED = 300


class CoverageGroup(QObject):
    """Asks, lists what is never seen, lays it over the model and the plan, saves the table.

    ``found`` follows a finished look, ``overlaid(on)`` the overlay.
    """

    found = Signal()
    overlaid = Signal(bool)

    def __init__(self, workspace: Workspace, go_to: Callable[[str], object], parent: QWidget) -> None:
        bridge, studio = workspace.bridge, workspace.studio
        super().__init__(parent)
        self._bridge, self._studio, self._parent = bridge, studio, parent
        self.result: tuple[ObjectCoverage, ...] = ()
        self.group = Group(tr("Coverage"))
        self._of = 0
        self.of = Segments(
            [
                (tr("Cameras"), tr("What the cameras see")),
                (tr("And walks"), tr("What the cameras and the walks see")),
            ]
        )
        self.of.take(0)
        self.of.chosen.connect(self._choose)
        self.group.add_wide(self.of)
        self.look_button = button(
            tr("Look"),
            "small",
            tr("Find out what is seen, how large and from where; in the background"),
            self.look,
        )
        self.stop_button = button(tr("Stop"), "small", tr("Leave off"), self.stop)
        self.stop_button.setEnabled(False)
        self.group.add_wide(self.look_button, self.stop_button)
        self.words = label(tr("Not looked at yet."), "quiet")
        self.words.setWordWrap(True)
        self.group.add_wide(self.words)
        self._add_unseen(go_to)
        studio.covering.connect(self._going)
        studio.covered.connect(self._take)
        studio.opened.connect(self._forget)
        self._show()

    def _add_unseen(self, go_to: Callable[[str], object]) -> None:
        self.unseen = QListWidget()
        self.unseen.setAccessibleName(tr("Never seen"))
        self.unseen.setFixedHeight(96)
        self.unseen.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.unseen.itemClicked.connect(lambda item: go_to(str(item.data(Qt.ItemDataRole.UserRole))))
        self.unseen.itemActivated.connect(lambda item: go_to(str(item.data(Qt.ItemDataRole.UserRole))))
        self.group.add_wide(self.unseen)
        self.overlay = button(
            tr("Overlay"),
            "small",
            tr("What is never seen stands out here and on the plan; the rest is faint"),
            self._overlay,
            checkable=True,
        )
        self.save_button = button(
            tr("Save table…"),
            "small",
            tr("All objects with share, distance and camera, as CSV"),
            self._ask_save,
        )
        self.group.add_wide(self.overlay, self.save_button)

    def _choose(self, index: int) -> None:
        self._of = index

    # ------------------------------------------------------------------ looking

    def look(self) -> None:
        """Look at every camera's picture, and at every walk's when they are asked for."""
        project = self._bridge.project
        if self._studio.scene is None or not project.cameras:
            self._bridge.notices.trouble(tr("There is no camera whose picture could be looked at."))
            return
        walks = [walk.id for walk in project.walks] if self._of else []
        self._studio.order_coverage(project, [camera.id for camera in project.cameras], walks)
        self.stop_button.setEnabled(True)
        self.words.setText(tr("Looking…"))

    def stop(self) -> None:
        """Leave off; what was found before stays."""
        self._studio.stop_coverage()
        self._studio.covering.emit(1.0)
        self._show()

    def _going(self, share: float) -> None:
        self.stop_button.setEnabled(share < 1.0)

    def _take(self, result: tuple[ObjectCoverage, ...]) -> None:
        self.result = result
        self._show()
        self.found.emit()
        if self.overlay.isChecked():
            self.overlaid.emit(True)

    def _forget(self) -> None:
        self.result = ()
        self.overlay.setChecked(False)
        self._show()
        self.overlaid.emit(False)
        self.found.emit()

    # ------------------------------------------------------------------ showing

    @property
    def never(self) -> tuple[str, ...]:
        """Ids of the objects that are never seen."""
        return tuple(item.object_id for item in self.result if not item.seen)

    def _show(self) -> None:
        self.stop_button.setEnabled(False)
        self.unseen.clear()
        for item in [item for item in self.result if not item.seen][:MOST_LISTED]:
            row = QListWidgetItem(f"{item.name}  ·  {item.category}")
            row.setData(Qt.ItemDataRole.UserRole, item.object_id)
            row.setToolTip(tr("Never seen. Press: goes there"))
            self.unseen.addItem(row)
        for part in (self.overlay, self.save_button):
            part.setEnabled(bool(self.result))
        self.unseen.setVisible(bool(self.never))
        if self.result:
            seen = len(self.result) - len(self.never)
            self.words.setText(
                tr("{seen} of {result} objects are seen", seen=seen, result=len(self.result))
                + (tr(", never:") if self.never else ".")
            )
            self.group.show_figure(tr("{never} never seen", never=len(self.never)))
        else:
            self.words.setText(tr("Not looked at yet."))
            self.group.show_figure("")

    def _overlay(self) -> None:
        self.overlaid.emit(self.overlay.isChecked())

    def _ask_save(self) -> None:
        path, _ = QFileDialog.getSaveFileName(
            self._parent, tr("Save the table"), "coverage.csv", tr("Table (*.csv)")
        )
        if path:
            self.save(Path(path))

    def save(self, path: Path) -> None:
        """Write the table of all objects."""
        try:
            write_atomically(path, as_csv(self.result).encode(), tr("Nothing else was changed."))
        except UserError as error:
            self._bridge.notices.trouble(error.sentence)
        else:
            self._bridge.notices.done(
                tr("The table of %n objects is in {path}.", "", len(self.result), path=path)
            )
