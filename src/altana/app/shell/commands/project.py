"""Commands of the project and its files."""

from __future__ import annotations

from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts
from altana.app.theme.words import tr

MENU = tr("Project")


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    files, cameras = parts.files, parts.cameras
    return [
        Command("project.new", tr("New from a model…"), MENU, files.new_project, "Ctrl+N"),
        Command("project.open", tr("Open…"), MENU, files.open_dialog, "Ctrl+O"),
        Command("project.save", tr("Save"), MENU, files.save, "Ctrl+S"),
        Command("project.save-as", tr("Save as…"), MENU, files.save_as, "Ctrl+Shift+S"),
        Command("project.versions", tr("Versions…"), MENU, files.show_versions),
        Command("project.add-model", tr("Add a model or drawing…"), MENU, files.add_model_dialog),
        Command("project.rename", tr("Rename project…"), MENU, files.ask_name),
        Command("project.lens-limits", tr("Lens limits…"), MENU, cameras.ask_limits),
        Command("project.quit", tr("Quit"), MENU, parts.window.close, "Ctrl+Q"),
    ]
