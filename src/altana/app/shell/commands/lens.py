"""The lens and the format of the chosen cameras."""

from __future__ import annotations

from functools import partial

from altana.app.compose.lens import SQUARE_FACADE
from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts
from altana.app.theme.words import spoken, tr
from altana.core.targets import TARGETS

MENU = tr("Lens and format")


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    lens, form, light = (
        parts.compose.settings.lens,
        parts.compose.settings.format,
        parts.compose.settings.light,
    )
    fits = [
        Command(
            f"camera.fit-{name}-by-{by}",
            tr("Fit {name} by {by}", name=spoken(name), by=spoken(by)),
            MENU,
            partial(lens.fit_to, name, by),
        )
        for name in TARGETS
        for by in ("lens", "distance")
    ]
    fits += [
        Command(
            f"camera.fit-square-by-{by}",
            tr("Fit façade squarely by {by}", by=spoken(by)),
            MENU,
            partial(lens.fit_to, SQUARE_FACADE, by),
            keys,
        )
        for by, keys in (("lens", "Shift+Q"), ("distance", ""))
    ]
    return [
        Command("camera.longer-lens", tr("Longer lens"), MENU, lambda: lens.step_focal(1), "Ctrl++"),
        Command("camera.shorter-lens", tr("Shorter lens"), MENU, lambda: lens.step_focal(-1), "Ctrl+-"),
        Command("camera.hold-subject", tr("Hold subject size"), MENU, lens.toggle_hold, "H"),
        *fits,
        Command("camera.propose-exposure", tr("Propose the exposure"), MENU, light.propose_exposure),
        Command("camera.next-format", tr("Next format"), MENU, lambda: form.step(1), "F3"),
        Command("camera.format-before", tr("Format before"), MENU, lambda: form.step(-1), "Shift+F3"),
        Command("camera.swap-sides", tr("Swap wide and high"), MENU, form.swap_now, "W"),
    ]
