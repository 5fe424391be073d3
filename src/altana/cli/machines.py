"""``altana scheduler``, ``altana worker`` and ``altana certificates``: several machines for one run."""

from __future__ import annotations

import json
import os
from pathlib import Path

import click

from altana.cli.shared import JSON, say
from altana.core.errors import UserError
from altana.jobs.machines.files import SHARED
from altana.jobs.machines.places import OPEN_SAID, PORT, address_of, make_certificates
from altana.storage.cache import cache_folder

CERTIFICATES = click.option(
    "--certificates",
    type=click.Path(file_okay=False, path_type=Path),
    help="Folder of `altana certificates`: everything is encrypted then.",
)
SHARED_FOLDER = click.option(
    "--shared",
    type=click.Path(file_okay=False, exists=True, path_type=Path),
    help="Folder that the machines share: files are taken from there instead of over the network.",
)
_PARENT = click.option("--parent", type=int, default=0, hidden=True, help="End with this process.")


def use_shared(folder: Path | None) -> None:
    """The folder that machines share, for this process and those that it starts."""
    if folder is not None:
        os.environ[SHARED] = str(folder.resolve())


@click.command("scheduler")
@click.option(
    "--listen",
    default=f"tcp://127.0.0.1:{PORT}",
    show_default=True,
    help="The address of this machine at which others find it.",
)
@CERTIFICATES
@SHARED_FOLDER
@_PARENT
@JSON
def scheduler(
    listen: str, certificates: Path | None, shared: Path | None, parent: int, as_json: bool
) -> None:
    """Hand out the pieces of runs to lent machines, until it is ended."""
    use_shared(shared)
    address = address_of(listen, certificates)
    from altana.jobs.machines.serving import run_scheduler

    def told(where: str, warning: str) -> None:
        if as_json:
            click.echo(json.dumps({"address": where, "encrypted": not warning}))
        else:
            click.echo(f"Handing out pieces at {where}. {warning}".rstrip())

    run_scheduler(address, certificates, told, parent)


@click.command("worker")
@click.argument("address")
@click.option(
    "--threads",
    type=click.IntRange(0, 1024),
    default=0,
    help="Threads for drawing; all where nothing is said.",
)
@click.option(
    "--memory", type=float, default=0.0, help="Memory it may use, GB; no limit where nothing is said."
)
@click.option(
    "--cache",
    type=click.Path(file_okay=False, path_type=Path),
    help="Folder for models, light and textures that come.",
)
@click.option(
    "--name", default="", help="What it is called for people; the machine's name where nothing is said."
)
@CERTIFICATES
@SHARED_FOLDER
@_PARENT
def worker(
    address: str,
    threads: int,
    memory: float,
    cache: Path | None,
    name: str,
    certificates: Path | None,
    shared: Path | None,
    parent: int,
) -> None:
    """Lend this machine to the scheduler at ADDRESS, until it is ended."""
    use_shared(shared)
    where = address_of(address, certificates)
    if not 0.0 <= memory <= 1e5 or 0.0 < memory < 1.0:
        raise UserError(f"{memory:g} GB is outside 1 to 100 000. Nothing was begun.")
    # What others send never lies among what this machine keeps for itself.
    os.environ["ALTANA_CACHE"] = str((cache or cache_folder() / "lent-out").resolve())
    if threads:
        # Before anything that draws or reckons is loaded.
        for variable in ("LP_NUM_THREADS", "OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS"):
            os.environ[variable] = str(threads)
    from altana.jobs.machines.serving import Lending, run_worker

    if certificates is None:
        click.echo(OPEN_SAID, err=True)
    run_worker(Lending(where, certificates, int(memory * 1e9), name, parent), click.echo)


@click.command("machines")
@click.argument("address")
@CERTIFICATES
@JSON
def machines(address: str, certificates: Path | None, as_json: bool) -> None:
    """Which machines are lent to the scheduler at ADDRESS, and whether they can make the pictures that this
    one makes."""
    where = address_of(address, certificates)
    from altana.jobs.machines.fleet import Fleet

    fleet = Fleet(where, certificates)
    try:
        same, others = fleet.machines()
    finally:
        fleet.close()
    names = [f"{name}" for name in same]
    names += [f"{name}: another Altana or another way of drawing; not used" for name in others]
    say(
        as_json,
        {"machines": [{"name": name, "same": name in same} for name in (*same, *others)]},
        names or ["No machine is lent. Lend one with `altana worker`."],
    )


@click.command("certificates")
@click.argument("folder", type=click.Path(file_okay=False, path_type=Path))
@JSON
def certificates(folder: Path, as_json: bool) -> None:
    """Make certificates for one's own machines in FOLDER; copy it to each of them."""
    certificates = make_certificates(folder)
    say(
        as_json,
        {"files": [str(path) for path in certificates]},
        [f"Certificates are in {folder}. Copy the folder to each machine, and keep it from others."],
    )
