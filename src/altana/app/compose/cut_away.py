"""The settings of Cut-away: near and far bound, wall cuts, what they open, and the mends."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QSizePolicy, QWidget

from altana.app.compose.back_through import BackThrough
from altana.app.compose.fields import CameraFields, FieldSpec
from altana.app.compose.wall_cut_rows import WallCutRows
from altana.app.theme.lengths import length
from altana.app.theme.number_field import NumberField
from altana.app.theme.plain_text import tip_text
from altana.app.theme.widgets import Group, button, label, menu_button, side_by_side
from altana.app.theme.words import spoken, tr
from altana.app.workspace.workspace import Workspace
from altana.core.camera.wall_cut import WallCut
from altana.core.conventions import FAR_WHEN_ON_M, NEAR_WHEN_ON_M, Vec3
from altana.core.edits.bounds import add_wall_cut, far_fixed, near_fixed, with_far, with_near
from altana.core.past import Candidate, bound_as_wall_cut, candidates, just_clear
from altana.core.project import Camera
from altana.core.ranges import FAR_M, NEAR_M
from altana.core.walls import pick_wall

NEAR = FieldSpec(
    tr("Near"), tr("Distance from the eye along the line of sight"), "m", 2, 0.05, tr("Hide nearer than"),
    lambda c: c.near or c.near_m or NEAR_WHEN_ON_M, with_near, NEAR_M,
)  # fmt: skip
FAR = FieldSpec(
    tr("Far"), tr("Distance from the eye along the line of sight"), "m", 1, 1.0, tr("Hide beyond"),
    lambda c: c.far or c.far_m or FAR_WHEN_ON_M, with_far, FAR_M,
)  # fmt: skip


class CutAwayGroup(QObject):
    """*Hide nearer than*, *Hide beyond*, wall cuts; what they take away, and one press each to mend what they
    open."""

    pick_wanted = Signal(bool)

    def __init__(self, workspace: Workspace, fields: CameraFields) -> None:
        super().__init__()
        self._space = workspace
        self.group = group = Group(tr("Cut-away"))
        self._add_bounds(fields)
        self.removed = label("", "quiet")
        self.removed.setWordWrap(True)
        group.add_wide(self.removed)
        self._add_switches()
        self.walls = WallCutRows(workspace)
        group.add_wide(self.walls)
        self.back = BackThrough(workspace, group)

    def _add_bounds(self, fields: CameraFields) -> None:
        group = self.group
        self.near_on = button(
            tr("Hide nearer than"),
            "small",
            tr("See past what stands between eye and subject; it keeps casting its shadow"),
            self.toggle_near,
            checkable=True,
        )
        self.near = fields.field(NEAR)
        self.near_fixed = _pin("near")
        self.near_fixed.clicked.connect(
            lambda: self._fix(tr("Near bound"), near_fixed, self.near_fixed.isChecked())
        )
        self._line(self.near_on, self.near, self.near_fixed)
        self.past = menu_button(
            tr("Past… ▾"), tr("Put the near bound just past a thing on the line of sight"), self._fill_past
        )
        self.past.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.clear = button(
            tr("Just clear"),
            "small",
            tr("Move the near bound as little as needed so that it opens nothing"),
            self.just_clear,
        )
        group.add_wide(side_by_side(self.past, self.clear))
        self.far_on = button(
            tr("Hide beyond"),
            "small",
            tr("Limit the depth behind; the sky stays"),
            self.toggle_far,
            checkable=True,
        )
        self.far = fields.field(FAR)
        self.far_fixed = _pin("far")
        self.far_fixed.clicked.connect(
            lambda: self._fix(tr("Far bound"), far_fixed, self.far_fixed.isChecked())
        )
        self._line(self.far_on, self.far, self.far_fixed)

    def _add_switches(self) -> None:
        group = self.group
        self.dark = button(
            tr("Dark beyond"),
            "small",
            tr("What lies wholly beyond the far bound throws no sun shadow either"),
            self.toggle_dark,
            True,
        )
        self.cap = button(
            tr("Cap the cut"),
            "small",
            tr("Fill cut faces with poché, as in a drawing"),
            self.toggle_cap,
            checkable=True,
        )
        group.add_wide(side_by_side(self.cap, self.dark))
        self.pick = button(
            tr("Wall cut…"),
            "small",
            tr("Pick a wall in the Frame, on the plan or section: a cut along its inner face (key U)"),
            checkable=True,
        )
        self.pick.clicked.connect(lambda: self.pick_wanted.emit(self.pick.isChecked()))
        self.as_cut = button(
            tr("To wall cut"),
            "small",
            tr("Turn the near bound into a wall cut on the wall it passes"),
            self.bound_to_cut,
        )
        group.add_wide(side_by_side(self.pick, self.as_cut))

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

    def press(self, switch: QPushButton) -> None:
        """A switch of this group by its key; where a lock keeps it, that is said."""
        if switch.isEnabled():
            switch.click()
        else:
            self._space.edits.do(switch.text(), lambda camera: camera)

    def toggle_near(self) -> None:
        """The near bound on or off."""
        on = self.near_on.isChecked()
        self._space.edits.commit(
            tr("Hide nearer than"),
            lambda c, v: with_near(c, (c.near or c.near_m or NEAR_WHEN_ON_M) if v else None),
            on,
        )

    def toggle_far(self) -> None:
        """The far bound on or off."""
        on = self.far_on.isChecked()
        self._space.edits.commit(
            tr("Hide beyond"),
            lambda c, v: with_far(c, (c.far or c.far_m or FAR_WHEN_ON_M) if v else None),
            on,
        )

    def _fix(self, name: str, change: Callable[[Camera, bool], Camera], fixed: bool) -> None:
        self._space.edits.commit(
            f"{name} {'fixed in the building' if fixed else 'at a distance'}", change, fixed
        )

    def toggle_dark(self) -> None:
        """Whether what lies beyond the far bound throws shadows."""
        self._space.edits.commit(
            tr("Far bound and light"), lambda c, v: replace(c, far_dark=v), self.dark.isChecked()
        )

    def toggle_cap(self) -> None:
        """Whether cut faces are filled."""
        self._space.edits.commit(tr("Cap the cut"), lambda c, v: replace(c, cap=v), self.cap.isChecked())

    def _ahead(self) -> tuple[Candidate, ...]:
        scene, active = self._space.studio.scene, self._space.state.active
        return (
            candidates(scene.model, scene.rays, scene.bodies, active)
            if scene is not None and active is not None
            else ()
        )

    def _fill_past(self, menu: QMenu) -> None:
        things = self._ahead()
        for item in things:
            bound = (
                tr("near bound {near_m}", near_m=length(item.near_m)),
                item.opened,
                partial(self.put_past, item.near_m),
            )
            ways = [bound]
            if item.cut is not None:
                cut = (tr("wall cut along it"), item.cut_opened, partial(self.put_cut, item.cut))
                ways.insert(0 if item.by_cut else 1, cut)
            for words, opened, put in ways:
                opens = tr("opens {opened}", opened=len(opened)) if opened else tr("opens nothing")
                action = menu.addAction(f"{item.name}\t{words}, {opens}")
                action.setToolTip(", ".join(name for _, name in opened))
                action.triggered.connect(put)
        if not things:
            menu.addAction(tr("Nothing stands before what is looked at")).setEnabled(False)

    def put_past(self, near_m: float) -> None:
        """The near bound at a distance, on."""
        self._space.edits.commit(tr("Past what stands ahead"), lambda c, v: with_near(c, v), near_m)

    def put_cut(self, cut: WallCut) -> None:
        """A wall cut past what stands obliquely ahead, in the place of the near bound."""
        self._space.edits.commit(
            tr("Past what stands ahead"), lambda c, v: add_wall_cut(with_near(c, None), v), cut
        )

    def just_clear(self) -> None:
        """The near bound moved until it opens nothing."""
        scene = self._space.studio.scene
        if scene is not None:
            self._space.edits.do(
                tr("Just clear"), lambda c: just_clear(scene.model, scene.rays, scene.bodies, c)
            )

    def take_wall(self, place: Vec3) -> None:
        """A wall was picked: cut along its inner face."""
        scene = self._space.studio.scene
        if scene is None:
            return
        self._space.edits.commit(
            tr("Wall cut"), lambda c, v: add_wall_cut(c, pick_wall(scene.model, scene.rays, c.eye, v)), place
        )

    def bound_to_cut(self) -> None:
        """The near bound becomes a wall cut."""
        scene = self._space.studio.scene
        if scene is not None:
            self._space.edits.do(
                tr("Bound to wall cut"), lambda c: bound_as_wall_cut(scene.model, scene.rays, c)
            )

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
        self.walls.show_camera(camera)

    def _show_removed(self, camera: Camera) -> None:
        """What the far bound takes out of the picture, and the distance that brings it back."""
        checks = self._space.book.of(camera) if camera.far is not None else None
        words = ""
        if camera.near_m is not None and camera.near is None:
            words = tr("The near bound lies behind the eye: it hides nothing.")
        if checks is not None:
            lost = checks.far
            parts = [tr("{model_share:.0f} % of the model left out", model_share=lost.model_share * 100)]
            if lost.time_saved > 0.02:
                parts.append(tr("{time_saved:.0f} % of the time saved", time_saved=lost.time_saved * 100))
            if lost.removed:
                first = lost.removed[0]
                parts.append(
                    tr(
                        "{removed} seen things gone; {name} is back at {back_at_m}",
                        removed=len(lost.removed),
                        name=first.name,
                        back_at_m=length(first.back_at_m, 1),
                    )
                )
            words = "; ".join(parts) + "."
        if self.removed.text() != words:
            self.removed.setText(words)
            gone = checks.far.removed[:12] if checks else ()
            tip = "\n".join(
                tr("{name}: back at {back_at_m}", name=item.name, back_at_m=length(item.back_at_m, 1))
                for item in gone
            )
            self.removed.setToolTip(tip_text(tip))
        self.removed.setVisible(bool(words))

    def figure(self, camera: Camera) -> str:
        """The key figures beside the heading."""
        near = f"{length(camera.near)}" if camera.near is not None else ""
        far = f"{camera.far:.0f} m" if camera.far is not None else ""
        parts = [f"{near} – {far}".strip(" –")] if near or far else []
        if camera.cuts:
            parts.append(tr("%n wall cuts", "", len(camera.cuts)))
        return " · ".join(parts) or tr("off")


def _pin(which: str) -> QPushButton:
    pin = button(
        tr("fixed"),
        "small",
        tr(
            "The {which} bound stays where it is in the building when the eye moves; otherwise it goes with the eye",
            which=spoken(which),
        ),
        checkable=True,
    )
    pin.setAccessibleName(tr("{which} bound fixed in the building", which=spoken(which)))
    pin.setFixedWidth(42)
    pin.setFocusPolicy(Qt.FocusPolicy.TabFocus)
    return pin
