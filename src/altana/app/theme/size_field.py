"""Width and height in pixels in one line: one side is typed and the other follows, or a common size is chosen
by its name."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QMenu, QWidget

from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import label, menu_button
from altana.app.theme.words import spoken, tr
from altana.core.edits.formats import TEST_PX, fitting

#: Names of sizes with their width and height.
Sizes = Sequence[tuple[str, int, int]]


class SizeField(QWidget):
    """``changed(width, height)`` when another size was typed or chosen.

    sizes : the common ones offered.  free : both sides may be typed, and give another proportion.  even :
    films need even sides.
    """

    changed = Signal(int, int)

    def __init__(
        self, sizes: Sizes, low: float = 16, high: float = 32768, free: bool = False, even: bool = False
    ) -> None:
        super().__init__()
        self._sizes, self._free, self._even = sizes, free, even
        self._now = (1920, 1080)
        #: Height over width, exact: sides that were rounded would bend it a little at every value typed.
        self._upright = 1080 / 1920
        #: The size that is offered as the camera's or walk's own.
        self.own = self._now
        step = 2 if even else 10
        note = tr("10 in, 250 mm, ×2 and 1920 x 1080 are understood; the other side follows")
        self.width_field = NumberField(
            tr("Width"), tr("Pixels across; {note}", note=note), "px", 0, step, low, high
        )
        self.height_field = NumberField(
            tr("Height"), tr("Pixels up; {note}", note=note), "px", 0, step, low, high
        )
        self.width_field.changed.connect(lambda value: self._take(value, value * self._upright, bent=False))
        self.height_field.changed.connect(lambda value: self._take(value / self._upright, value, bent=False))
        for field in (self.width_field, self.height_field):
            field.sides.connect(self._take_sides)
        self.menu = menu_button(tr("Sizes ▾"), tr("Sizes: common ones by name, larger, smaller"), self._fill)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        row.addWidget(self.width_field, 1)
        row.addWidget(label("×", "quiet"))
        row.addWidget(self.height_field, 1)
        row.addWidget(self.menu)

    @property
    def size_px(self) -> tuple[int, int]:
        """Width and height."""
        return self._now

    def show_size(self, width: int, height: int) -> None:
        """Show a size without telling anyone."""
        if (width, height) != self._now:
            self._upright = height / width
        self._now = (width, height)
        self.width_field.show_value(width)
        self.height_field.show_value(height)

    def _take(self, width: float, height: float, bent: bool = True) -> None:
        """Another size; ``bent``: in the proportion of its sides, else in that of before."""
        step, upright = 2 if self._even else 1, self._upright
        sides = [max(16, step * round(side / step)) for side in (width, height)]
        self.show_size(sides[0], sides[1])
        self._upright = self._upright if bent else upright
        self.changed.emit(*self._now)

    def _take_sides(self, width: float, height: float) -> None:
        """Both sides were typed: taken as they are, or as what the picture is to fit into."""
        self._take(*((width, height) if self._free else fitting(*self._now, (width, height), self._even)))

    def _fill(self, menu: QMenu) -> None:
        wide, high = self.own
        menu.addAction(tr("As set\t{wide} × {high}", wide=wide, high=high), partial(self._take, wide, high))
        for text, factor in (
            (tr("Half"), 0.5),
            (tr("Twice as large"), 2.0),
            (tr("Four times as large"), 4.0),
        ):
            menu.addAction(
                f"{text}\t{wide * factor:.0f} × {high * factor:.0f}",
                partial(self._take, wide * factor, high * factor),
            )
        small = fitting(wide, high, (TEST_PX, TEST_PX), self._even)
        menu.addAction(
            tr("A small test\t{wide} × {high}", wide=small[0], high=small[1]), partial(self._take, *small)
        )
        menu.addSeparator()
        for name, width, height in self._sizes:
            size = (width, height) if self._free else fitting(wide, high, (width, height), self._even)
            menu.addAction(f"{spoken(name)}\t{size[0]} × {size[1]}", partial(self._take, *size))
