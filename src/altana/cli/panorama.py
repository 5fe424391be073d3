"""``altana panorama``: would it be taken as one, tags put back, smaller copies."""

from __future__ import annotations

from pathlib import Path

import click
import msgspec

from altana.cli.shared import JSON, say
from altana.jobs.panoramas import host_says, mended

FilePath = click.Path(dir_okay=False, path_type=Path)


@click.group("panorama")
def panorama_group() -> None:
    """Panoramas that were made: what a host says of them, and mending their tags."""


@panorama_group.command("check")
@click.argument("picture", type=FilePath)
@JSON
def check(picture: Path, as_json: bool) -> None:
    """Whether, and why, a host would take a file as a panorama."""
    verdict = host_says(picture)
    say(
        as_json,
        msgspec.to_builtins(verdict),
        ["Taken." if verdict.taken else "Not taken as a panorama.", *verdict.reasons],
    )


@panorama_group.command("mend")
@click.argument("picture", type=FilePath)
@click.option("--out", required=True, type=FilePath, help="The JPEG to write.")
@click.option("--width", type=int, default=0, help="A smaller copy, so many pixels across.")
@click.option(
    "--heading", type=float, help="Where its middle looks, degrees; what the tags said before when left out."
)
def mend(picture: Path, out: Path, width: int, heading: float | None) -> None:
    """Put the tags back into a 2:1 picture that was edited elsewhere."""
    click.echo(str(mended(picture, out, width, heading)))
