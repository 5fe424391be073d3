"""The command ``altana``: subcommands, and the window when a file or nothing is named."""

from __future__ import annotations

import importlib
import sys
from pathlib import Path
from typing import Any

import click

from altana import __version__
from altana.cli.camera import camera_group
from altana.cli.check import check_all, coverage, gaps, patch_group
from altana.cli.compose import changes, leave_out_, plan_shot_
from altana.cli.panorama import panorama_group
from altana.cli.project import demo, inspect, new
from altana.cli.render import render
from altana.cli.shots import remembered_, shots_group
from altana.cli.walk import walk_group
from altana.core.errors import UserError


class _Commands(click.Group):
    """A first word that is no subcommand is a file to open."""

    def parse_args(self, ctx: click.Context, args: list[str]) -> list[str]:
        if not args or (args[0] not in self.commands and not args[0].startswith("-")):
            args = ["open", *args]
        return super().parse_args(ctx, args)


@click.group(cls=_Commands)
@click.version_option(__version__, prog_name="altana")
def commands() -> None:
    """Altana: cameras in building models, and the pictures and walks taken with them."""


@commands.command("open")
@click.argument("file", required=False, type=click.Path(path_type=Path))
def open_(file: Path | None) -> None:
    """Open the window, with a project or a model."""
    # The window is loaded only here: everything else works without it.
    window = importlib.import_module("altana.app.main")
    sys.exit(window.start(file))


for _command in (
    demo,
    new,
    inspect,
    camera_group,
    walk_group,
    render,
    shots_group,
    remembered_,
    panorama_group,
    leave_out_,
    plan_shot_,
    changes,
    check_all,
    coverage,
    gaps,
    patch_group,
):
    commands.add_command(_command)


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
        sys.stderr.write("There is not enough memory for this. Nothing was changed. Choose a smaller size or a lighter model.\n")
        sys.exit(1)
