"""The line of facts under the Frame; a fact in trouble is a button that mends it or goes there."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QMenu, QPushButton, QSizePolicy, QWidget

from altana.app.theme.lengths import length
from altana.app.theme.plain_text import tip_text
from altana.app.theme.widgets import button, label, menu_button, relabel
from altana.app.theme.words import spoken, tr
from altana.core.checks.camera_check import CameraCheck, Trouble, troubles
from altana.core.checks.composition import Composition
from altana.core.checks.perspective import perspective
from altana.core.lens import stretch_grade, stretch_limits
from altana.core.project import Camera, Limits
from altana.jobs.shotlist import NearThing

TIPS = {
    "size": tr("Picture size"),
    "view": tr("Angles of view, across and up"),
    "stretch": tr("How much the worst corner is drawn out"),
    "lean": tr(
        "Lean of verticals at the frame's edge, and how far the worst vertical edge in view is off, in pixels"
    ),
    "points": tr("One-, two- or three-point, and the turn that is missing to the next simpler one"),
    "cut faces": tr("What the bounds open; with nothing opened there is nothing to say"),
    "depth": tr("How many times larger the nearest subject appears than the farthest of equal size"),
    "shares": tr("Shares of the frame: floor, ceiling, sky, ground"),
}
#: Which facts stay when there is little room, most wanted first.
KEPT = ("size", "view", "stretch", "lean", "cut faces", "points", "shares", "depth")
#: Trouble, worst first: where there is no room for all of it, the least is folded into a list.
WORST = ("eye", "cut", "gap", "far", "lean", "stretch", "edges")
SPACING, EDGES = 14, 28
PLUMB_TIP = tr("Verticals lean. Press: Plumb makes them upright.")


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
        #: What is in trouble, and what of it stands in the list behind ``more``.
        self._told: set[str] = set()
        self.folded: list[str] = []
        row.addStretch(1)
        for name, tip in TIPS.items():
            field = label("")
            # Figures only, with the heavier ones marked; names stand on buttons, which know no markup.
            field.setTextFormat(Qt.TextFormat.RichText)
            field.setToolTip(tip_text(tip))
            self.labels[name] = field
            row.addWidget(field)
            if name in ("stretch", "lean"):
                self._trouble(row, name)
        for name in ("cut", "gap", "far", "edges"):
            self._trouble(row, name)
        self._trouble(row, "eye")
        self.more = menu_button("…", tr("What else the checks found"), self._list_rest, "fact")
        self.more.hide()
        row.addWidget(self.more)
        row.addStretch(1)

    def _trouble(self, row: QHBoxLayout, name: str) -> None:
        # What it says and what pressing it does come with the first trouble.
        mend_button = button("…", "fact", tr("What the checks found"), lambda: self.mend.emit(name))
        mend_button.hide()
        self.buttons[name] = mend_button
        row.addWidget(mend_button)

    def _say(self, name: str, text: str) -> None:
        shown = self.labels[name]
        if shown.text() != text:
            shown.setText(text)
            self._fit()

    def _fit(self) -> None:
        """Where not all has room, what matters least goes first; trouble stays, or is listed."""
        needed = EDGES + self._fit_troubles()
        for name in KEPT:
            shown = self.labels[name]
            wide = shown.sizeHint().width() + SPACING if shown.text() else 0
            fits = needed + wide <= self.width()
            if shown.isHidden() == (bool(wide) and fits):
                shown.setVisible(bool(wide) and fits)
            needed += wide if fits else 0

    def _fit_troubles(self) -> int:
        """Show as much trouble as there is room for, the rest in a list; how much room it takes."""
        names = [name for name in WORST if name in self._told]
        wide = {name: self.buttons[name].sizeHint().width() + SPACING for name in names}
        rest = self.more.sizeHint().width() + SPACING
        folded: list[str] = []
        while (
            len(names) > 1
            and EDGES + sum(wide[name] for name in names) + (rest if folded else 0) > self.width()
        ):
            folded.insert(0, names.pop())
        if folded != self.folded:
            self.folded = folded
            self.more.setText(tr("%n more", "", len(folded)))
        for name, item in self.buttons.items():
            if item.isHidden() == (name in names):
                item.setVisible(name in names)
        if self.more.isHidden() == bool(folded):
            self.more.setVisible(bool(folded))
        return sum(wide[name] for name in names) + (rest if folded else 0)

    def _list_rest(self, menu: QMenu) -> None:
        for name in self.folded:
            menu.addAction(self.buttons[name].text(), partial(self.mend.emit, name))

    def place_of(self, name: str) -> QWidget:
        """Where a fact in trouble is pressed."""
        return self.more if name in self.folded else self.buttons[name]

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
        item.setToolTip(tip_text(tip or tr("What the checks found")))
        item.setAccessibleName(text or tr("What the checks found"))
        if not text and name not in self._told:
            return
        if text:
            self._told.add(name)
        else:
            self._told.remove(name)
        self._fit()

    def show_camera(
        self, camera: Camera | None, limits: Limits, trouble: str = "", axes: tuple[float, ...] = ()
    ) -> None:
        """Show a camera's figures; ``trouble`` is what is wrong with where it stands, ``axes`` the walls'
        directions."""
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
        self._say("view", tr("view <b>{across:.1f}° × {high:.1f}°</b>", across=across, high=high))
        self._say("stretch", tr("edge stretch <b>×{stretch:.2f}</b>", stretch=stretch) if not grade else "")
        tip = tr(
            "Calm is up to ×{wide:.2f}, strong from ×{very:.2f}. Press: the next longer lens, with the subject's size held.",
            wide=wide,
            very=very,
        )
        self._warn("stretch", tr("! edge stretch ×{stretch:.2f}", stretch=stretch) if grade else "", tip)
        true = abs(lean) < 5e-4 and abs(camera.roll_deg) < 1e-9
        down = camera.looks_down
        self._leaning = "" if true or down or abs(lean) < 1.0 else tr("lean {lean:.1f}°", lean=lean)
        upright = (
            tr("lean <b>0.0°</b>")
            if true
            else ""
            if self._leaning
            else tr("lean <b>{lean:.1f}°</b>", lean=lean)
        )
        self._say("lean", tr("<b>straight down</b>") if down else upright)
        self._warn("lean", tr("{leaning} · plumb", leaning=self._leaning) if self._leaning else "", PLUMB_TIP)
        seen = perspective(view, axes)
        missing = (
            tr(", {missing_deg:.1f}° off", missing_deg=seen.missing_deg) if seen.points > 1 and axes else ""
        )
        self._say(
            "points",
            tr("as a plan")
            if down
            else tr("<b>{points}-point</b>{missing}", points=seen.points, missing=missing),
        )
        self.labels["points"].setToolTip(tip_text(f"{TIPS['points']}: {spoken(seen.words)}"))
        self._warn("eye", _in_short(trouble), tr("Press: back to standing height on the floor"))

    def show_round(self, camera: Camera, width_px: int, near: Sequence[NearThing], trouble: str = "") -> None:
        """The figures of the panorama from a camera's place: those of its picture would say nothing of it."""
        self._found = None
        for name in self.labels:
            self._say(name, "")
        for name in self.buttons:
            self._warn(name, "")
        self._say("size", f"<b>{width_px} × {width_px // 2}</b>")
        self._say("view", tr("view <b>360° × 180°</b>"))
        self._say("stretch", tr("<b>{width_px:.1f}</b> px a degree", width_px=width_px / 360.0))
        self._say("points", tr("front <b>{heading_deg:.0f}°</b>", heading_deg=camera.heading_deg % 360.0))
        if near:
            nearest = min(near, key=lambda item: item.away_m)
            self._say("depth", tr("nearest <b>{away_m}</b>", away_m=length(nearest.away_m)))
        self._warn("eye", _in_short(trouble), tr("Press: back to standing height on the floor"))

    def show_check(self, checks: CameraCheck | None, camera: Camera | None, limits: Limits) -> None:
        """Show what was found in the picture."""
        self._found = checks
        if checks is None or camera is None:
            for name in ("shares", "depth", "cut faces"):
                self._say(name, "")
            for name in ("edges", "cut", "gap", "far"):
                self._warn(name, "")
            return
        composition = checks.composition
        names = ("floor", "ceiling", "sky", "ground")
        parts = [
            f"{spoken(name)} <b>{getattr(composition, name) * 100:.0f}</b>"
            for name in names
            if getattr(composition, name) >= 0.03
        ]
        self._say("shares", " ".join(parts[:4]) + " %" if parts else "")
        deep = composition.depth_ratio
        self._say(
            "depth",
            tr("depth <b>×{deep:.1f}</b>", deep=deep) + (" !" if deep > limits.depth_ratio else "")
            if deep > 1.5
            else "",
        )
        by_code = {item.code: item for item in troubles(camera, checks, limits)}
        self._show_cuts(checks, camera, by_code.get("cut"))
        gap = by_code.get("gap") or by_code.get("ground")
        self._warn(
            "gap",
            f"! {spoken(gap.words)}" if gap else "",
            tr("{sentence}\nPress: mends, and going there", sentence=spoken(gap.sentence)) if gap else "",
        )
        lost = by_code.get("far")
        self._warn(
            "far",
            f"! {spoken(lost.words)}" if lost else "",
            tr("{sentence}\nPress: mends", sentence=spoken(lost.sentence)) if lost else "",
        )
        upright = by_code.get("verticals")
        if upright is not None:
            text = tr("{leaning} · plumb", leaning=self._leaning or spoken(upright.words))
            self._warn("lean", text, f"{spoken(upright.sentence)} {PLUMB_TIP}")
        self._show_edges(composition)

    def _show_edges(self, composition: Composition) -> None:
        """What the frame cuts, and what it only grazes."""
        grazed = [edge for edge in composition.edges if edge.grazes]
        cut = [edge for edge in composition.edges if not edge.grazes]
        tip = "\n".join(
            [
                tr(
                    "cut by the frame: {name}, {share_inside:.0f} % inside",
                    name=edge.name,
                    share_inside=edge.share_inside * 100,
                )
                for edge in cut[:6]
            ]
            + [
                tr(
                    "only grazed: {name}, {share_inside:.0f} % inside",
                    name=edge.name,
                    share_inside=edge.share_inside * 100,
                )
                for edge in grazed[:6]
            ]
        )
        text = tr("! edge grazes {name}", name=grazed[0].name) if grazed else ""
        self._warn("edges", text[:34], tip + tr("\nPress: chooses it in the Frame"))

    def _show_cuts(self, checks: CameraCheck, camera: Camera, trouble: Trouble | None) -> None:
        opened = checks.cut.opened
        names = ", ".join(name for _, name in opened[:8]) + (
            tr(" and %n more", "", len(opened) - 8) if len(opened) > 8 else ""
        )
        text = (
            f"! {spoken(trouble.words)}"
            if trouble
            else tr("opens {opened}", opened=len(opened))
            if opened
            else ""
        )
        self._warn(
            "cut", text, tr("The bounds open: {names}\nPress: mends, and the opened objects", names=names)
        )
        self._say(
            "cut faces",
            tr("cut faces <b>0 %</b>") if (camera.near is not None or camera.cuts) and not opened else "",
        )

    @property
    def opened(self) -> tuple[tuple[str, str], ...]:
        """Ids and names of what the bounds open."""
        return self._found.cut.opened if self._found is not None else ()

    @property
    def grazed(self) -> str:
        """The id of the object that the edge grazes most, or nothing."""
        checks = self._found
        return (
            next((edge.object_id for edge in checks.composition.edges if edge.grazes), "")
            if checks is not None
            else ""
        )


def _in_short(trouble: str) -> str:
    """A sentence about a place as one of the facts: it begins small and ends without a stop."""
    short = spoken(trouble).removesuffix(".")
    return f"! {short[:1].lower()}{short[1:]}" if short else ""
