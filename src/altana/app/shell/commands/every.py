"""Every command of the window, menu by menu."""

from __future__ import annotations

from altana.app.shell.commands import (
    camera,
    drawings,
    edit,
    frame,
    hand_over,
    help,
    lens,
    light,
    model,
    project,
    standing,
    verticals,
    walk,
)
from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts

MODULES = (
    project,
    edit,
    camera,
    standing,
    lens,
    verticals,
    frame,
    light,
    drawings,
    model,
    walk,
    hand_over,
    help,
)


def every_command(parts: Parts) -> list[Command]:
    """All commands."""
    return [command for module in MODULES for command in module.commands(parts)]
