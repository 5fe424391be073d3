"""Routes and playing."""

from __future__ import annotations

from collections.abc import Callable

from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts
from altana.app.shell.top_bar import WALK

MENU = "Walk"


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    going, walk = parts.going, parts.walk

    def on_walk(run: Callable[[], object]) -> None:
        if going.desk == WALK:
            run()

    return [
        Command("walk.draw", "Draw a route", MENU, lambda: on_walk(walk.walks.draw.toggle), "R"),
        Command("walk.play", "Play", MENU, lambda: on_walk(walk.bar.toggle_play), "Space"),
    ]
