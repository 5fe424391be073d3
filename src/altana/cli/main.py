"""The command ``altana``: subcommands, and the window when a file or nothing is named."""

from __future__ import annotations

import importlib
import logging
import sys
from pathlib import Path
from typing import Any

import click

from altana.core.errors import UserError
from altana.storage.log import log_file, start_log

log = logging.getLogger(__name__)

# Each subcommand by the modules that make it up, the one that holds it first, and its name there.  They are
# loaded when they are asked for: all of them together take longer to load than most commands take to do their
# work.
_PARTS: dict[str, tuple[tuple[str, ...], str]] = {
    "demo": (("project",), "demo"),
    "new": (("project",), "new"),
    "inspect": (("project",), "inspect"),
    "model": (("model",), "model_group"),
    "camera": (("camera", "compose", "bounds", "check"), "camera_group"),
    "walk": (("walk", "turntable", "walk_check"), "walk_group"),
    "light": (("light",), "light_group"),
    "lamps": (("lamps",), "lamps_group"),
    "render": (("render",), "render"),
    "made": (("made",), "made_command"),
    "export": (("export",), "export"),
    "import": (("take",), "take"),
    "remarks": (("take",), "remarks_group"),
    "versions": (("versions",), "versions_group"),
    "shots": (("shots",), "shots_group"),
    "remembered": (("shots",), "remembered_"),
    "panorama": (("panorama",), "panorama_group"),
    "leave-out": (("compose",), "leave_out_"),
    "plan-shot": (("compose",), "plan_shot_"),
    "changes": (("compose",), "changes"),
    "check": (("check",), "check_all"),
    "coverage": (("check",), "coverage"),
    "gaps": (("check",), "gaps"),
    "patch": (("check",), "patch_group"),
    "scheduler": (("machines",), "scheduler"),
    "worker": (("machines",), "worker"),
    "machines": (("machines",), "machines"),
    "certificates": (("machines",), "certificates"),
    "doctor": (("doctor",), "doctor"),
}


class _Commands(click.Group):
    """Subcommands loaded when they are asked for; a first word that is no subcommand is a file to open."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        return sorted([*_PARTS, *self.commands])

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        if cmd_name not in _PARTS:
            return super().get_command(ctx, cmd_name)
        names, attribute = _PARTS[cmd_name]
        first, *_ = [importlib.import_module(f"altana.cli.{name}") for name in names]
        command: click.Command = getattr(first, attribute)
        return command

    def parse_args(self, ctx: click.Context, args: list[str]) -> list[str]:
        # While a shell completes a word, the word itself is not among the arguments yet.
        if not ctx.resilient_parsing and (
            not args or (args[0] not in self.list_commands(ctx) and not args[0].startswith("-"))
        ):
            args = ["open", *args]
        return super().parse_args(ctx, args)


def _version(context: click.Context, _: click.Parameter, wanted: bool) -> None:
    if wanted:
        from altana.version import version_words

        click.echo(f"altana, version {version_words()}")
        context.exit()


@click.group(cls=_Commands)
@click.option(
    "--version",
    is_flag=True,
    expose_value=False,
    is_eager=True,
    callback=_version,
    help="Show the version and its build.",
)
def commands() -> None:
    """Altana: cameras in building models, and the pictures and walks taken with them."""


@commands.command("open")
@click.argument("file", required=False, type=click.Path(path_type=Path))
def open_(file: Path | None) -> None:
    """Open the window, with a project or a model."""
    # The window is loaded only here: everything else works without it.
    window = importlib.import_module("altana.app.shell.main")
    sys.exit(window.start(file))


def run(arguments: list[str] | None = None) -> Any:
    """The entry point.  Exit codes: 0 done, 1 failed with a sentence on stderr, 2 wrong usage."""
    try:
        commands.main(args=arguments, prog_name="altana", standalone_mode=True)
    except UserError as error:
        sys.stderr.write(error.sentence + "\n")
        sys.exit(1)
    except BrokenPipeError:
        sys.exit(1)
    except MemoryError:
        sys.stderr.write(
            "There is not enough memory for this. Nothing was changed. Choose a smaller size or a lighter model.\n"
        )
        sys.exit(1)
    except Exception as error:
        # A fault of Altana's own: a person gets one sentence, whoever mends it gets the stack.
        start_log()
        log.exception("altana %s", " ".join(arguments if arguments is not None else sys.argv[1:]))
        sys.stderr.write(
            f"Something went wrong inside Altana ({type(error).__name__}). What was written before is kept. Details: {log_file()}\n"
        )
        sys.exit(1)
