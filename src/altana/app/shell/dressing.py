"""What a person prefers, put into effect in the window that is open."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QApplication, QWidget

from altana.app.compose.desk import ComposeDesk
from altana.app.shell.files import ProjectFiles
from altana.app.theme.lengths import wording
from altana.app.theme.number_field import NumberField
from altana.app.theme.style import apply_theme
from altana.app.theme.tokens import DARK, LIGHT, Tokens
from altana.app.workspace.preferences import DARK as DARK_CHROME
from altana.app.workspace.preferences import DESKTOP, Preferences
from altana.app.workspace.workspace import Workspace


class Dressing:
    """Follows the preferences."""

    def __init__(
        self,
        window: QWidget,
        workspace: Workspace,
        preferences: Preferences,
        tokens: Tokens,
        compose: ComposeDesk,
        files: ProjectFiles,
    ) -> None:
        self._window, self._workspace, self._preferences = window, workspace, preferences
        self.tokens, self._compose, self._files = tokens, compose, files
        for name in ("eye_m", "autosave_s", "focal_inside_mm", "projects_folder", "unit"):
            self._take(name)
        preferences.changed.connect(self._take)
        QGuiApplication.styleHints().colorSchemeChanged.connect(self.dress)

    def _take(self, name: str) -> None:
        preferences = self._preferences
        if name == "chrome":
            self.dress()
        elif name == "eye_m":
            self._compose.use_eye_height(preferences.eye_m)
        elif name == "autosave_s":
            self._files.keep_after(preferences.autosave_s)
        elif name in ("focal_inside_mm", "focal_outside_mm"):
            self._workspace.state.usual_focals_mm = (
                preferences.focal_inside_mm,
                preferences.focal_outside_mm,
            )
        elif name == "projects_folder":
            self._files.projects_folder = preferences.projects_folder
        elif name in ("unit", "decimals"):
            self.reword()

    def reword(self) -> None:
        """Lengths and numbers in the words that are preferred, wherever they stand."""
        preferences = self._preferences
        if (wording.unit, wording.comma) == (preferences.unit, preferences.comma):
            return
        wording.unit, wording.comma = preferences.unit, preferences.comma
        for field in self._window.findChildren(NumberField):
            field.reword()
        bridge = self._workspace.bridge
        for signal in (bridge.cameras_changed, bridge.walks_changed, self._workspace.state.shown_changed):
            signal.emit()
        self._compose.strip.forget()
        for widget in self._window.findChildren(QWidget):
            widget.update()

    def dress(self) -> None:
        """Light or dark, as it was chosen or as the desktop is."""
        hints = QGuiApplication.styleHints()
        chosen = self._preferences.chrome
        dark = chosen == DARK_CHROME or (chosen == DESKTOP and hints.colorScheme() == Qt.ColorScheme.Dark)
        wanted = DARK if dark else LIGHT
        if wanted.name != self.tokens.name:
            self.tokens.take(wanted)
            application = QApplication.instance()
            assert isinstance(application, QApplication)
            apply_theme(application, wanted)
            for widget in self._window.findChildren(QWidget):
                widget.update()
