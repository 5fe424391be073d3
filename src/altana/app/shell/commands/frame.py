"""The Frame: held or loose, what lies over it, variants."""

from __future__ import annotations

from functools import partial

from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts
from altana.core.edits.variants import LADDER_WORDS

MENU = "Frame"


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    compose, frame = parts.compose, parts.compose.frame
    left_out = compose.settings.left_out

    ladders = [
        Command(
            f"camera.ladder-{kind}", f"Ladder of {words}", MENU, partial(compose.pictures.take_ladder, kind)
        )
        for kind, words in LADDER_WORDS.items()
    ]
    return [
        *_held_or_loose(parts),
        Command("frame.guides", "Guides on or off", MENU, frame.toggle_guides, "G"),
        Command("frame.surround", "Surround on or off", MENU, compose.tools.toggle_around, "A"),
        Command(
            "frame.walk-on-floor", "Walking keeps the eye's height, or not", MENU, frame.toggle_floor, "J"
        ),
        Command(
            "frame.as-made",
            "As it will be made, or the Frame",
            MENU,
            lambda: compose.pictures.look_at(compose.pictures.finished),
            "F4",
        ),
        Command(
            "frame.all-round",
            "All round from here, or the Frame",
            MENU,
            lambda: compose.pictures.look_at(compose.pictures.round),
            "Z",
        ),
        Command("camera.keep-try", "Keep a try", MENU, compose.pictures.keep_try, "T"),
        Command(
            "frame.variants", "Variants side by side", MENU, lambda: compose.pictures.compare(), "Shift+T"
        ),
        Command("frame.flick", "Flick through variants", MENU, compose.pictures.flick, "V"),
        *ladders,
        Command("camera.ladder-typed", "Ladder of lenses of one's own…", MENU, compose.pictures.ask_ladder),
        Command("camera.leave-out", "Leave the chosen object out", MENU, left_out.leave_out_now, "O"),
        Command(
            "camera.take-back", "Take the nudge or leaving out back", MENU, left_out.take_back, "Shift+O"
        ),
    ]


def _held_or_loose(parts: Parts) -> list[Command]:
    state, frame = parts.workspace.state, parts.compose.frame

    def loose_or_held() -> None:
        (state.let_loose if state.held else state.back_to_camera)()

    return [
        Command("frame.loose", "Hold the view, or let it loose", MENU, loose_or_held, "L"),
        Command("frame.keep", "Keep view as a new camera", MENU, frame.ribbon.keep_as_new, "N"),
        Command(
            "frame.keep-usual-lens",
            "Keep view with the usual lens",
            MENU,
            frame.ribbon.keep_with_usual_lens,
            "Shift+N",
        ),
        Command("frame.move-here", "Move camera here", MENU, frame.ribbon.move_camera_here, "M"),
        Command(
            "frame.outline", "Outline of the chosen object, or none", MENU, frame.over.toggle_outline, "Alt+O"
        ),
        Command("frame.view-before", "View before", MENU, lambda: state.go(-1), "Backspace"),
        Command("frame.view-after", "View after", MENU, lambda: state.go(1), "Shift+Backspace"),
    ]
