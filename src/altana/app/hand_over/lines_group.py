"""How the lines of rows are drawn: one style by name, changed by its figures, kept as one's own."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QIcon, QPainter, QPen, QPixmap
from PySide6.QtWidgets import QFileDialog, QInputDialog, QMenu, QSizePolicy, QWidget

from altana.app.hand_over.chosen_rows import ChosenRows, show_number
from altana.app.theme.colour_field import ColourField
from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import Group, check_box, menu_button
from altana.app.theme.words import spoken, tr
from altana.core.edits.shots import change_shots
from altana.core.errors import UserError
from altana.core.project import LINES, PENCIL, Project, Shot, Style, free_name
from altana.core.styles import STYLES, called
from altana.storage.files import write_atomically
from altana.storage.presets import STYLE_SUFFIX, read_style, style_json

SAMPLE_PX = QSize(56, 18)

#: The figures of a style: field, name, what it is, unit, decimals, step, lowest and highest.
FIELDS = (
    (
        "outline_px",
        tr("Outlines"),
        tr("Width of outlines, pixels in a picture 1080 px high"),
        "px",
        1,
        0.2,
        0.2,
        40.0,
    ),
    ("crease_px", tr("Creases"), tr("Width of lines within bodies; 0 draws none"), "px", 1, 0.2, 0.0, 40.0),
    ("roughness", tr("Roughness"), tr("How far pencil wavers and overshoots"), "", 2, 0.05, 0.0, 1.0),
    ("hatching", tr("Hatching"), tr("How dark shadows are hatched"), "", 2, 0.05, 0.0, 1.0),
    (
        "seed",
        tr("Hand"),
        tr("Another number draws the same picture with another hand"),
        "",
        0,
        1.0,
        0.0,
        999_999.0,
    ),
)


class LinesGroup:
    """The line style of rows drawn as lines or pencil: one by name, changed by its figures, kept as one's
    own."""

    def __init__(self, chosen: ChosenRows) -> None:
        self._chosen = chosen
        self.group = group = Group(tr("Lines"))
        self.styles = menu_button(tr("Ink ▾"), tr("Line style: one by name, or one of your own"), self._fill)
        group.add_field(tr("Style"), self.styles)
        self.styles.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.styles.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.styles.setIconSize(QSize(28, 16))
        self.styles.menu().setStyleSheet("QMenu { icon-size: 28px; }")
        self.fields: dict[str, NumberField] = {}
        self._pencil_parts: list[QWidget] = []
        for field, name, tip, unit, decimals, step, low, high in FIELDS:
            number_field = NumberField(name, tip, unit, decimals, step, low, high)
            number_field.changed.connect(partial(self._set, name, field))
            self.fields[field] = number_field
            named = group.add_field(name, number_field)
            if field in ("roughness", "hatching", "seed"):
                self._pencil_parts += [named, number_field]
        self._add_colours()

    def _add_colours(self) -> None:
        group = self.group
        self.ink = ColourField(tr("Ink"), tr("Colour of the lines"))
        self.ink.changed.connect(lambda value: self._set(tr("Ink"), "ink", value))
        group.add_field(tr("Ink"), self.ink)
        self.paper = ColourField(tr("Paper"), tr("Colour of the paper"))
        self.paper.changed.connect(lambda value: self._set(tr("Paper"), "paper", value))
        group.add_field(tr("Paper"), self.paper)
        self.hidden = check_box(tr("Hidden lines dashed"), tr("What is behind shows as dashed lines"))
        self.hidden.clicked.connect(lambda on: self._set(tr("Hidden lines"), "hidden", on))
        group.add_wide(self.hidden)

    def _set(self, text: str, field: str, value: object) -> None:
        kind = type(getattr(Style(), field))
        self._restyle(text, lambda style: replace(style, **{field: kind(value)}))

    def _restyle(self, text: str, change: Callable[[Style], Style]) -> None:
        ids = self._chosen.ids

        def edit(project: Project) -> Project:
            for shot_id in ids:
                shot = project.shot(shot_id)
                if shot is not None:
                    project = change_shots(project, [shot_id], style=change(shot.style))
            return project

        self._chosen.apply(text, edit)

    def _fill(self, menu: QMenu) -> None:
        now = self._chosen.rows[0].shot.style if self._chosen.rows else Style()
        for style in STYLES:
            self._offer(menu, style, called(now) == style.name)
        own = sorted(self._chosen.presets.glob(f"*{STYLE_SUFFIX}")) if self._chosen.presets.is_dir() else []
        if own:
            menu.addSeparator()
        for path in own:
            try:
                self._offer(menu, read_style(path), False)
            except UserError:
                menu.addAction(tr("{name} (damaged)", name=path.name)).setEnabled(False)
        menu.addSeparator()
        menu.addAction(tr("Keep this style…"), self._ask_keep)
        menu.addAction(tr("Use a style's file…"), self._ask_file)

    def _offer(self, menu: QMenu, style: Style, chosen: bool) -> None:
        action = menu.addAction(sample(style), spoken(style.name), partial(self.use, style))
        action.setCheckable(chosen)
        action.setChecked(chosen)

    def use(self, style: Style) -> None:
        """Draw the chosen rows in a style; whether hidden lines show, and the hand, stay the row's own."""
        self._restyle(
            tr("Style {name}", name=style.name), lambda now: replace(style, hidden=now.hidden, seed=now.seed)
        )

    def keep(self, name: str) -> None:
        """Keep the first row's style under a name, for all projects."""
        plain = name.strip().replace("/", "-").replace("\0", "").lstrip(".")[:80]
        if not plain or not self._chosen.rows:
            return
        folder = self._chosen.presets
        kept = (
            {path.name.removesuffix(STYLE_SUFFIX) for path in folder.glob(f"*{STYLE_SUFFIX}")}
            if folder.is_dir()
            else set()
        )
        # One of the same name stays as it is.
        plain = free_name(plain, (*kept, *(item.name for item in STYLES)))
        style = replace(self._chosen.rows[0].shot.style, name=plain)
        try:
            self._chosen.presets.mkdir(parents=True, exist_ok=True)
            write_atomically(self._chosen.presets / f"{plain}{STYLE_SUFFIX}", style_json(style))
        except (UserError, OSError) as error:
            self._chosen.fail(
                error.sentence
                if isinstance(error, UserError)
                else tr("The style was not kept: {strerror}.", strerror=error.strerror)
            )
            return
        self.use(style)

    def use_file(self, path: Path) -> None:
        """Draw the chosen rows as a style's file says."""
        try:
            self.use(read_style(path))
        except UserError as error:
            self._chosen.fail(error.sentence)

    def _ask_keep(self) -> None:
        name, accepted = QInputDialog.getText(
            self.group, tr("Keep this style"), tr("Name"), text=self.styles.text().removesuffix(" ▾")
        )
        if accepted:
            self.keep(name)

    def _ask_file(self) -> None:
        path, _ = QFileDialog.getOpenFileName(
            self.group,
            tr("Use a style"),
            str(self._chosen.presets),
            tr("Line styles (*{style_suffix})", style_suffix=STYLE_SUFFIX),
        )
        if path:
            self.use_file(Path(path))

    def show(self, shots: list[Shot]) -> None:
        """Follow the chosen rows; hidden where none of them is drawn with lines."""
        drawn = {shot.rendition for shot in shots} & {LINES, PENCIL}
        self.group.setVisible(bool(drawn))
        first = shots[0].style
        for name, field in self.fields.items():
            show_number(field, [float(getattr(shot.style, name)) for shot in shots])
        for part in self._pencil_parts:
            part.setVisible(PENCIL in drawn)
        for colour, name in ((self.ink, "ink"), (self.paper, "paper")):
            colour.show_value(getattr(first, name), len({getattr(shot.style, name) for shot in shots}) == 1)
        self.hidden.setChecked(first.hidden)
        self.hidden.setVisible(LINES in drawn)
        names = {called(shot.style) for shot in shots}
        words = names.pop() if len(names) == 1 else tr("Varies")
        self.styles.setText(f"{words} ▾")
        self.styles.setIcon(sample(first))
        self.group.show_figure(words)


def sample(style: Style) -> QIcon:
    """A small sample of a style: its ink on its paper, an outline and a crease."""
    picture = QPixmap(SAMPLE_PX * 2)
    picture.fill(QColor(style.paper))
    painter = QPainter(picture)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    wide, high = picture.width(), picture.height()
    painter.setPen(QPen(QColor(style.ink), max(0.8, style.outline_px * 1.3)))
    painter.drawRect(QRectF(6, 6, wide - 13, high - 13))
    if style.crease_px > 0:
        painter.setPen(QPen(QColor(style.ink), max(0.6, style.crease_px * 1.3)))
        waver = style.roughness * 5.0 if style.roughness != Style().roughness else 0.0
        for share in (0.35, 0.65):
            painter.drawLine(
                QPointF(wide * share, 6 - waver), QPointF(wide * share + waver, high - 7 + waver)
            )
    painter.end()
    picture.setDevicePixelRatio(2.0)
    return QIcon(picture)
