"""Commands of the project and its files."""

from __future__ import annotations

from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts

MENU = "Project"


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    files, cameras = parts.files, parts.cameras
    return [
        Command("project.new", "New from a model…", MENU, files.new_project, "Ctrl+N"),
        Command("project.open", "Open…", MENU, files.open_dialog, "Ctrl+O"),
        Command("project.save", "Save", MENU, files.save, "Ctrl+S"),
        Command("project.save-as", "Save as…", MENU, files.save_as, "Ctrl+Shift+S"),
        Command("project.versions", "Versions…", MENU, files.show_versions),
        Command("project.add-model", "Add a model or drawing…", MENU, files.add_model_dialog),
        Command("project.rename", "Rename project…", MENU, files.ask_name),
        Command("project.lens-limits", "Lens limits…", MENU, cameras.ask_limits),
        Command("project.quit", "Quit", MENU, parts.window.close, "Ctrl+Q"),
    ]
