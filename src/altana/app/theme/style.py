"""The look of every control, made from the tokens."""

from __future__ import annotations

from dataclasses import asdict
from pathlib import Path
from string import Template

from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication

from altana.app.theme.tokens import LIGHT, Tokens
from altana.core.fonts import FAMILY, FONTS

ICONS = Path(__file__).parent / "icons"
#: What Qt calls the style that the sheet is laid over.
STYLE = "fusion"


def load_fonts() -> None:
    """Make the shipped font known."""
    for path in sorted(FONTS.glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(path))


def text_font(points: float = 10.0, weight: QFont.Weight = QFont.Weight.Normal) -> QFont:
    """The text face with tabular figures."""
    font = QFont(FAMILY)
    font.setPixelSize(round(points * 1.3))
    font.setWeight(weight)
    font.setFeature(QFont.Tag("tnum"), 1)
    return font


def apply_theme(application: QApplication, tokens: Tokens = LIGHT, sheet: bool = True) -> None:
    """Fonts, palette and style sheet for the whole application.

    sheet : False leaves the style sheet for later: a window is put together four times as fast without it,
    because every widget would be dressed anew each time that it changes its parent.
    """
    # Taken off and put on, a sheet dresses a window of 1270 widgets in half a second; put on over another
    # one, in two.
    application.setStyleSheet("")
    if application.style().name() != STYLE:
        application.setStyle(STYLE)
    if application.font().family() != FAMILY:
        load_fonts()
        application.setFont(text_font())
    palette = QPalette()
    for role, colour in (
        (QPalette.ColorRole.Window, tokens.paper),
        (QPalette.ColorRole.Base, tokens.leaf),
        (QPalette.ColorRole.Text, tokens.ink),
        (QPalette.ColorRole.WindowText, tokens.ink),
        (QPalette.ColorRole.Button, tokens.leaf),
        (QPalette.ColorRole.ButtonText, tokens.ink),
        (QPalette.ColorRole.Highlight, tokens.verdigris),
        (QPalette.ColorRole.HighlightedText, tokens.on_verdigris),
        (QPalette.ColorRole.ToolTipBase, tokens.band),
        (QPalette.ColorRole.ToolTipText, tokens.band_text),
        (QPalette.ColorRole.PlaceholderText, tokens.pencil),
    ):
        palette.setColor(role, QColor(colour))
    application.setPalette(palette)
    if sheet:
        application.setStyleSheet(style_sheet(tokens))


def style_sheet(t: Tokens) -> str:
    """The style sheet.  Focus is a double ring; disabled things keep their outline."""
    words = Template((Path(__file__).parent / "style.qss").read_text(encoding="utf-8"))
    return words.substitute(asdict(t), icons=ICONS.as_posix())
