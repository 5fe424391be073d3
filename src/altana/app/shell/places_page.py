"""Eye and aim as a table of numbers, each in any unit, with their heights above the floor."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QDialog, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import button, label
from altana.app.theme.words import spoken, tr
from altana.core.camera.pose import direction_to
from altana.core.conventions import Vec3
from altana.core.errors import Refused
from altana.core.project import Camera

AXES = (("x", tr("East")), ("y", tr("North")), ("z", tr("Height")))


class PlacesPage(QDialog):
    """Shows where a camera stands and looks; ``moved(eye, aim)`` is called when both were taken.

    floor_of : the height of the floor under a place, None where there is none.
    """

    def __init__(
        self,
        parent: QWidget,
        camera: Camera,
        floor_of: Callable[[Vec3], float | None],
        moved: Callable[[Vec3, Vec3], object],
    ) -> None:
        super().__init__(parent)
        self._floor_of, self._moved = floor_of, moved
        self.setWindowTitle(tr("Eye and aim"))
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 18, 22, 16)
        column.setSpacing(10)
        column.addWidget(label(tr("Eye and aim"), "title"))
        column.addWidget(label(tr("{name}. Metres, or 5'3\", 160 cm, 63 in.", name=camera.name), "quiet"))
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(8)
        self.fields: dict[str, tuple[NumberField, ...]] = {}
        self.heights: dict[str, NumberField] = {}
        for place, (_, words) in enumerate(AXES, 1):
            grid.addWidget(label(words, "quiet"), 0, place)
        grid.addWidget(label(tr("Above floor"), "quiet"), 0, 4)
        for row, (name, point) in enumerate(((tr("Eye"), camera.eye), (tr("Aim"), camera.aim)), 1):
            fields = []
            for place, (axis, words) in enumerate(AXES):
                field = NumberField(f"{name} {axis}", f"{name}: {words.lower()}", "m", 3, 0.1)
                field.show_value(point[place])
                field.changed.connect(lambda _, name=name: self._show_height(name))
                grid.addWidget(field, row, place + 1)
                fields.append(field)
            above = NumberField(
                tr("{name} above floor", name=name),
                tr("{name}: height above the floor under it", name=name),
                "m",
                3,
                0.1,
            )
            above.changed.connect(lambda value, name=name: self._set_height(name, value))
            grid.addWidget(label(name), row, 0)
            grid.addWidget(above, row, 4)
            self.fields[name], self.heights[name] = tuple(fields), above
            self._show_height(name)
        column.addLayout(grid)
        self._add_end(column)

    def _add_end(self, column: QVBoxLayout) -> None:
        self.told = label("", "trouble")
        column.addWidget(self.told)
        row_of = QHBoxLayout()
        row_of.addStretch(1)
        row_of.addWidget(button(tr("Cancel"), "", tr("Leave the camera as it is (Escape)"), self.reject))
        self.take = button(tr("Move the camera"), "primary", tr("Stand it there, looking there"), self._take)
        row_of.addWidget(self.take)
        column.addLayout(row_of)

    def _point(self, name: str) -> Vec3:
        x, y, z = (field.value for field in self.fields[name])
        return x, y, z

    def _show_height(self, name: str) -> None:
        floor = self._floor_of(self._point(name))
        field = self.heights[name]
        field.setEnabled(floor is not None)
        if floor is None:
            field.setText(tr("no floor"))
        else:
            field.show_value(self._point(name)[2] - floor)

    def _set_height(self, name: str, above_m: float) -> None:
        floor = self._floor_of(self._point(name))
        if floor is not None:
            self.fields[name][2].show_value(floor + above_m)

    def _take(self) -> None:
        try:
            direction_to(self._point(tr("Eye")), self._point(tr("Aim")))
        except Refused as error:
            self.told.setText(spoken(error.sentence))
            return
        self.accept()
        self._moved(self._point(tr("Eye")), self._point(tr("Aim")))
