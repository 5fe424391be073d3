"""What stands on the well beside the Frame's picture."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QObject
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QVBoxLayout, QWidget

from altana.app.canvas.aids import AIDS
from altana.app.canvas.frame import FrameView
from altana.app.canvas.frame_well import ROOMY_PX
from altana.app.theme.widgets import button, menu_button, relabel
from altana.app.theme.words import spoken, tr
from altana.core.edits.formats import DESTINATIONS, proportion_text
from altana.core.edits.variants import LADDER_WORDS

if TYPE_CHECKING:
    from altana.app.compose.desk import ComposeDesk


class FrameTools(QObject):
    """What stands on the well beside the picture: held or loose, view history, formats, around, variants."""

    def __init__(self, desk: ComposeDesk, frame: FrameView) -> None:
        super().__init__(frame)
        self._desk, self._frame = desk, frame
        state = desk.state
        self.held = button(
            tr("Held"),
            "onwell",
            tr("Held: moving here edits the camera. Loose: only looking about. (key L)"),
            self._toggle,
        )
        self.back = button("‹", "onwell", tr("The view before (key Backspace)"), lambda: state.go(-1))
        self.forth = button("›", "onwell", tr("The view after (key Shift+Backspace)"), lambda: state.go(1))
        self.back.setAccessibleName(tr("View before"))
        self.forth.setAccessibleName(tr("View after"))
        self.around = button(
            tr("Around"),
            "onwell",
            tr("Surround: see what lies outside the frame, dimmed (key A)"),
            self.toggle_around,
            checkable=True,
        )
        self._add_menus()
        self._left, self._right = QWidget(frame), QWidget(frame)
        left = QHBoxLayout(self._left)
        left.setContentsMargins(0, 0, 0, 0)
        left.setSpacing(3)
        for item in (self.back, self.forth):
            item.setFixedWidth(29)
            left.addWidget(item)
        self._right_column = QVBoxLayout(self._right)
        self._right_column.setContentsMargins(0, 0, 0, 0)
        self._right_column.setSpacing(5)
        self.held.setParent(frame)
        self.around.setParent(frame)
        self.tries.setParent(frame)
        self.checks.setParent(frame)
        self.look.setParent(frame)
        self.chips: list[QPushButton] = []
        self._right_column.addWidget(self.add)
        self._shown: tuple[object, ...] = ()
        self._pressed = tr("not yet")
        frame.installEventFilter(self)
        state.shown_changed.connect(self.show_camera)
        state.selection_changed.connect(self.show_camera)
        state.history_changed.connect(self.show_camera)
        self.show_camera()

    def _add_menus(self) -> None:
        self.look = menu_button(
            tr("Look ▾"),
            tr("Look otherwise: as it will be made, all round from here"),
            self._fill_look,
            "onwell",
        )
        self.tries = menu_button(
            tr("Tries ▾"), tr("Variants: side by side, flick through, ladders"), self._fill_tries, "onwell"
        )
        self.checks = menu_button(
            tr("Check ▾"),
            tr("Checks shown over the picture: verticals, vanishing points, cut faces, gaps"),
            self._fill_checks,
            "onwell",
        )
        self.add = menu_button("+", tr("Another format for this camera"), self._fill_formats, "onwell")

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Keep the corners of the well."""
        if event.type() == QEvent.Type.Resize:
            self._place()
        return super().eventFilter(watched, event)

    def _toggle(self) -> None:
        state = self._desk.state
        if state.held:
            state.let_loose()
        else:
            state.back_to_camera()

    def toggle_around(self) -> None:
        """Show what lies outside the frame, dimmed, or only the frame."""
        self._frame.toggle_surround()
        self.around.setChecked(self._frame.surround)

    def _fill_look(self, menu: QMenu) -> None:
        desk = self._desk
        menu.addAction(tr("As it will be made\tF4"), partial(desk.pictures.look_at, desk.pictures.finished))
        menu.addAction(tr("All round from here\tZ"), partial(desk.pictures.look_at, desk.pictures.round))
        menu.addSeparator()
        outline = menu.addAction(tr("Outline of the chosen object\tAlt+O"), self._frame.over.toggle_outline)
        outline.setCheckable(True)
        outline.setChecked(self._frame.over.outline)

    def _fill_tries(self, menu: QMenu) -> None:
        desk = self._desk
        menu.addAction(tr("Keep a try of this\tT"), desk.pictures.keep_try)
        menu.addAction(tr("Side by side\tShift+T"), lambda: desk.pictures.compare())
        menu.addAction(tr("Flick through\tV"), desk.pictures.flick)
        menu.addSeparator()
        for kind, words in LADDER_WORDS.items():
            menu.addAction(
                tr("Ladder of {words}", words=spoken(words)), partial(desk.pictures.take_ladder, kind)
            )
        menu.addAction(tr("Ladder of lenses of one's own…"), lambda: desk.pictures.ask_ladder())
        menu.addAction(
            tr("Ladder of lenses of one's own, the subject as large…"),
            lambda: desk.pictures.ask_ladder("lens"),
        )

    def _fill_checks(self, menu: QMenu) -> None:
        for name, tip in AIDS.items():
            action = menu.addAction(tip, partial(self.toggle_aid, name))
            action.setCheckable(True)
            action.setChecked(name in self._frame.aids)
        menu.addSeparator()
        menu.addAction(tr("Check all cameras…\tF8"), lambda: self._desk.check_all(True))

    def toggle_aid(self, name: str) -> None:
        """Show an aid over the picture, or no longer."""
        self._frame.over.toggle(name)
        self.show_camera()

    def _fill_formats(self, menu: QMenu) -> None:
        for name, width, height in DESTINATIONS:
            menu.addAction(
                f"{spoken(name)}\t{width} × {height}",
                partial(self._desk.settings.format.add, name, width, height),
            )

    def show_camera(self) -> None:
        """Follow the shown camera."""
        state = self._desk.state
        active = state.active
        flicked = self._frame.override
        there = active is not None
        relabel(
            self.held,
            flicked.name
            if flicked is not None and flicked.name
            else tr("Held")
            if state.held
            else tr("Loose"),
        )
        self.held.setVisible(there or state.overview is not None)
        back, forth = state.can_go
        self.back.setEnabled(back)
        self.forth.setEnabled(forth)
        self.tries.setVisible(there)
        self.around.setVisible(there)
        self.checks.setVisible(there)
        self.look.setVisible(there)
        # Taken like a pressed button while it shows something; narrow, because it stands beside the picture.
        pressed = (
            f"background: {self._desk.tokens.band_text}; color: {self._desk.tokens.band}; font-weight: 600;"
            if self._frame.aids
            else ""
        )
        if pressed != self._pressed:
            self._pressed = pressed
            self.checks.setStyleSheet(f"QToolButton {{ padding: 3px 4px; {pressed} }}")
        self.add.setVisible(there)
        formats = active.all_formats if active is not None else ()
        key = (
            tuple((item.width_px, item.height_px) for item in formats),
            active.format_index if active else 0,
        )
        if key != self._shown:
            self._shown = key
            self._make_chips()
        self._place()

    def _make_chips(self) -> None:
        for chip in self.chips:
            self._right_column.removeWidget(chip)
            chip.hide()
            chip.deleteLater()
        self.chips = []
        active = self._desk.state.active
        if active is None:
            return
        for index, item in enumerate(active.all_formats):
            text = proportion_text(item.width_px, item.height_px)
            chip = button(
                text,
                "onwell",
                tr(
                    "{name}, {width_px} × {height_px} (keys F3 and Shift+F3 step through)",
                    name=spoken(item.name),
                    width_px=item.width_px,
                    height_px=item.height_px,
                ),
                partial(self._desk.settings.format.use, index),
                checkable=True,
            )
            chip.setChecked(index == active.format_index)
            self._right_column.insertWidget(index, chip)
            self.chips.append(chip)

    def _place(self) -> None:
        wide, high = self._frame.width(), self._frame.height()
        small = wide < ROOMY_PX
        for item in (self._right, self._left, self.around, self.tries, self.checks, self.look):
            item.setVisible(not small and (item is self._left or self._desk.state.active is not None))
        self._right.adjustSize()
        self._right.move(wide - self._right.width() - 10, 14)
        self._left.adjustSize()
        self._left.move(10, high - self._left.height() - 12)
        self.held.adjustSize()
        self.held.move(10, high - self._left.height() - self.held.height() - 18)
        bottom = high - 12
        for item in (self.tries, self.around, self.checks, self.look):
            item.adjustSize()
            bottom -= item.height()
            item.move(wide - item.width() - 10, bottom)
            bottom -= 6
        self._frame.make_room(
            max(self.held.width(), self._left.width(), self._frame.ways.sizeHint().width()) + 16,
            max(item.width() for item in (self._right, self.tries, self.around, self.checks, self.look)) + 16,
        )
