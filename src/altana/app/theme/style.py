"""The look of every control, made from the tokens."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication

from altana.app.theme.tokens import LIGHT, Tokens

FONTS = Path(__file__).parent / "fonts"
ICONS = Path(__file__).parent / "icons"
FAMILY = "Lato"


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


def apply_theme(application: QApplication, tokens: Tokens = LIGHT) -> None:
    """Fonts, palette and style sheet for the whole application."""
    load_fonts()
    application.setStyle("Fusion")
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
    application.setStyleSheet(style_sheet(tokens))


def style_sheet(t: Tokens) -> str:
    """The style sheet.  Focus is a double ring; disabled things keep their outline."""
    icons = ICONS.as_posix()
    return f"""
    QWidget {{ color: {t.ink}; }}
    QMainWindow, QDialog, #chrome {{ background: {t.paper}; }}
    QToolTip {{ background: {t.band}; color: {t.band_text}; border: 0; padding: 5px 8px; }}
    QLabel#title {{ font-size: 15px; font-weight: 700; }}
    QLabel#group {{ font-weight: 700; }}
    QLabel#quiet {{ color: {t.pencil}; }}
    QLabel#heading {{ color: {t.pencil}; font-size: 12px; }}
    QLabel#trouble {{ color: {t.brick}; font-weight: 600; }}
    QPushButton, QToolButton#plain {{ background: {t.leaf}; border: 1px solid {t.ink}; border-radius: 6px; padding: 3px 10px; min-height: 19px; }}
    QPushButton:hover, QToolButton#plain:hover {{ background: {t.hover}; }}
    QPushButton:pressed {{ background: {t.rule}; }}
    QPushButton:focus, QToolButton:focus {{ border: 3px double {t.ink}; padding: 1px 8px; }}
    QPushButton:disabled {{ color: {t.pencil}; border-color: {t.rule}; }}
    QPushButton:checked {{ background: {t.ink}; color: {t.leaf}; }}
    QPushButton#primary {{ background: {t.verdigris}; color: {t.on_verdigris}; border-color: {t.verdigris}; font-weight: 600; }}
    QPushButton#primary:hover {{ background: {t.verdigris}; border-color: {t.ink}; }}
    QPushButton#primary:focus {{ border: 3px double {t.on_verdigris}; }}
    QPushButton#primary:disabled {{ background: {t.rule}; color: {t.pencil}; border-color: {t.rule}; }}
    QPushButton#outline {{ color: {t.verdigris}; border-color: {t.verdigris}; font-weight: 600; }}
    QPushButton#outline:checked {{ background: {t.verdigris}; color: {t.on_verdigris}; }}
    QPushButton#quiet, QToolButton#quiet {{ border: 1px solid transparent; background: transparent; color: {t.ink}; padding: 3px 6px; }}
    QPushButton#quiet:hover, QToolButton#quiet:hover {{ background: {t.hover}; }}
    QPushButton#quiet:disabled {{ color: {t.pencil}; }}
    QPushButton#quiet:focus, QToolButton#quiet:focus {{ border: 3px double {t.ink}; padding: 1px 4px; }}
    QToolButton#quiet::menu-indicator {{ image: none; width: 0; }}
    QPushButton#desk {{ border: 1px solid transparent; background: transparent; padding: 5px 14px; border-radius: 6px; }}
    QPushButton#desk:hover {{ background: {t.hover}; }}
    QPushButton#desk:checked {{ background: {t.ink}; color: {t.leaf}; font-weight: 600; }}
    QPushButton#desk:focus {{ border: 3px double {t.pencil}; padding: 3px 12px; }}
    QPushButton#segment {{ border: 0; border-right: 1px solid {t.rule}; border-radius: 0; background: transparent; padding: 3px 4px; font-size: 12px; }}
    QPushButton#segment:checked {{ background: {t.ink}; color: {t.leaf}; }}
    QPushButton#segment:focus {{ border: 2px solid {t.pencil}; }}
    QFrame#segments {{ background: {t.leaf}; border: 1px solid {t.rule}; border-radius: 6px; }}
    QPushButton#onwell {{ background: {t.band}; color: {t.band_text}; border: 1px solid {t.band}; border-radius: 6px; padding: 3px 9px; font-size: 12px; min-height: 16px; }}
    QPushButton#onwell:hover {{ border-color: {t.band_text}; }}
    QPushButton#onwell:checked {{ background: {t.leaf}; color: {t.ink}; font-weight: 600; }}
    QPushButton#onwell:focus {{ border: 3px double {t.band_text}; padding: 1px 7px; }}
    QPushButton#onwell:disabled {{ color: #A59D90; }}
    QLineEdit, QComboBox {{ background: {t.leaf}; border: 1px solid {t.rule}; border-radius: 6px; padding: 2px 7px; min-height: 19px; selection-background-color: {t.verdigris}; }}
    QLineEdit:hover, QComboBox:hover {{ border-color: {t.pencil}; }}
    QLineEdit:focus, QComboBox:focus {{ border: 3px double {t.ink}; padding: 0 5px; }}
    QLineEdit:disabled {{ color: {t.pencil}; background: {t.paper}; }}
    QLineEdit[wrong="true"] {{ border: 2px solid {t.brick}; }}
    QComboBox::drop-down {{ border: 0; width: 18px; }}
    QComboBox::down-arrow {{ image: url({icons}/arrow-{t.name}.svg); width: 10px; height: 6px; margin-right: 8px; }}
    QComboBox QAbstractItemView, QMenu {{ background: {t.leaf}; border: 1px solid {t.pencil}; selection-background-color: {t.verdigris}; selection-color: {t.on_verdigris}; padding: 4px; outline: 0; }}
    QMenu::item {{ padding: 5px 22px 5px 14px; border-radius: 4px; }}
    QMenu::item:selected {{ background: {t.verdigris}; color: {t.on_verdigris}; }}
    QMenu::item:disabled {{ color: {t.pencil}; }}
    QMenu::separator {{ height: 1px; background: {t.rule}; margin: 4px 8px; }}
    QToolButton#menu {{ background: {t.leaf}; border: 1px solid {t.rule}; border-radius: 6px; padding: 2px 7px; min-height: 19px; }}
    QToolButton#menu:hover {{ border-color: {t.pencil}; }}
    QToolButton#menu:focus {{ border: 3px double {t.ink}; padding: 0 5px; }}
    QToolButton#menu::menu-indicator, QToolButton#onwell::menu-indicator {{ image: none; width: 0; }}
    QToolButton#onwell {{ background: {t.band}; color: {t.band_text}; border: 1px solid {t.band}; border-radius: 6px; padding: 3px 9px; font-size: 12px; min-height: 16px; }}
    QToolButton#onwell:hover {{ border-color: {t.band_text}; }}
    QToolButton#onwell:focus {{ border: 3px double {t.band_text}; padding: 1px 7px; }}
    QPushButton#small {{ padding: 2px 3px; font-size: 12px; min-height: 17px; border-color: {t.pencil}; }}
    QPushButton#small:focus {{ border: 3px double {t.ink}; padding: 0 1px; }}
    QPushButton#fact {{ background: {t.leaf}; color: {t.ink}; border: 1px solid {t.brick}; border-radius: 8px; padding: 0 8px; min-height: 17px; font-size: 12px; }}
    QPushButton#fact:hover {{ background: {t.hover}; }}
    QPushButton#fact:focus {{ border: 3px double {t.brick}; padding: 0 6px; }}
    QListView#strip, QTreeView, QListWidget {{ background: transparent; border: 0; outline: 0; }}
    QTreeView, QListWidget {{ background: {t.leaf}; border: 1px solid {t.rule}; border-radius: 6px; }}
    QTreeView::item, QListWidget::item {{ padding: 2px 2px; min-height: 18px; }}
    QTreeView::item:selected, QListWidget::item:selected {{ background: {t.verdigris}; color: {t.on_verdigris}; }}
    QTreeView:focus, QListWidget:focus {{ border: 3px double {t.ink}; }}
    QHeaderView::section {{ background: {t.paper}; color: {t.pencil}; border: 0; border-bottom: 1px solid {t.rule}; padding: 3px 4px; font-size: 12px; }}
    QPlainTextEdit {{ background: {t.leaf}; border: 1px solid {t.rule}; border-radius: 6px; padding: 3px 5px; }}
    QPlainTextEdit:focus {{ border: 3px double {t.ink}; padding: 1px 3px; }}
    QCheckBox {{ spacing: 8px; }}
    QCheckBox::indicator {{ width: 15px; height: 15px; border: 1px solid {t.ink}; border-radius: 4px; background: {t.leaf}; }}
    QCheckBox::indicator:checked {{ background: {t.ink}; image: url({icons}/tick-{t.name}.svg); }}
    QCheckBox:focus {{ border: 3px double {t.ink}; border-radius: 5px; }}
    QScrollArea {{ border: 0; background: transparent; }}
    QScrollBar:vertical {{ background: transparent; width: 9px; margin: 0; }}
    QScrollBar::handle:vertical {{ background: {t.rule}; border-radius: 4px; min-height: 30px; }}
    QScrollBar::handle:vertical:hover {{ background: {t.pencil}; }}
    QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page {{ background: transparent; height: 0; }}
    QSlider::groove:horizontal {{ height: 4px; background: {t.rule}; border-radius: 2px; }}
    QSlider::sub-page:horizontal {{ background: {t.verdigris}; border-radius: 2px; }}
    QSlider::handle:horizontal {{ background: {t.leaf}; border: 2px solid {t.verdigris}; width: 12px; height: 12px; margin: -6px 0; border-radius: 8px; }}
    QSlider::handle:horizontal:focus {{ border: 3px double {t.ink}; }}
    QProgressBar {{ background: {t.rule}; border: 0; border-radius: 3px; max-height: 6px; text-align: center; color: transparent; }}
    QProgressBar::chunk {{ background: {t.verdigris}; border-radius: 3px; }}
    QFrame#rule {{ background: {t.rule}; max-height: 1px; min-height: 1px; border: 0; }}
    QFrame#column {{ background: {t.rule}; max-width: 1px; min-width: 1px; border: 0; }}
    QFrame#band {{ background: {t.band}; }}
    QFrame#band QLabel {{ color: {t.band_text}; }}
    QFrame#band QPushButton#onwell {{ border: 1px solid #8C867B; }}
    QTreeView::indicator {{ width: 13px; height: 13px; border: 1px solid {t.ink}; border-radius: 3px; background: {t.leaf}; }}
    QTreeView::indicator:checked {{ background: {t.ink}; image: url({icons}/tick-{t.name}.svg); }}
    QFrame#banner {{ background: {t.verdigris_wash}; }}
    """
