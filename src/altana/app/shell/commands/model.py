"""The models, what is hidden, what is seen."""

from __future__ import annotations

from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts
from altana.app.shell.top_bar import MODEL
from altana.app.theme.words import tr
from altana.core.hiding import NOTHING_HIDDEN

MENU = tr("Model")


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    models, going, state = parts.models, parts.going, parts.workspace.state

    def look_at_coverage() -> None:
        going.choose_desk(MODEL)
        parts.model.coverage.look()

    return [
        Command("model.reload", tr("Reload models"), MENU, models.reload, "F5"),
        Command("model.coverage", tr("Coverage: what is seen"), MENU, look_at_coverage),
        Command("object.go-to", tr("Go to the chosen object"), MENU, going.to_chosen_object, "Ctrl+J"),
        Command("object.hide", tr("Hide the chosen object here"), MENU, models.hide_object, "I"),
        Command("model.show-all", tr("Show all"), MENU, lambda: state.hide(NOTHING_HIDDEN), "Shift+I"),
        Command("model.hidden-before", tr("Hidden as before"), MENU, state.hide_as_before, "Ctrl+I"),
    ]
