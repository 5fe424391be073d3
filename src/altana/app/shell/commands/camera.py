"""Commands on the chosen cameras as a whole."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts
from altana.app.shell.top_bar import COMPOSE, WALK
from altana.app.theme.words import spoken, tr
from altana.core.edits.settings import SETTINGS

MENU = tr("Camera")
#: Settings whose name alone says too little.
GIVEN = {"left out": tr("left-out objects")}


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    cameras, going, making, compose = parts.cameras, parts.going, parts.making, parts.compose
    state = parts.workspace.state

    def on_compose(run: Callable[[], object]) -> None:
        if going.desk == COMPOSE:
            run()

    def make() -> None:
        (making.make_film if going.desk == WALK else making.make_stills)()

    def rename() -> None:
        (parts.walk.settings.route.rename if going.desk == WALK else cameras.rename_active)()

    def choose_all() -> None:
        state.select_many(tuple(compose.strip.ids()), state.active_id)

    return [
        Command(
            "camera.stand", tr("Stand a camera"), MENU, lambda: on_compose(lambda: compose.arm(True)), "C"
        ),
        Command("camera.next", tr("Next camera"), MENU, lambda: going.next_camera(1), "PgDown"),
        Command("camera.before", tr("Camera before"), MENU, lambda: going.next_camera(-1), "PgUp"),
        Command("camera.duplicate", tr("Duplicate"), MENU, cameras.duplicate_camera, "Ctrl+D", begins=True),
        Command("camera.rename", tr("Rename…"), MENU, rename, "F2; Ctrl+R"),
        Command("camera.suggest-name", tr("Suggest a name"), MENU, cameras.suggest_name),
        Command("camera.lock", tr("Lock or unlock"), MENU, cameras.toggle_locked, "Ctrl+L"),
        Command("camera.hide-on-plan", tr("Hide on plan, or show"), MENU, cameras.toggle_hidden, "Ctrl+H"),
        Command(
            "camera.in-shot-list",
            tr("In shot list, or out"),
            MENU,
            compose.settings.toggle_shot,
            "S",
            begins=True,
        ),
        Command("camera.done", tr("Done, or to do"), MENU, cameras.toggle_done, "Ctrl+Return"),
        *_moved(parts),
        Command("camera.group", tr("Group…"), MENU, cameras.ask_group, "Ctrl+G"),
        Command("camera.plan-shot", tr("Plan a shot…"), MENU, cameras.ask_planned, "Ctrl+P", begins=True),
        Command("camera.find-inside", tr("Inside or outside again"), MENU, cameras.find_inside),
        Command("camera.choose-all", tr("Choose all cameras"), MENU, choose_all, "Ctrl+A"),
        *_given(parts),
        *_made(parts, make),
    ]


def _made(parts: Parts, make: Callable[[], object]) -> list[Command]:
    """Pictures of cameras, and taking them away."""
    cameras, going, making = parts.cameras, parts.going, parts.making

    def remove() -> None:
        if going.desk == COMPOSE:
            cameras.delete_cameras()

    return [
        Command("camera.make", tr("Make stills…"), MENU, make, "Ctrl+E", begins=True),
        Command("camera.copy-frame", tr("Copy the Frame"), MENU, making.copy_frame, "Ctrl+Shift+C"),
        Command(
            "camera.save-frame", tr("Save the Frame as a picture"), MENU, making.save_frame, "Ctrl+Shift+E"
        ),
        Command("camera.remove", tr("Remove"), MENU, remove, "Delete", begins=True),
    ]


def _moved(parts: Parts) -> list[Command]:
    shift = parts.cameras.shift_camera
    return [
        Command("camera.move-up", tr("Move up in the strip"), MENU, lambda: shift(-1), "Alt+Up"),
        Command("camera.move-down", tr("Move down in the strip"), MENU, lambda: shift(1), "Alt+Down"),
    ]


def _given(parts: Parts) -> list[Command]:
    """A command for each setting that the chosen cameras may take over."""
    return [
        Command(
            f"camera.give-{name.replace(' ', '-')}",
            tr("The same {settings} for all chosen cameras", settings=spoken(GIVEN.get(name, name))),
            MENU,
            partial(parts.cameras.give_settings, (name,)),
        )
        for name in SETTINGS
    ]
