"""The tone of finished pictures: worked out anew from their linear masters, without drawing anything
again."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import partial
from pathlib import Path

import numpy as np
import numpy.typing as npt
from PySide6.QtCore import QPointF, QRectF, QSize, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QVBoxLayout, QWidget

from altana.app.canvas.picture_view import image_of
from altana.app.hand_over.curve import CurveEditor
from altana.app.hand_over.tone_tables import ToneTables
from altana.app.theme.number_field import NumberField
from altana.app.theme.plain_text import tip_text
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import Group, Segments, button, check_box, label, stacked
from altana.app.theme.words import tr
from altana.app.workspace.background import Newest
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import Floats, Floats32
from altana.core.edits.shots import change_shots, set_tone
from altana.core.errors import UserError
from altana.core.light.tone import clipped, developed, histogram, proposed_ev
from altana.core.project import NO_TONE, PANORAMA, Shot, Tone
from altana.jobs.masters import read_master
from altana.storage.tables import KeptTables

#: The page shows pictures no larger than this; the files are written in full.
PREVIEW_PX = 960
#: Photographers count the other way round than the bend does.
HIGHLIGHTS = "highlights"
FIELDS = (
    ("exposure_ev", tr("Exposure"), tr("+1 doubles the light"), "EV", 2, 0.1, -10.0, 10.0),
    (
        HIGHLIGHTS,
        tr("Highlights"),
        tr("Below 0 brings back what is bright, above 0 lets it go to white sooner"),
        "",
        2,
        0.05,
        -1.0,
        1.0,
    ),
    ("contrast", tr("Contrast"), tr("An S about the middle"), "", 2, 0.05, -1.0, 1.0),
    (
        "white_k",
        tr("White"),
        tr("The colour temperature that comes out white"),
        "K",
        0,
        100.0,
        2000.0,
        20000.0,
    ),
    ("saturation", tr("Saturation"), tr("0 as it is, -1 grey"), "", 2, 0.05, -1.0, 1.0),
    ("vignette", tr("Vignette"), tr("How much darker the corners are"), "", 2, 0.05, 0.0, 1.0),
    ("glow", tr("Glow"), tr("How far bright things shine over"), "", 2, 0.05, 0.0, 1.0),
    ("sharpen", tr("Sharpen"), tr("At the size of the file"), "", 2, 0.05, 0.0, 2.0),
)


NO_MASTER = tr(
    "This row has no linear master yet. Switch “Keep the linear master” on (Making) and make it once; tone then needs no drawing."
)


def _preview(master: Path) -> tuple[Floats32, Floats32 | None] | str:
    """The light of a master and its coverage, no larger than the page shows; a sentence where it cannot be
    read."""
    try:
        picture = read_master(master)
    except UserError as error:
        return error.sentence
    light, alpha = picture.light, picture.alpha
    step = max(1, -(-light.shape[1] // PREVIEW_PX))
    high, wide = light.shape[0] // step * step, light.shape[1] // step * step
    small = light[:high, :wide].reshape(high // step, step, wide // step, step, 3).mean(axis=(1, 3))
    return np.asarray(small, np.float32), None if alpha is None else alpha[:high:step, :wide:step]


@dataclass(frozen=True, slots=True)
class TonedPicture:
    """A picture under a tone: 8 bits (height, width, 3), its histogram, and what of it is black and white;
    ``wrong`` says why its colour table is not on it."""

    pixels: npt.NDArray[np.uint8]
    histogram: Floats
    clipped: tuple[float, float]
    wrong: str = ""


def _toned(
    light: Floats32,
    ev: float,
    tone: Tone,
    alpha: Floats32 | None,
    tables: KeptTables,
    marks: bool,
    around: bool = False,
) -> TonedPicture:
    """Light under a tone.  marks : blue where all is black, red where a channel is white.  around : of a
    panorama."""
    wrong, table = "", None
    tables.recheck()
    try:
        table = tables.of(tone)
    except UserError as error:
        wrong = error.sentence
    picture = developed(light, ev, tone, alpha, table, around)
    pixels = np.rint(picture * 255).astype(np.uint8)
    if marks:
        pixels[pixels.max(axis=2) == 0] = (40, 70, 200)
        pixels[pixels.max(axis=2) == 255] = (200, 50, 40)
    return TonedPicture(pixels, histogram(picture), clipped(picture), wrong)


class Histogram(QWidget):
    """Shares of red, green and blue by brightness, with what is black and what is white."""

    def __init__(self, tokens: Tokens) -> None:
        super().__init__()
        self._tokens = tokens
        self._values = np.zeros((3, 1))
        self._clipped = (0.0, 0.0)
        self.setMinimumHeight(84)
        self.setAccessibleName(tr("Histogram"))

    def sizeHint(self) -> QSize:
        """Low and wide."""
        return QSize(220, 92)

    def show_values(self, values: np.ndarray, clip: tuple[float, float]) -> None:
        """Another picture's."""
        self._values, self._clipped = values, clip
        self.setToolTip(
            tip_text(
                tr(
                    "Black: {black:.1%} of the picture, white in a channel: {white:.1%}",
                    black=clip[0],
                    white=clip[1],
                )
            )
        )
        self.update()

    def paintEvent(self, _: QPaintEvent) -> None:
        """Three curves and two figures."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(0, 0, self.width(), self.height() - 16)
        painter.fillRect(box, QColor(self._tokens.leaf))
        most = max(float(np.percentile(self._values, 99)) * 1.3, 1e-6)
        for channel, colour in zip(self._values, ("#B4452F", "#1E7B6D", "#4B6C9B"), strict=True):
            across = np.linspace(box.left(), box.right(), len(channel))
            points = [
                QPointF(x, box.bottom() - min(1.0, v / most) * (box.height() - 2))
                for x, v in zip(across.tolist(), channel.tolist(), strict=True)
            ]
            painter.setPen(QPen(QColor(colour), 1.3))
            painter.drawPolyline(QPolygonF(points))
        painter.setFont(text_font(8))
        painter.setPen(QColor(self._tokens.pencil))
        painter.drawText(
            QRectF(0, box.bottom() + 2, self.width(), 13), tr("black {clipped:.1%}", clipped=self._clipped[0])
        )
        text = tr("white {clipped:.1%}", clipped=self._clipped[1])
        painter.drawText(
            QPointF(self.width() - painter.fontMetrics().horizontalAdvance(text), box.bottom() + 13), text
        )
        painter.end()


class TonePage(QWidget):
    """Tones one row of the shot list from its master.  ``shown(image)`` whenever the picture is another."""

    shown = Signal(object)
    write_wanted = Signal()

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        bridge = workspace.bridge
        super().__init__()
        self._bridge = bridge
        #: Light and coverage of the master that is toned.
        self.light_read: tuple[Floats32, Floats32 | None] | None = None
        self._shot: Shot | None = None
        self._ev = 10.0
        #: What is shown.
        self.made: TonedPicture | None = None
        self.setObjectName("chrome")
        self.setFixedWidth(262)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 10, 14, 10)
        column.setSpacing(8)
        self.histogram = Histogram(tokens)
        column.addWidget(self.histogram)
        group = Group(tr("Tone"))
        self._add_fields(group, tokens)
        self.tables = ToneTables(workspace, lambda: self.tone, self._try, self._apply, self._set)
        self.tables.add_to(group)
        self._add_marks(group)
        # It scrolls where the window is low.
        column.addWidget(stacked((group,)), 1)
        self.told = label("", "quiet")
        self.told.setWordWrap(True)
        column.addWidget(self.told)
        self.write = button(
            tr("Write the files again"),
            "primary",
            tr("From the masters: nothing is drawn again"),
            self.write_wanted.emit,
        )
        column.addWidget(self.write)
        background = workspace.background
        self._master = Newest(background, "reading a linear master", self._take)
        self._developed = Newest(background, "toning", self._take_toned, in_turn=True)
        self.follow_project(Path("untitled.altana").resolve())
        bridge.settled.connect(self._follow)

    def _add_fields(self, group: Group, tokens: Tokens) -> None:
        self.whose = Segments(
            [
                (tr("All rows"), tr("The project's tone, for all rows without one of their own")),
                (tr("This row"), tr("A tone of this row's own")),
            ]
        )
        self.whose.chosen.connect(self._own)
        group.add_wide(self.whose)
        self.fields: dict[str, NumberField] = {}
        for name, text, tip, unit, decimals, step, low, high in FIELDS:
            field = NumberField(text, tip, unit, decimals, step, low, high)
            field.changing.connect(partial(self._try, name))
            field.changed.connect(partial(self._set, text, name))
            self.fields[name] = field
            group.add_field(text, field)
        self.curve = CurveEditor(tokens)
        self.curve.changing.connect(lambda points: self._refresh(replace(self.tone, curve=points)))
        self.curve.changed.connect(lambda points: self._apply(tr("Curve"), replace(self.tone, curve=points)))
        group.add_wide(self.curve)

    def _add_marks(self, group: Group) -> None:
        self.propose = button(
            tr("Propose"),
            "small",
            tr("The exposure at which the middle of the picture comes out as middle grey"),
            self._propose,
        )
        self.plain = button(
            tr("As drawn"),
            "small",
            tr("Back to how the Frame shows it"),
            lambda: self._apply(tr("Tone as drawn"), NO_TONE),
        )
        group.add_wide(self.propose, self.plain)
        self.clip_marks = check_box(
            tr("Mark black and white"), tr("Blue where all is black, red where a channel is white")
        )
        self.clip_marks.toggled.connect(self._refresh)
        group.add_wide(self.clip_marks)
        self.before = button(tr("Before"), "small", tr("As drawn, while it is pressed"), checkable=True)
        self.before.toggled.connect(lambda _: self._refresh())
        group.add_wide(self.before)

    def follow_project(self, path: Path) -> None:
        """Where the project lies, with its colour tables."""
        self._tables, self._wrong = KeptTables(path.parent), ""
        self.tables.project_path = path

    @property
    def tone(self) -> Tone:
        """The tone that the row has."""
        shot = self._bridge.project.shot(self._shot.id) if self._shot is not None else None
        return shot.tone if shot is not None and shot.tone is not None else self._bridge.project.tone

    def open(self, shot: Shot | None, ev: float, master: Path | None) -> bool:
        """Tone another row, once its master is read; False where it has none yet."""
        self._shot, self._ev, self.light_read = shot, ev, None
        self._developed.forget()
        there = master is not None and master.is_file()
        self._offer(False)
        self.told.setText(tr("Reading the linear master…") if there else NO_MASTER)
        self._show_fields()
        if master is not None and there:
            self._master.wish(lambda: _preview(master))
        else:
            self._master.forget()
        return there

    def _offer(self, there: bool) -> None:
        for part in (
            *self.fields.values(),
            self.curve,
            self.tables.menu,
            self.tables.share,
            self.propose,
            self.plain,
            self.write,
            self.whose,
            self.before,
            self.clip_marks,
        ):
            part.setEnabled(there)
        # What goes all round has no corners.
        around = self._shot is not None and self._shot.kind == PANORAMA
        self.fields["vignette"].setEnabled(there and not around)

    @property
    def busy(self) -> bool:
        """Whether a picture is being toned."""
        return self._developed.busy

    def _take(self, read: tuple[Floats32, Floats32 | None] | str) -> None:
        if isinstance(read, str):
            self.told.setText(read)
            return
        self.light_read = read
        self._offer(True)
        self.told.setText("")
        self._refresh()

    def _follow(self) -> None:
        if self.isVisible():
            self._show_fields()
            self._refresh()

    def _show_fields(self) -> None:
        shot = self._bridge.project.shot(self._shot.id) if self._shot is not None else None
        self.whose.take(1 if shot is not None and shot.tone is not None else 0)
        for name, shown in self.fields.items():
            shown.show_value(1.0 - self.tone.rolloff if name == HIGHLIGHTS else getattr(self.tone, name))
        tone = self.tone
        self.curve.show_points(tone.curve)
        self.tables.show(tone)

    def _own(self, index: int) -> None:
        shot = self._shot
        if shot is not None:
            tone = self._bridge.project.tone if index == 1 else None
            self._bridge.apply(
                tr("Tone of this row") if index else tr("Tone of all rows"),
                lambda project: change_shots(project, [shot.id], tone=tone),
            )

    def _try(self, name: str, value: float) -> None:
        self._refresh(self._with(name, value))

    def _set(self, text: str, name: str, value: float) -> None:
        self._apply(text, self._with(name, value))

    def _with(self, name: str, value: float) -> Tone:
        """The row's tone with one field set as it is shown."""
        if name == HIGHLIGHTS:
            return replace(self.tone, rolloff=1.0 - value)
        return replace(self.tone, **{name: value})  # type: ignore[arg-type]

    def _apply(self, text: str, tone: Tone) -> None:
        shot = self._bridge.project.shot(self._shot.id) if self._shot is not None else None
        ids = [shot.id] if shot is not None and shot.tone is not None else []
        self._bridge.apply(text, lambda project: set_tone(project, tone, ids))

    def _propose(self) -> None:
        if self.light_read is not None:
            wanted = proposed_ev(*self.light_read)
            self._set(tr("Proposed exposure"), "exposure_ev", round(self._ev - wanted, 2))

    def _refresh(self, tone: Tone | bool | None = None) -> None:
        """Work the picture out again, beside the window."""
        if self.light_read is None:
            return
        wanted = NO_TONE if self.before.isChecked() else tone if isinstance(tone, Tone) else self.tone
        (light, alpha), ev, tables = self.light_read, self._ev, self._tables
        marks = self.clip_marks.isChecked()
        around = self._shot is not None and self._shot.kind == PANORAMA
        self._developed.wish(lambda: _toned(light, ev, wanted, alpha, tables, marks, around))

    def _take_toned(self, toned: TonedPicture) -> None:
        self.made = toned
        # Once, not at every step of a drag.
        if toned.wrong and toned.wrong != self._wrong:
            self._bridge.notices.trouble(toned.wrong)
        self._wrong = toned.wrong
        self.histogram.show_values(toned.histogram, toned.clipped)
        self.shown.emit(image_of(toned.pixels))
