"""The settings of Cut-away: near and far bound, wall cuts, what they open, and the mends."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QInputDialog, QMenu, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from altana.app.compose.fields import CameraFields, FieldSpec
from altana.app.theme.widgets import Group, NumberField, button, label, menu_button, side_by_side
from altana.app.workspace.workspace import Workspace
from altana.core.camera.wall_cut import ENDLESS_M, WallCut
from altana.core.conventions import FAR_WHEN_ON_M, NEAR_WHEN_ON_M, Vec3
from altana.core.edits.bounds import (
    add_wall_cut,
    change_wall_cut,
    far_fixed,
    near_fixed,
    remove_wall_cut,
    turn_wall_cut_over,
    with_far,
    with_near,
)
from altana.core.errors import Refused
from altana.core.measures import parse_length
from altana.core.project import Camera
from altana.core.ranges import CUT_OFFSET_M, FAR_M, NEAR_M
from altana.core.walls import (
    Candidate,
    SteppedBack,
    back_through_wall,
    bound_as_wall_cut,
    candidates,
    just_clear,
    pick_wall,
)

THINNEST_NAME = 15

NEAR = FieldSpec(
    "Near", "Distance from the eye along the line of sight", "m", 2, 0.05, "Hide nearer than",
    lambda c: c.near or c.near_m or NEAR_WHEN_ON_M, with_near, NEAR_M,
)  # fmt: skip
FAR = FieldSpec(
    "Far", "Distance from the eye along the line of sight", "m", 1, 1.0, "Hide beyond",
    lambda c: c.far or c.far_m or FAR_WHEN_ON_M, with_far, FAR_M,
)  # fmt: skip


class CutRow(QWidget):
    """One wall cut: on or off, how far into the room, and what else can be done with it."""

    def __init__(self, owner: CutAwayGroup, index: int) -> None:
        super().__init__()
        self.on = button("", "small", "This wall cut on or off", checkable=True)
        self.on.clicked.connect(lambda: owner.turn(index, self.on.isChecked()))
        self.offset = NumberField(
            "Offset", "How far the cut lies into the room", "m", 2, 0.05, CUT_OFFSET_M.low, CUT_OFFSET_M.high
        )
        self.offset.setFixedWidth(64)
        self.offset.changing.connect(partial(owner.preview_offset, index))
        self.offset.changed.connect(partial(owner.move, index))
        self.more = menu_button(
            "▾", "More: turn over, how deep it cuts, remove", partial(owner.fill_cut, index)
        )
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        row.addWidget(self.on, 1)
        row.addWidget(self.offset)
        row.addWidget(self.more)

    def show_cut(self, cut: WallCut, number: int) -> None:
        """Follow one wall cut."""
        name = cut.name or f"wall cut {number}"
        short = name if len(name) <= THINNEST_NAME else name[: THINNEST_NAME - 1] + "…"
        if self.on.text() != short:
            self.on.setText(short)
            self.on.setAccessibleName(f"Wall cut: {name}")
        self.on.setChecked(cut.on)
        size = (
            "endless"
            if cut.left_m >= ENDLESS_M
            else f"{cut.left_m + cut.right_m:.2f} × {cut.down_m + cut.up_m:.2f} m"
        )
        self.on.setToolTip(f"Wall cut on {name}, {size}: on or off")
        self.offset.show_value(cut.offset_m)


class CutAwayGroup(QObject):
    """*Hide nearer than*, *Hide beyond*, wall cuts; what they take away, and one press each to mend what they open."""

    pick_wanted = Signal(bool)

    def __init__(self, workspace: Workspace, fields: CameraFields) -> None:
        super().__init__()
        self._edits, self._bridge, self._state, self._studio = (
            workspace.edits,
            workspace.bridge,
            workspace.state,
            workspace.studio,
        )
        self._notices, self._book = workspace.notices, workspace.book
        self.group = group = Group("Cut-away")
        self.near_on = button(
            "Hide nearer than",
            "small",
            "See past what stands between eye and subject; it keeps casting its shadow",
            self.toggle_near,
            checkable=True,
        )
        self.near = fields.field(NEAR)
        self.near_fixed = _pin("near")
        self.near_fixed.clicked.connect(
            lambda: self._fix("Near bound", near_fixed, self.near_fixed.isChecked())
        )
        self._line(self.near_on, self.near, self.near_fixed)
        self.past = menu_button(
            "Past… ▾", "Put the near bound just past a thing on the line of sight", self._fill_past
        )
        self.past.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.clear = button(
            "Just clear",
            "small",
            "Move the near bound as little as needed so that it opens nothing",
            self.just_clear,
        )
        group.add_wide(side_by_side(self.past, self.clear))
        self.far_on = button(
            "Hide beyond", "small", "Limit the depth behind; the sky stays", self.toggle_far, checkable=True
        )
        self.far = fields.field(FAR)
        self.far_fixed = _pin("far")
        self.far_fixed.clicked.connect(lambda: self._fix("Far bound", far_fixed, self.far_fixed.isChecked()))
        self._line(self.far_on, self.far, self.far_fixed)
        self.removed = label("", "quiet")
        self.removed.setWordWrap(True)
        group.add_wide(self.removed)
        self.dark = button(
            "Dark beyond",
            "small",
            "What lies wholly beyond the far bound throws no sun shadow either",
            self.toggle_dark,
            True,
        )
        self.cap = button(
            "Cap the cut",
            "small",
            "Fill cut faces with poché, as in a drawing",
            self.toggle_cap,
            checkable=True,
        )
        group.add_wide(side_by_side(self.cap, self.dark))
        self.pick = button(
            "Wall cut…",
            "small",
            "Pick a wall in the Frame, on the plan or section: a cut along its inner face (key U)",
            checkable=True,
        )
        self.pick.clicked.connect(lambda: self.pick_wanted.emit(self.pick.isChecked()))
        self.as_cut = button(
            "To wall cut",
            "small",
            "Turn the near bound into a wall cut on the wall it passes",
            self.bound_to_cut,
        )
        group.add_wide(side_by_side(self.pick, self.as_cut))
        self._rows = QWidget()
        self._column = QVBoxLayout(self._rows)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(3)
        group.add_wide(self._rows)
        self.cut_rows: list[CutRow] = []

    def _line(self, *widgets: QWidget) -> None:
        row = self.group.grid.rowCount()
        line = QHBoxLayout()
        line.setSpacing(4)
        line.addWidget(widgets[0], 1)
        for widget in widgets[1:]:
            if isinstance(widget, NumberField):
                widget.setFixedWidth(74)
            line.addWidget(widget)
        self.group.grid.addLayout(line, row, 0, 1, 2)

    # ------------------------------------------------------------------ near and far

    def toggle_near(self) -> None:
        """The near bound on or off."""
        on = self.near_on.isChecked()
        self._edits.commit(
            "Hide nearer than",
            lambda c, v: with_near(c, (c.near or c.near_m or NEAR_WHEN_ON_M) if v else None),
            on,
        )

    def toggle_far(self) -> None:
        """The far bound on or off."""
        on = self.far_on.isChecked()
        self._edits.commit(
            "Hide beyond", lambda c, v: with_far(c, (c.far or c.far_m or FAR_WHEN_ON_M) if v else None), on
        )

    def _fix(self, name: str, change: Any, fixed: bool) -> None:
        self._edits.commit(
            f"{name} {'fixed in the building' if fixed else 'at a distance'}",
            lambda c, v: change(c, v),
            fixed,
        )

    def toggle_dark(self) -> None:
        """Whether what lies beyond the far bound throws shadows."""
        self._edits.commit("Far bound and light", lambda c, v: replace(c, far_dark=v), self.dark.isChecked())

    def toggle_cap(self) -> None:
        """Whether cut faces are filled."""
        self._edits.commit("Cap the cut", lambda c, v: replace(c, cap=v), self.cap.isChecked())

    def _ahead(self) -> tuple[Candidate, ...]:
        scene, active = self._studio.scene, self._state.active
        return (
            candidates(scene.model, scene.rays, scene.bodies, active)
            if scene is not None and active is not None
            else ()
        )

    def _fill_past(self, menu: QMenu) -> None:
        found = self._ahead()
        for item in found:
            opens = f"opens {len(item.opened)}" if item.opened else "opens nothing"
            action = menu.addAction(f"{item.name}\t{item.near_m:.2f} m, {opens}")
            action.setToolTip(", ".join(name for _, name in item.opened))
            action.triggered.connect(partial(self.put_past, item.near_m))
        if not found:
            menu.addAction("Nothing stands before what is looked at").setEnabled(False)

    def put_past(self, near_m: float) -> None:
        """The near bound at a distance, on."""
        self._edits.commit("Past what stands ahead", lambda c, v: with_near(c, v), near_m)

    def just_clear(self) -> None:
        """The near bound moved until it opens nothing."""
        scene = self._studio.scene
        if scene is not None:
            self._edits.do("Just clear", lambda c: just_clear(scene.model, scene.bodies, c))

    # ------------------------------------------------------------------ wall cuts

    def take_wall(self, place: Vec3) -> None:
        """A wall was picked: cut along its inner face."""
        scene = self._studio.scene
        if scene is None:
            return
        self._edits.commit(
            "Wall cut", lambda c, v: add_wall_cut(c, pick_wall(scene.model, scene.rays, c.eye, v)), place
        )

    def bound_to_cut(self) -> None:
        """The near bound becomes a wall cut."""
        scene = self._studio.scene
        if scene is not None:
            self._edits.do("Bound to wall cut", lambda c: bound_as_wall_cut(scene.model, scene.rays, c))

    def turn(self, index: int, on: bool) -> None:
        """A wall cut on or off."""
        self._edits.commit(
            "Wall cut on" if on else "Wall cut off", lambda c, v: change_wall_cut(c, index, on=v), on
        )

    def preview_offset(self, index: int, offset_m: float) -> None:
        """A wall cut's offset while it is dragged."""
        self._edits.preview(lambda c, v: change_wall_cut(c, index, offset_m=v), offset_m)

    def move(self, index: int, offset_m: float) -> None:
        """A wall cut further into the room, or back."""
        self._edits.commit("Move wall cut", lambda c, v: change_wall_cut(c, index, offset_m=v), offset_m)

    def fill_cut(self, index: int, menu: QMenu) -> None:
        """What can be done with one wall cut."""
        active = self._state.active
        if active is None or index >= len(active.wall_cuts):
            return
        deep = active.wall_cuts[index].depth_m >= ENDLESS_M
        menu.addAction(
            "Keep the other side",
            lambda: self._edits.do("Turn wall cut over", lambda c: turn_wall_cut_over(c, index)),
        )
        menu.addAction(
            "Take away only the wall" if deep else "Take away all before it",
            lambda: self._deepen(index, not deep),
        )
        menu.addSeparator()
        menu.addAction(
            "Remove", lambda: self._edits.do("Remove wall cut", lambda c: remove_wall_cut(c, index))
        )

    def _deepen(self, index: int, deep: bool) -> None:
        self._edits.commit(
            "Depth of wall cut", lambda c, v: change_wall_cut(c, index, depth_m=v), ENDLESS_M if deep else 0.8
        )

    # ------------------------------------------------------------------ back through the wall

    def fill_back(self, menu: QMenu) -> None:
        """Wanted widths of the far wall."""
        menu.addAction("All of the far wall", lambda: self.go_back(None))
        for width in (2.0, 3.0, 4.0, 6.0):
            menu.addAction(f"{width:g} m of it", partial(self.go_back, width))
        menu.addAction("Another width…", self.ask_back)

    def ask_back(self) -> None:
        text, said = QInputDialog.getText(
            self.group, "Back through wall", "Width of the far wall that should be in the picture", text="3 m"
        )
        if not said:
            return
        try:
            self.go_back(parse_length(text))
        except Refused as error:
            self._notices.trouble(error.sentence)

    def go_back(self, width_m: float | None) -> None:
        """Back along the line of sight, through the wall behind if need be, until the width fits."""
        scene = self._studio.scene
        if scene is None:
            return
        made: list[SteppedBack] = []

        def change(camera: Camera) -> Camera:
            made.append(back_through_wall(scene.model, scene.rays, camera, width_m, scene.bodies))
            return made[-1].camera

        self._edits.do("Back through wall", change)
        if made:
            self._notices.done(made[-1].sentence)

    # ------------------------------------------------------------------ showing

    def show_camera(self, camera: Camera, usable: bool) -> None:
        """Follow the shown camera."""
        near, far = camera.near_m is not None, camera.far_m is not None
        for item, on in (
            (self.near_on, near),
            (self.far_on, far),
            (self.near_fixed, camera.near_at is not None),
            (self.far_fixed, camera.far_at is not None),
            (self.dark, camera.far_dark),
            (self.cap, camera.cap),
        ):
            item.setChecked(on)
        near_parts: tuple[QWidget, ...] = (self.near, self.near_fixed, self.clear, self.as_cut)
        far_parts: tuple[QWidget, ...] = (self.far, self.far_fixed, self.dark)
        for part in near_parts:
            part.setEnabled(usable and near)
        for part in far_parts:
            part.setEnabled(usable and far)
        self._show_removed(camera)
        self.group.show_figure(self.figure(camera))
        if self.group.folded:
            return
        while len(self.cut_rows) > len(camera.wall_cuts):
            gone = self.cut_rows.pop()
            self._column.removeWidget(gone)
            gone.hide()
            gone.deleteLater()
        while len(self.cut_rows) < len(camera.wall_cuts):
            self.cut_rows.append(CutRow(self, len(self.cut_rows)))
            self._column.addWidget(self.cut_rows[-1])
        for number, (row, cut) in enumerate(zip(self.cut_rows, camera.wall_cuts, strict=True), 1):
            row.show_cut(cut, number)

    def _show_removed(self, camera: Camera) -> None:
        """What the far bound takes out of the picture, and the distance that brings it back."""
        found = self._book.of(camera) if camera.far is not None else None
        words = ""
        if camera.near_m is not None and camera.near is None:
            words = "The near bound lies behind the eye: it hides nothing."
        if found is not None:
            lost = found.far
            parts = [f"{lost.model_share * 100:.0f} % of the model left out"]
            if lost.time_saved > 0.02:
                parts.append(f"{lost.time_saved * 100:.0f} % of the time saved")
            if lost.removed:
                first = lost.removed[0]
                parts.append(
                    f"{len(lost.removed)} seen things gone; {first.name} is back at {first.back_at_m:.1f} m"
                )
            words = "; ".join(parts) + "."
        if self.removed.text() != words:
            self.removed.setText(words)
            self.removed.setToolTip(
                "\n".join(
                    f"{item.name}: back at {item.back_at_m:.1f} m"
                    for item in (found.far.removed[:12] if found else ())
                )
            )
        self.removed.setVisible(bool(words))

    def figure(self, camera: Camera) -> str:
        """The key figures beside the heading."""
        near = f"{camera.near:.2f} m" if camera.near is not None else ""
        far = f"{camera.far:.0f} m" if camera.far is not None else ""
        parts = [f"{near} – {far}".strip(" –")] if near or far else []
        if camera.cuts:
            parts.append(f"{len(camera.cuts)} wall cut{'s' if len(camera.cuts) > 1 else ''}")
        return " · ".join(parts) or "off"


def _pin(which: str) -> QPushButton:
    made = button(
        "fixed",
        "small",
        f"The {which} bound stays where it is in the building when the eye moves; otherwise it goes with the eye",
        checkable=True,
    )
    made.setAccessibleName(f"{which} bound fixed in the building")
    made.setFixedWidth(42)
    made.setFocusPolicy(Qt.FocusPolicy.TabFocus)
    return made
