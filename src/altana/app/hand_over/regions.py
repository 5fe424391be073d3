"""Drawing the region of a row over its picture."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QImage

from altana.app.canvas.picture_view import FIT, read_picture
from altana.app.hand_over.results import ResultsPage
from altana.app.hand_over.shot_rows import ShotRows
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.edits.shots import change_shots
from altana.jobs.shotlist import Row


class Regions(QObject):
    """``drawing`` when a picture is wanted in sight, ``drawn`` when the region is set."""

    drawing = Signal()
    drawn = Signal()

    def __init__(self, workspace: Workspace, rows: ShotRows, results: ResultsPage) -> None:
        super().__init__()
        self._bridge, self._list, self._results = workspace.bridge, rows, results
        #: The row whose region is being drawn.
        self._region_of = ""
        rows.pictures.whole_drawn.connect(self._show_region_picture)
        results.picture.region_drawn.connect(self._take_region)

    def draw(self) -> None:
        """A region is drawn in the picture that was made, or in the small one."""
        chosen = self._list.table.chosen
        row = next((row for row in self._list.rows if row.shot.id in chosen), None)
        if row is None:
            return
        self.drawing.emit()
        path = self._list.out / row.file
        self._results.files.choose(path)
        self._results.viewers.setCurrentWidget(self._results.picture)
        self._results.told.tell(
            tr("Region of {called}: draw a rectangle in its picture.", called=self._called(row))
        )
        image = read_picture(path) if row.shot.region is None and path.is_file() else None
        if image is None:
            if row.shot.region is None:
                image = self._list.pictures.image_of(row)
            self._list.pictures.ask_whole(row)
        self._results.picture.mode = FIT
        self._results.picture.show_picture(image)
        self._results.picture.drawing_region = True
        self._region_of = row.shot.id
        self._bridge.notices.note(
            tr("Draw a rectangle over the picture: only that part is made, at its own pixels.")
        )

    def _called(self, row: Row) -> str:
        return row.item.name if row.item is not None else row.file

    def _show_region_picture(self, shot_id: str, image: QImage) -> None:
        if self._results.picture.drawing_region and shot_id == self._region_of:
            self._results.picture.show_picture(image)

    def _take_region(self, left: float, top: float, right: float, bottom: float) -> None:
        shot = self._region_of
        region = (round(left, 4), round(top, 4), round(right, 4), round(bottom, 4))
        if shot:
            self._bridge.apply(tr("Region"), lambda project: change_shots(project, [shot], region=region))
            self.drawn.emit()
