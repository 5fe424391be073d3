"""The lens and the format of the chosen cameras."""

from __future__ import annotations

from functools import partial

from altana.app.compose.lens import SQUARE_FACADE
from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts
from altana.core.targets import TARGETS

MENU = "Lens and format"


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    lens, form, light = (
        parts.compose.settings.lens,
        parts.compose.settings.format,
        parts.compose.settings.light,
    )
    fits = [
        Command(f"camera.fit-{name}-by-{by}", f"Fit {name} by {by}", MENU, partial(lens.fit_to, name, by))
        for name in TARGETS
        for by in ("lens", "distance")
    ]
    fits += [
        Command(
            f"camera.fit-square-by-{by}",
            f"Fit façade squarely by {by}",
            MENU,
            partial(lens.fit_to, SQUARE_FACADE, by),
        )
        for by in ("lens", "distance")
    ]
    return [
        Command("camera.longer-lens", "Longer lens", MENU, lambda: lens.step_focal(1), "Ctrl++"),
        Command("camera.shorter-lens", "Shorter lens", MENU, lambda: lens.step_focal(-1), "Ctrl+-"),
        Command("camera.hold-subject", "Hold subject size", MENU, lens.toggle_hold, "H"),
        *fits,
        Command("camera.propose-exposure", "Propose the exposure", MENU, light.propose_exposure),
        Command("camera.next-format", "Next format", MENU, lambda: form.step(1), "F3"),
        Command("camera.format-before", "Format before", MENU, lambda: form.step(-1), "Shift+F3"),
        Command("camera.swap-sides", "Swap wide and high", MENU, form.swap_now, "W"),
    ]
