"""The table of formats: an ending leads to the module that reads files of that kind."""

from __future__ import annotations

from collections.abc import Callable
from importlib import import_module
from pathlib import Path

from altana.core.errors import UserError
from altana.core.model import Model
from altana.importers.build import build
from altana.importers.raw import RawModel

Reader = Callable[[Path, float, str], tuple[RawModel, list[str]]]

#: What each kind of file is called, and the module and function that read it.  The libraries behind them take
#: over half a second to load, and most starts find their model in the cache, so a reader is imported when a
#: file of its kind is read.
KINDS: dict[str, tuple[str, str]] = {
    ".ifc": ("IFC", "ifc:read_ifc_file"),
    ".ifczip": ("IFC in an archive", "ifc:read_ifc_file"),
    ".ifcxml": ("IFC as XML", "ifc:read_ifc_file"),
    ".glb": ("binary glTF", "gltf.read:read_gltf"),
    ".gltf": ("glTF", "gltf.read:read_gltf"),
    ".usd": ("USD", "usd:read_usd"),
    ".usda": ("USD", "usd:read_usd"),
    ".usdc": ("USD", "usd:read_usd"),
    ".usdz": ("USD in a package", "usd:read_usd"),
    ".obj": ("OBJ", "obj:read_obj"),
    ".dae": ("COLLADA", "dae:read_dae"),
    ".stl": ("STL", "stl:read_stl"),
    ".ply": ("PLY", "ply:read_ply"),
    ".off": ("OFF", "off:read_off"),
    ".3mf": ("3MF", "threemf:read_3mf"),
    ".json": ("CityJSON", "cityjson:read_cityjson"),
    ".cityjson": ("CityJSON", "cityjson:read_cityjson"),
    ".jsonl": ("CityJSON", "cityjson:read_cityjson"),
    ".las": ("laser scan", "scans:read_scan"),
    ".laz": ("laser scan", "scans:read_scan"),
    ".dxf": ("DXF", "dxf:read_dxf"),
}
#: The endings of all kinds.
READERS = tuple(KINDS)


def reader_of(suffix: str) -> Reader | None:
    """The function that reads files of this ending, in any case; None for kinds that Altana does not open."""
    if suffix.lower() not in KINDS:
        return None
    module, name = KINDS[suffix.lower()][1].split(":")
    reader: Reader = getattr(import_module(f"altana.importers.{module}"), name)
    return reader


def refused_kind(path: Path) -> UserError:
    """The sentence for a file of a kind that is not opened."""
    return UserError(f"{path.name} is of no kind that Altana opens. It opens {', '.join(sorted(KINDS))}.")


def read_model(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[Model, list[str]]:
    """A model file as a Model, and the names of other files it was read from, relative to its folder.

    unit_m : metres per unit, 0 to find out.  up : the axis that points up, "y" or "z", empty to find out.

    Raises UserError with one clear sentence for whatever is wrong with the file.
    """
    if path.suffix.lower() not in KINDS:
        raise refused_kind(path)
    kind = KINDS[path.suffix.lower()][0]
    try:
        if not path.is_file():
            raise UserError(f"{path} is not there. Nothing was changed. Find the file, or choose another.")
        with path.open("rb") as file:
            if not file.read(65_536).strip(b"\0 \t\r\n"):
                raise UserError(
                    f"{path.name} is empty. Nothing was changed. Export it again, or choose another file."
                )
        reader = reader_of(path.suffix)
        assert reader is not None
        raw, others = reader(path, unit_m, up)
        return build(raw, path.name), others
    except UserError:
        raise
    except MemoryError as error:
        raise UserError(
            f"{path.name} needs more memory than is free. Nothing was changed. Close other programs, or export a lighter model."
        ) from error
    except PermissionError as error:
        raise UserError(
            f"{path} may not be read. Nothing was changed. Change its permissions, or copy it."
        ) from error
    except Exception as error:
        # Parsers of damaged files fail in as many ways as files can be damaged; a person needs one sentence.
        raise UserError(
            f"{path.name} is damaged and cannot be read as {kind}. Nothing was changed. Export it again, or choose another file."
        ) from error
