"""Plan and section."""

from __future__ import annotations

from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts

MENU = "Plan and section"


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    compose, going = parts.compose, parts.going
    return [
        Command("plan.large", "Plan large, or back", MENU, lambda: compose.set_large("plan"), "F6"),
        Command("section.large", "Section large, or back", MENU, lambda: compose.set_large("section"), "F7"),
        Command("plan.storey-above", "Storey above", MENU, lambda: compose.plan.step_storey(1), "Ctrl+PgUp"),
        Command(
            "plan.storey-below", "Storey below", MENU, lambda: compose.plan.step_storey(-1), "Ctrl+PgDown"
        ),
        Command("plan.show-camera", "Show camera on plan", MENU, going.to_active_on_plan, "Home"),
        Command("plan.reference-lines", "Reference lines on or off", MENU, parts.workspace.lines.toggle, "K"),
        Command("plan.fit", "Fit the plan", MENU, compose.plan.fit),
        Command("section.fit", "Fit the section", MENU, compose.section.fit),
    ]
