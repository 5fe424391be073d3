"""The controls in the corner of a plan: storey, height of the cut, the whole building, linework."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF
from PySide6.QtWidgets import QMenu

from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import ChoiceBox, button, menu_button
from altana.app.theme.words import tr
from altana.core.model import Model
from altana.core.ranges import CUT_RANGE_M

if TYPE_CHECKING:
    from altana.app.canvas.plan_sheet import PlanSheet


class PlanControls:
    """Lies over one plan."""

    def __init__(self, plan: PlanSheet) -> None:
        self._plan = plan
        self._make()

    def show_model(self, model: Model | None) -> None:
        """Another model: its storeys, the uppermost first, and whether it has linework."""
        self.storeys.clear()
        if model is not None:
            self.storeys.addItems([storey.name for storey in model.storeys[::-1]])
            self.lines_button.setVisible(bool(len(model.linework.points)))
        self.place()

    def _make(self) -> None:
        self.storeys = ChoiceBox()
        self.storeys.setParent(self._plan)
        self.storeys.setAccessibleName(tr("Storey"))
        self.storeys.setToolTip(tr("The storey that the plan shows (keys Ctrl+Page up and Ctrl+Page down)"))
        self.storeys.activated.connect(self._plan.storey_chosen)
        self.cut_field = NumberField(
            tr("Cut height"),
            tr("Height of the cut above the storey's floor (keys [ and ])"),
            "m",
            2,
            0.1,
            CUT_RANGE_M.low,
            CUT_RANGE_M.high,
        )
        self.cut_field.setParent(self._plan)
        self.cut_field.setFixedWidth(66)
        self.cut_field.show_value(self._plan.cut_above_m)
        self.cut_field.changing.connect(self._plan.set_cut)
        self.cut_field.changed.connect(self._plan.set_cut)
        self.fit_button = button(
            tr("Fit"), "onpaper", tr("Show the whole building (key F on the plan)"), self._plan.fit
        )
        self.fit_button.setParent(self._plan)
        tip = tr("Reference lines of drawings: on or off (key K), and which of their layers")
        self.lines_button = menu_button(tr("Lines ▾"), tip, self._fill_lines, "onpaper")
        self.lines_button.setParent(self._plan)
        self.lines_button.hide()

    def _fill_lines(self, menu: QMenu) -> None:
        """All lines, and each layer by its name."""
        scene, lines = self._plan.scene, self._plan.lines
        whole = menu.addAction(tr("Reference lines\tK"), lines.toggle)
        whole.setCheckable(True)
        whole.setChecked(lines.shown)
        menu.addSeparator()
        for name in scene.model.linework.layers if scene is not None else ():
            action = menu.addAction(
                (name or tr("no layer")).replace("&", "&&"), partial(lines.toggle_layer, name)
            )
            action.setCheckable(True)
            action.setChecked(lines.shown and name not in lines.off)

    def boxes(self) -> list[QRectF]:
        """Where they lie on the sheet."""
        mine = (self.storeys, self.cut_field, self.fit_button, self.lines_button)
        return [QRectF(item.geometry()) for item in mine if not item.isHidden()]

    def place(self) -> None:
        """Keep the corner of the sheet, in two lines where it is narrow."""
        x, y = 10, 31
        for item in (self.storeys, self.cut_field, self.fit_button, self.lines_button):
            if item is self.lines_button and item.isHidden():
                continue
            item.adjustSize()
            if x + item.width() > self._plan.width() - 40 and x > 10:
                x, y = 10, y + 28
            item.move(x, y)
            x += item.width() + 4
