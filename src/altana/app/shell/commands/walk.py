"""Routes and playing."""

from __future__ import annotations

from collections.abc import Callable

from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts
from altana.app.shell.top_bar import WALK
from altana.app.theme.words import tr

MENU = tr("Walk")


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    going, walk = parts.going, parts.walk

    def on_walk(run: Callable[[], object]) -> None:
        if going.desk == WALK:
            run()

    def to_walk(run: Callable[[], object]) -> None:
        going.choose_desk(WALK)
        run()

    looking = walk.settings.looking
    return [
        Command("walk.draw", tr("Draw a route"), MENU, lambda: on_walk(walk.walks.draw.toggle), "R"),
        Command("walk.play", tr("Play"), MENU, lambda: on_walk(walk.bar.toggle_play), "Space"),
        Command(
            "walk.of-cameras",
            tr("Walk the chosen cameras"),
            MENU,
            lambda: to_walk(walk.walks.walk_cameras),
            "Shift+R",
        ),
        Command(
            "walk.turntable",
            tr("Turntable round the chosen object"),
            MENU,
            lambda: to_walk(walk.walks.add_turntable),
        ),
        Command("walk.up-stair", tr("Walk up the chosen stair"), MENU, lambda: to_walk(walk.walks.add_stair)),
        Command(
            "walk.look-building",
            tr("Look at the building all along the walk"),
            MENU,
            lambda: to_walk(looking.all_along_building),
        ),
        Command(
            "walk.look-object",
            tr("Look at the chosen object all along the walk"),
            MENU,
            lambda: to_walk(looking.all_along_object),
        ),
        Command("walk.film", tr("Make film…"), MENU, lambda: to_walk(parts.making.make_film), begins=True),
    ]
