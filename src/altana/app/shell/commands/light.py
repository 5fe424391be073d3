"""The light: its panel, and the sun by keys."""

from __future__ import annotations

from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts
from altana.app.theme.words import tr
from altana.core.edits.light import set_light
from altana.core.project import SKIES

MENU = tr("Light")


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    bridge, panel = parts.workspace.bridge, parts.light

    def later(hours: float) -> None:
        hour = (bridge.project.light.hour + hours) % 24.0
        bridge.apply(tr("Time of day"), lambda project: set_light(project, hour=round(hour, 4)))

    def next_sky() -> None:
        now = SKIES.index(bridge.project.light.sky)
        sky = SKIES[(now + 1) % len(SKIES)]
        bridge.apply(tr("Sky"), lambda project: set_light(project, sky=sky))

    def shade() -> None:
        """The panel with its group of shade unfolded."""
        if panel.isHidden():
            parts.show_light()
        if panel.shade.group.folded:
            panel.shade.group.fold()
        panel.shade.begin.setFocus()

    return [
        Command(
            "light.panel", tr("Sun and light: place, date, time, sky"), MENU, parts.show_light, "Shift+L"
        ),
        Command("light.later", tr("Sun later: half an hour"), MENU, lambda: later(0.5), "Ctrl+."),
        Command("light.earlier", tr("Sun earlier: half an hour"), MENU, lambda: later(-0.5), "Ctrl+,"),
        Command("light.sky", tr("Next sky: clear, hazy, overcast"), MENU, next_sky),
        Command("light.shade", tr("Shade study, hours of sun…"), MENU, shade),
        Command(
            "light.from-model", tr("Place and north from the model file"), MENU, panel.place.take_from_model
        ),
    ]
