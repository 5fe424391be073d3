"""The wall cuts of a camera, a row each."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QHBoxLayout, QMenu, QVBoxLayout, QWidget

from altana.app.theme.lengths import length
from altana.app.theme.number_field import NumberField
from altana.app.theme.plain_text import tip_text
from altana.app.theme.widgets import button, menu_button
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.camera.wall_cut import ENDLESS_M, WallCut
from altana.core.edits.bounds import change_wall_cut, remove_wall_cut, turn_wall_cut_over
from altana.core.project import Camera
from altana.core.ranges import CUT_OFFSET_M

THINNEST_NAME = 15
#: How deep a cut goes that takes away only the wall, metres.
WALL_DEEP_M = 0.8


class CutRow(QWidget):
    """One wall cut: on or off, how far into the room, and what else can be done with it."""

    def __init__(self, owner: WallCutRows, index: int) -> None:
        super().__init__()
        self.on = button("", "small", tr("This wall cut on or off"), checkable=True)
        self.on.clicked.connect(lambda: owner.turn(index, self.on.isChecked()))
        self.offset = NumberField(
            tr("Offset"),
            tr("How far the cut lies into the room"),
            "m",
            2,
            0.05,
            CUT_OFFSET_M.low,
            CUT_OFFSET_M.high,
        )
        self.offset.setFixedWidth(64)
        self.offset.changing.connect(partial(owner.preview_offset, index))
        self.offset.changed.connect(partial(owner.push, index))
        self.more = menu_button(
            "▾", tr("More: turn over, how deep it cuts, remove"), partial(owner.fill_cut, index)
        )
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        row.addWidget(self.on, 1)
        row.addWidget(self.offset)
        row.addWidget(self.more)

    def show_cut(self, cut: WallCut, number: int) -> None:
        """Follow one wall cut."""
        name = cut.name or tr("wall cut {number}", number=number)
        short = name if len(name) <= THINNEST_NAME else name[: THINNEST_NAME - 1] + "…"
        if self.on.text() != short:
            self.on.setText(short)
            self.on.setAccessibleName(tr("Wall cut: {name}", name=name))
        self.on.setChecked(cut.on)
        size = (
            "endless"
            if cut.left_m >= ENDLESS_M
            else f"{cut.left_m + cut.right_m:.2f} × {length(cut.down_m + cut.up_m)}"
        )
        self.on.setToolTip(tip_text(tr("Wall cut on {name}, {size}: on or off", name=name, size=size)))
        self.offset.show_value(cut.offset_m)


class WallCutRows(QWidget):
    """Rows for the wall cuts of the shown camera; ``rows`` are those there are now."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self._edits, self._state = workspace.edits, workspace.state
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(3)
        self.rows: list[CutRow] = []

    def show_camera(self, camera: Camera) -> None:
        """Follow the shown camera."""
        while len(self.rows) > len(camera.wall_cuts):
            gone = self.rows.pop()
            self._column.removeWidget(gone)
            gone.hide()
            gone.deleteLater()
        while len(self.rows) < len(camera.wall_cuts):
            self.rows.append(CutRow(self, len(self.rows)))
            self._column.addWidget(self.rows[-1])
        for number, (row, cut) in enumerate(zip(self.rows, camera.wall_cuts, strict=True), 1):
            row.show_cut(cut, number)

    def turn(self, index: int, on: bool) -> None:
        """A wall cut on or off."""
        self._edits.commit(
            tr("Wall cut on") if on else tr("Wall cut off"), lambda c, v: change_wall_cut(c, index, on=v), on
        )

    def preview_offset(self, index: int, offset_m: float) -> None:
        """A wall cut's offset while it is dragged."""
        self._edits.preview(lambda c, v: change_wall_cut(c, index, offset_m=v), offset_m)

    def push(self, index: int, offset_m: float) -> None:
        """A wall cut further into the room, or back."""
        self._edits.commit(tr("Move wall cut"), lambda c, v: change_wall_cut(c, index, offset_m=v), offset_m)

    def fill_cut(self, index: int, menu: QMenu) -> None:
        """What can be done with one wall cut."""
        active = self._state.active
        if active is None or index >= len(active.wall_cuts):
            return
        deep = active.wall_cuts[index].depth_m >= ENDLESS_M
        menu.addAction(
            tr("Keep the other side"),
            lambda: self._edits.do(tr("Turn wall cut over"), lambda c: turn_wall_cut_over(c, index)),
        )
        menu.addAction(
            tr("Take away only the wall") if deep else tr("Take away all before it"),
            lambda: self._deepen(index, not deep),
        )
        menu.addSeparator()
        menu.addAction(
            tr("Remove"), lambda: self._edits.do(tr("Remove wall cut"), lambda c: remove_wall_cut(c, index))
        )

    def _deepen(self, index: int, deep: bool) -> None:
        self._edits.commit(
            tr("Depth of wall cut"),
            lambda c, v: change_wall_cut(c, index, depth_m=v),
            ENDLESS_M if deep else WALL_DEEP_M,
        )
