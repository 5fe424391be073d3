"""Taking back, finding, and going to the desks."""

from __future__ import annotations

from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts
from altana.app.shell.top_bar import COMPOSE, HAND_OVER, MODEL, WALK
from altana.app.theme.words import tr

MENU = tr("Edit")


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    bridge, going = parts.workspace.bridge, parts.going
    find = parts.compose.strip.filter.setFocus
    return [
        Command(
            "edit.undo",
            tr("Undo"),
            MENU,
            bridge.undo,
            "Ctrl+Z",
            enabled=lambda: bridge.document.undo_label is not None,
        ),
        Command(
            "edit.redo",
            tr("Redo"),
            MENU,
            bridge.redo,
            "Ctrl+Shift+Z",
            enabled=lambda: bridge.document.redo_label is not None,
        ),
        Command("edit.find", tr("Find"), MENU, parts.search.start, "Ctrl+F"),
        Command("edit.find-camera", tr("Find a camera in the strip"), MENU, find, "Ctrl+Shift+F"),
        Command("desk.model", tr("Model desk"), MENU, lambda: going.choose_desk(MODEL), "Ctrl+1"),
        Command("desk.compose", tr("Compose desk"), MENU, lambda: going.choose_desk(COMPOSE), "Ctrl+2"),
        Command("desk.walk", tr("Walk desk"), MENU, lambda: going.choose_desk(WALK), "Ctrl+3"),
        Command("desk.hand-over", tr("Hand-over desk"), MENU, lambda: going.choose_desk(HAND_OVER), "Ctrl+4"),
    ]
