"""Verticals, cut-away, and what pictures show that is wrong."""

from __future__ import annotations

from functools import partial

from altana.app.canvas.aids import AIDS
from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts
from altana.app.theme.words import tr

MENU = tr("Verticals and cut-away")


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    settings, compose, models = parts.compose.settings, parts.compose, parts.models
    verticals, cut = settings.verticals, settings.cut
    aids = [
        Command(
            f"frame.show-{name.replace(' ', '-')}",
            tr("Show {name}", name=name),
            MENU,
            partial(compose.tools.toggle_aid, name),
            f"Ctrl+F{number}",
        )
        for number, name in enumerate(AIDS, 9)
    ]
    return [
        Command("camera.plumb", tr("Plumb"), MENU, verticals.plumb_now, "P"),
        Command(
            "camera.keep-plumb", tr("Keep plumb, or let it tilt"), MENU, verticals.toggle_kept, "Shift+P"
        ),
        Command(
            "cameras.new-plumb", tr("New cameras kept plumb, or not"), MENU, parts.cameras.toggle_plumb_new
        ),
        Command("camera.level-roll", tr("Roll to 0°"), MENU, verticals.level_roll, "Shift+0"),
        Command("camera.back-through-wall", tr("Back through wall"), MENU, lambda: cut.back.go(None), "Y"),
        Command("camera.back-by-width", tr("Back through wall by width…"), MENU, cut.back.ask, "Shift+Y"),
        Command("camera.near", tr("Hide nearer than, on or off"), MENU, partial(cut.press, cut.near_on), "D"),
        Command("camera.far", tr("Hide beyond, on or off"), MENU, partial(cut.press, cut.far_on), "Shift+D"),
        Command("camera.wall-cut", tr("Wall cut: pick a wall"), MENU, lambda: compose.pick_wall(True), "U"),
        Command("camera.just-clear", tr("Near bound just clear"), MENU, cut.just_clear),
        Command("camera.bound-to-cut", tr("Near bound to wall cut"), MENU, cut.bound_to_cut),
        Command("camera.cap", tr("Cap the cut, or not"), MENU, partial(cut.press, cut.cap)),
        Command("cameras.check-all", tr("Check all cameras"), MENU, lambda: compose.check_all(), "F8"),
        *aids,
        Command("model.ground-to-horizon", tr("Ground to the horizon"), MENU, models.ground_to_horizon),
        Command("model.list-gaps", tr("List gaps for whoever models"), MENU, parts.making.list_gaps),
    ]
