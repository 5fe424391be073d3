"""What a file of somebody else holds of cameras, walks and remarks: looked at in a child process, before
anything is taken."""

from __future__ import annotations

import pickle
import sys
from pathlib import Path

from altana.core.conventions import Vec3
from altana.core.errors import UserError
from altana.exchange.incoming import Offer
from altana.exchange.tables_in import read_table
from altana.importers.memory import reader_limit
from altana.jobs.reader import Waiting, as_child, end_at_once, read_in_child

#: Kinds of files that are taken in, with what they are called.
TAKEN_IN = {
    ".bcf": "Remarks (BCF)",
    ".bcfzip": "Remarks (BCF)",
    ".gltf": "glTF, text",
    ".glb": "glTF, binary",
    ".usd": "USD",
    ".usda": "USD, text",
    ".usdc": "USD, binary",
    ".csv": "Table (CSV)",
    ".json": "Table with placements (JSON)",
}

#: Looking may take so many bytes, and so many times the file: cameras are small, whatever a damaged length in
#: the file asks for.
LOOKING, TIMES = 1 << 30, 20


def look_into(path: Path, offset: Vec3, waiting: Waiting | None = None) -> list[Offer]:
    """Everything that a file holds.  offset : metres, what the project's model has been moved by.

    ``waiting`` is called with the seconds so far; returning False gives up.  Raises UserError.
    """
    if path.suffix.lower() not in TAKEN_IN:
        raise UserError(
            f"{path.name} is no file that cameras are taken from. Choose one that ends in {', '.join(TAKEN_IN)}."
        )
    if not path.is_file():
        raise UserError(f"{path.name} is not there. Nothing was taken. Find the file, or choose another.")
    printed = read_in_child("altana.jobs.brought", (str(path), *map(repr, offset)), path.name, waiting)
    # Written by our own child just now, never by the file's maker.
    offers: list[Offer] = pickle.loads(printed)
    return offers


def held_by(path: Path, offset: Vec3) -> list[Offer]:
    """The same, read in this process."""
    kind = path.suffix.lower()
    try:
        if kind in (".bcf", ".bcfzip"):
            from altana.exchange.bcf_in import read_bcf

            return read_bcf(path, offset)
        if kind.startswith(".gl"):
            from altana.exchange.gltf_in import read_gltf_cameras

            offers = read_gltf_cameras(path, offset)
        elif kind.startswith(".usd"):
            from altana.exchange.usd_in import read_usd_cameras

            offers = read_usd_cameras(path, offset)
        else:
            offers = read_table(path, offset)
    except (KeyError, IndexError, TypeError, ValueError, RecursionError) as error:
        raise UserError(f"{path.name} is damaged. Nothing was taken.") from error
    if not offers:
        raise UserError(f"{path.name} holds no camera. Nothing was taken.")
    return offers


def main() -> int:
    """Look into one file and print what it holds (the child process)."""
    path, (east, north, up) = Path(sys.argv[1]), map(float, sys.argv[2:5])
    # What a library prints on its way is no part of what was found.
    out, sys.stdout = sys.stdout.buffer, sys.stderr

    def look() -> None:
        out.write(pickle.dumps(held_by(path, (east, north, up))))

    limit = LOOKING + TIMES * (path.stat().st_size if path.is_file() else 0)
    return as_child(path.name, min(reader_limit(), limit), look)


if __name__ == "__main__":
    end_at_once(main())
