"""Standing and turning the chosen cameras."""

from __future__ import annotations

from functools import partial

from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts
from altana.app.theme.words import tr

MENU = tr("Standing")


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    standpoint, direction, cameras = (
        parts.compose.settings.standpoint,
        parts.compose.settings.direction,
        parts.cameras,
    )

    def tool(command_id: str, name: str, keys: str) -> Command:
        return Command(f"camera.{command_id}", name, MENU, partial(standpoint.use_tool, name), keys)

    def height(command_id: str, title: str, index: int) -> Command:
        return Command(
            f"camera.{command_id}", title, MENU, partial(standpoint.take_preset, index), f"Alt+{index + 1}"
        )

    def turn(command_id: str, title: str, degrees: float, keys: str) -> Command:
        return Command(f"camera.{command_id}", title, MENU, partial(direction.turn_by, degrees), keys)

    return [
        tool("square", tr("Square to wall"), "Q"),
        tool("between-walls", tr("Between walls"), "B"),
        tool("middle-of-room", tr("Middle of the room"), "Shift+B"),
        tool("corner", tr("Corner"), "E"),
        tool("back-to-wall", tr("Back to wall"), "Shift+E"),
        height("stand-height", tr("Standing height"), 0),
        height("seated-height", tr("Seated height"), 1),
        height("child-height", tr("Child's height"), 2),
        height("mid-height", tr("Middle of the room's height"), 3),
        Command("camera.level", tr("Tilt to 0°"), MENU, direction.level_now, "0"),
        turn("turn-left", tr("Turn left by 15°"), -15.0, "Ctrl+Left"),
        turn("turn-right", tr("Turn right by 15°"), 15.0, "Ctrl+Right"),
        turn("turn-left-90", tr("Turn left by 90°"), -90.0, "Ctrl+Shift+Left"),
        turn("turn-right-90", tr("Turn right by 90°"), 90.0, "Ctrl+Shift+Right"),
        turn("about-face", tr("About-face"), 180.0, "Ctrl+Down"),
        Command("camera.move-by-steps", tr("Move by typed steps…"), MENU, cameras.ask_steps, "Ctrl+M"),
        Command("camera.type-places", tr("Type eye and aim…"), MENU, cameras.ask_places, "Ctrl+T"),
    ]
