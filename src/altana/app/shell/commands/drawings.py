"""Plan and section."""

from __future__ import annotations

from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts
from altana.app.theme.words import tr

MENU = tr("Plan and section")


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    compose, going = parts.compose, parts.going
    return [
        Command("plan.large", tr("Plan large, or back"), MENU, lambda: compose.set_large("plan"), "F6"),
        Command(
            "section.large", tr("Section large, or back"), MENU, lambda: compose.set_large("section"), "F7"
        ),
        Command(
            "plan.storey-above", tr("Storey above"), MENU, lambda: compose.plan.step_storey(1), "Ctrl+PgUp"
        ),
        Command(
            "plan.storey-below", tr("Storey below"), MENU, lambda: compose.plan.step_storey(-1), "Ctrl+PgDown"
        ),
        Command("plan.show-camera", tr("Show camera on plan"), MENU, going.to_active_on_plan, "Home"),
        Command(
            "plan.reference-lines", tr("Reference lines on or off"), MENU, parts.workspace.lines.toggle, "K"
        ),
        Command("plan.fit", tr("Fit the plan"), MENU, compose.plan.fit),
        Command("section.fit", tr("Fit the section"), MENU, compose.section.fit),
    ]
