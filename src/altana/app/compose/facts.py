"""The line of facts under the Frame; a fact in trouble is a button that mends it or goes there."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QSizePolicy

from altana.app.theme.lengths import length
from altana.app.theme.plain_text import tip_text
from altana.app.theme.widgets import button, label, relabel
from altana.core.checks.camera_check import CameraCheck, Trouble, troubles
from altana.core.checks.perspective import perspective
from altana.core.lens import stretch_grade, stretch_limits
from altana.core.project import Camera, Limits
from altana.jobs.shotlist import NearThing

TIPS = {
    "size": "Picture size",
    "view": "Angles of view, across and up",
    "stretch": "How much the worst corner is drawn out",
    "lean": "Lean of verticals at the frame's edge, and how far the worst vertical edge in view is off, in pixels",
    "points": "One-, two- or three-point, and the turn that is missing to the next simpler one",
    "cut faces": "What the bounds open; with nothing opened there is nothing to say",
    "depth": "How many times larger the nearest subject appears than the farthest of equal size",
    "shares": "Shares of the frame: floor, ceiling, sky, ground",
}
#: Which facts stay when there is little room, most wanted first.
KEPT = ("size", "view", "stretch", "lean", "cut faces", "points", "shares", "depth")
SPACING = 14
PLUMB_TIP = "Verticals lean. Press: Plumb makes them upright."


class Facts(QFrame):
    """Size, angles of view, edge stretch, lean, depth, shares and what the edges cut."""

    mend = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("band")
        self.setFixedHeight(32)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 0, 14, 0)
        row.setSpacing(SPACING)
        self.labels: dict[str, QLabel] = {}
        self.buttons: dict[str, QPushButton] = {}
        self._leaning = ""
        self._found: CameraCheck | None = None
        row.addStretch(1)
        for name, tip in TIPS.items():
            made = label("")
            # Figures only, with the heavier ones marked; names stand on buttons, which know no markup.
            made.setTextFormat(Qt.TextFormat.RichText)
            made.setToolTip(tip_text(tip))
            self.labels[name] = made
            row.addWidget(made)
            if name in ("stretch", "lean"):
                self._trouble(row, name)
        for name in ("cut", "gap", "far", "edges"):
            self._trouble(row, name)
        self._trouble(row, "eye")
        row.addStretch(1)

    def _trouble(self, row: QHBoxLayout, name: str) -> None:
        made = button(name, "fact", name, lambda: self.mend.emit(name))
        made.hide()
        self.buttons[name] = made
        row.addWidget(made)

    def _say(self, name: str, text: str) -> None:
        shown = self.labels[name]
        if shown.text() != text:
            shown.setText(text)
            self._fit()

    def _fit(self) -> None:
        """Where not all has room, what matters least goes first; trouble always stays."""
        needed = 28
        for item in self.buttons.values():
            needed += item.sizeHint().width() + SPACING if not item.isHidden() else 0
        for name in KEPT:
            shown = self.labels[name]
            wide = shown.sizeHint().width() + SPACING if shown.text() else 0
            fits = needed + wide <= self.width()
            if shown.isHidden() == (bool(wide) and fits):
                shown.setVisible(bool(wide) and fits)
            needed += wide if fits else 0

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Another width has room for more, or for less."""
        super().resizeEvent(event)
        self._fit()

    def minimumSizeHint(self) -> QSize:
        """The facts never make the window wider."""
        return QSize(100, 32)

    def _warn(self, name: str, text: str, tip: str = "") -> None:
        item = self.buttons[name]
        relabel(item, text)
        item.setToolTip(tip_text(tip or name))
        item.setAccessibleName(text or name)
        if item.isHidden() == bool(text):
            item.setVisible(bool(text))
            self._fit()

    def show_camera(
        self, camera: Camera | None, limits: Limits, trouble: str = "", axes: tuple[float, ...] = ()
    ) -> None:
        """Show a camera's figures; ``trouble`` is what is wrong with where it stands, ``axes`` the walls' directions."""
        if camera is None:
            for name in self.labels:
                self._say(name, "")
            for name in self.buttons:
                self._warn(name, "")
            return
        view = camera.view()
        across, high = view.angles_of_view()
        stretch, lean = view.edge_stretch(), view.lean_deg()
        wide, very = stretch_limits(view, limits)
        grade = stretch_grade(view, limits)
        self._say("size", f"<b>{camera.width_px} × {camera.height_px}</b>")
        self._say("view", f"view <b>{across:.1f}° × {high:.1f}°</b>")
        self._say("stretch", f"edge stretch <b>×{stretch:.2f}</b>" if not grade else "")
        tip = f"Calm is up to ×{wide:.2f}, strong from ×{very:.2f}. Press: the next longer lens, with the subject's size held."
        self._warn("stretch", f"! edge stretch ×{stretch:.2f}" if grade else "", tip)
        true = abs(lean) < 5e-4 and abs(camera.roll_deg) < 1e-9
        self._leaning = "" if true or abs(lean) < 1.0 else f"lean {lean:.1f}°"
        self._say("lean", "lean <b>0.0°</b>" if true else "" if self._leaning else f"lean <b>{lean:.1f}°</b>")
        self._warn("lean", f"{self._leaning} · plumb" if self._leaning else "", PLUMB_TIP)
        seen = perspective(view, axes)
        missing = f", {seen.missing_deg:.1f}° off" if seen.points > 1 and axes else ""
        self._say("points", f"<b>{seen.points}-point</b>{missing}")
        self.labels["points"].setToolTip(tip_text(f"{TIPS['points']}: {seen.words}"))
        self._warn(
            "eye",
            f"! {trouble[:-1].lower()}" if trouble else "",
            "Press: back to standing height on the floor",
        )

    def show_round(self, camera: Camera, width_px: int, near: Sequence[NearThing], trouble: str = "") -> None:
        """The figures of the panorama from a camera's place: those of its picture would say nothing of it."""
        self._found = None
        for name in self.labels:
            self._say(name, "")
        for name in self.buttons:
            self._warn(name, "")
        self._say("size", f"<b>{width_px} × {width_px // 2}</b>")
        self._say("view", "view <b>360° × 180°</b>")
        self._say("stretch", f"<b>{width_px / 360.0:.1f}</b> px a degree")
        self._say("points", f"front <b>{camera.heading_deg % 360.0:.0f}°</b>")
        if near:
            nearest = min(near, key=lambda item: item.away_m)
            self._say("depth", f"nearest <b>{length(nearest.away_m)}</b>")
        self._warn(
            "eye",
            f"! {trouble[:-1].lower()}" if trouble else "",
            "Press: back to standing height on the floor",
        )

    def show_check(self, found: CameraCheck | None, camera: Camera | None, limits: Limits) -> None:
        """Show what was found in the picture."""
        self._found = found
        if found is None or camera is None:
            for name in ("shares", "depth", "cut faces"):
                self._say(name, "")
            for name in ("edges", "cut", "gap", "far"):
                self._warn(name, "")
            return
        composition = found.composition
        names = ("floor", "ceiling", "sky", "ground")
        parts = [
            f"{name} <b>{getattr(composition, name) * 100:.0f}</b>"
            for name in names
            if getattr(composition, name) >= 0.03
        ]
        self._say("shares", " ".join(parts[:4]) + " %" if parts else "")
        deep = composition.depth_ratio
        self._say(
            "depth",
            f"depth <b>×{deep:.1f}</b>" + (" !" if deep > limits.depth_ratio else "") if deep > 1.5 else "",
        )
        by_code = {item.code: item for item in troubles(camera, found, limits)}
        self._show_cuts(found, camera, by_code.get("cut"))
        gap = by_code.get("gap") or by_code.get("ground")
        self._warn(
            "gap",
            f"! {gap.words}" if gap else "",
            f"{gap.sentence}\nPress: mends, and going there" if gap else "",
        )
        lost = by_code.get("far")
        self._warn("far", f"! {lost.words}" if lost else "", f"{lost.sentence}\nPress: mends" if lost else "")
        upright = by_code.get("verticals")
        if upright is not None:
            text = f"{self._leaning or upright.words} · plumb"
            self._warn("lean", text, f"{upright.sentence} {PLUMB_TIP}")
        grazed = [edge for edge in composition.edges if edge.grazes]
        cut = [edge for edge in composition.edges if not edge.grazes]
        tip = "\n".join(
            [f"cut by the frame: {edge.name}, {edge.share_inside * 100:.0f} % inside" for edge in cut[:6]]
            + [f"only grazed: {edge.name}, {edge.share_inside * 100:.0f} % inside" for edge in grazed[:6]]
        )
        text = f"! edge grazes {grazed[0].name}" if grazed else ""
        self._warn("edges", text[:34], tip + "\nPress: chooses it in the Frame")

    def _show_cuts(self, found: CameraCheck, camera: Camera, trouble: Trouble | None) -> None:
        opened = found.cut.opened
        names = ", ".join(name for _, name in opened[:8]) + (
            f" and {len(opened) - 8} more" if len(opened) > 8 else ""
        )
        text = f"! {trouble.words}" if trouble else f"opens {len(opened)}" if opened else ""
        self._warn("cut", text, f"The bounds open: {names}\nPress: mends, and the opened objects")
        self._say(
            "cut faces",
            "cut faces <b>0 %</b>" if (camera.near is not None or camera.cuts) and not opened else "",
        )

    @property
    def opened(self) -> tuple[tuple[str, str], ...]:
        """Ids and names of what the bounds open."""
        return self._found.cut.opened if self._found is not None else ()

    @property
    def grazed(self) -> str:
        """The id of the object that the edge grazes most, or nothing."""
        found = self._found
        return (
            next((edge.object_id for edge in found.composition.edges if edge.grazes), "")
            if found is not None
            else ""
        )
