"""Keys, the menu, the whole screen."""

from __future__ import annotations

from PySide6.QtCore import Qt

from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts
from altana.app.theme.words import tr

MENU = tr("Help")


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    window = parts.window

    def full_screen() -> None:
        window.setWindowState(window.windowState() ^ Qt.WindowState.WindowFullScreen)

    return [
        Command("help.keys", tr("Keys"), MENU, parts.show_keys, "F1"),
        Command("help.preferences", tr("Preferences…"), MENU, parts.show_preferences, "Ctrl+Alt+P"),
        Command("help.about", tr("About Altana, licences"), MENU, parts.show_about),
        Command("help.menu", tr("Menu"), MENU, parts.show_menu, "F10"),
        Command("help.full-screen", tr("Full screen"), MENU, full_screen, "F11"),
    ]
