"""The Frame: held or loose, what lies over it, variants."""

from __future__ import annotations

from functools import partial

from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts
from altana.app.theme.words import spoken, tr
from altana.core.edits.variants import LADDER_WORDS

MENU = tr("Frame")


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    compose, frame = parts.compose, parts.compose.frame
    left_out = compose.settings.left_out

    return [
        *_held_or_loose(parts),
        Command("frame.guides", tr("Guides on or off"), MENU, frame.toggle_guides, "G"),
        Command("frame.surround", tr("Surround on or off"), MENU, compose.tools.toggle_around, "A"),
        Command(
            "frame.walk-on-floor", tr("Walking keeps the eye's height, or not"), MENU, frame.toggle_floor, "J"
        ),
        Command(
            "frame.as-made",
            tr("As it will be made, or the Frame"),
            MENU,
            lambda: compose.pictures.look_at(compose.pictures.finished),
            "F4",
        ),
        Command(
            "frame.all-round",
            tr("All round from here, or the Frame"),
            MENU,
            lambda: compose.pictures.look_at(compose.pictures.round),
            "Z",
        ),
        Command("camera.keep-try", tr("Keep a try"), MENU, compose.pictures.keep_try, "T"),
        Command(
            "frame.variants", tr("Variants side by side"), MENU, lambda: compose.pictures.compare(), "Shift+T"
        ),
        Command("frame.flick", tr("Flick through variants"), MENU, compose.pictures.flick, "V"),
        *_ladders(parts),
        Command("camera.leave-out", tr("Leave the chosen object out"), MENU, left_out.leave_out_now, "O"),
        Command(
            "camera.take-back", tr("Take the nudge or leaving out back"), MENU, left_out.take_back, "Shift+O"
        ),
    ]


def _held_or_loose(parts: Parts) -> list[Command]:
    state, frame = parts.workspace.state, parts.compose.frame

    def loose_or_held() -> None:
        (state.let_loose if state.held else state.back_to_camera)()

    return [
        Command("frame.loose", tr("Hold the view, or let it loose"), MENU, loose_or_held, "L"),
        Command("frame.keep", tr("Keep view as a new camera"), MENU, frame.ribbon.keep_as_new, "N"),
        Command(
            "frame.keep-usual-lens",
            tr("Keep view with the usual lens"),
            MENU,
            frame.ribbon.keep_with_usual_lens,
            "Shift+N",
        ),
        Command("frame.move-here", tr("Move camera here"), MENU, frame.ribbon.move_camera_here, "M"),
        Command(
            "frame.outline",
            tr("Outline of the chosen object, or none"),
            MENU,
            frame.over.toggle_outline,
            "Alt+O",
        ),
        Command("frame.view-before", tr("View before"), MENU, lambda: state.go(-1), "Backspace"),
        Command("frame.view-after", tr("View after"), MENU, lambda: state.go(1), "Shift+Backspace"),
    ]


def _ladders(parts: Parts) -> list[Command]:
    """Tries in even steps, and lenses of one's own."""
    compose = parts.compose
    steps = [
        Command(
            f"camera.ladder-{kind}",
            tr("Ladder of {words}", words=spoken(words)),
            MENU,
            partial(compose.pictures.take_ladder, kind),
        )
        for kind, words in LADDER_WORDS.items()
    ]
    return [
        *steps,
        Command(
            "camera.ladder-typed",
            tr("Ladder of lenses of one's own…"),
            MENU,
            lambda: compose.pictures.ask_ladder(),
        ),
        Command(
            "camera.ladder-typed-as-large",
            tr("Ladder of lenses of one's own, the subject as large…"),
            MENU,
            lambda: compose.pictures.ask_ladder("lens"),
        ),
    ]
