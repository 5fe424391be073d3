"""Keys, the menu, the whole screen."""

from __future__ import annotations

from PySide6.QtCore import Qt

from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts

MENU = "Help"


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    window = parts.window

    def full_screen() -> None:
        window.setWindowState(window.windowState() ^ Qt.WindowState.WindowFullScreen)

    return [
        Command("help.keys", "Keys", MENU, parts.show_keys, "F1"),
        Command("help.preferences", "Preferences…", MENU, parts.show_preferences, "Ctrl+Alt+P"),
        Command("help.about", "About Altana, licences", MENU, parts.show_about),
        Command("help.menu", "Menu", MENU, parts.show_menu, "F10"),
        Command("help.full-screen", "Full screen", MENU, full_screen, "F11"),
    ]
