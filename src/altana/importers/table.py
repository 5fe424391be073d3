"""The table of formats: a suffix leads to the module that reads it."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from altana.core.errors import UserError
from altana.core.model import Model
from altana.importers.build import RawModel, build

Reader = Callable[[Path, float, str], tuple[RawModel, list[str]]]


# The libraries behind the formats take over half a second to load, and most starts find their model in the cache: a reader is loaded
# when a file of its kind is read.


def _ifc(path: Path, unit_m: float, up: str) -> tuple[RawModel, list[str]]:
    from altana.importers.ifc import read_ifc

    return read_ifc(path), []


def _mesh(path: Path, unit_m: float, up: str) -> tuple[RawModel, list[str]]:
    from altana.importers.meshes import read_mesh_file

    return read_mesh_file(path, unit_m, up)


def _dxf(path: Path, unit_m: float, up: str) -> tuple[RawModel, list[str]]:
    from altana.importers.dxf import read_dxf

    return read_dxf(path, unit_m, up)


READERS: dict[str, Reader] = {
    ".ifc": _ifc,
    ".glb": _mesh,
    ".gltf": _mesh,
    ".obj": _mesh,
    ".stl": _mesh,
    ".ply": _mesh,
    ".dae": _mesh,
    ".dxf": _dxf,
}


def read_model(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[Model, list[str]]:
    """A model file as a Model, and the names of other files it was read from, relative to its folder.

    unit_m : metres per unit, 0 to find out.  up : the axis that points up, "y" or "z", empty to find out.

    Raises UserError with one clear sentence for whatever is wrong with the file.
    """
    reader = READERS.get(path.suffix.lower())
    if reader is None:
        raise UserError(f"{path.name} is of no kind that Altana opens. It opens {', '.join(sorted(READERS))}.")
    try:
        if not path.is_file():
            raise UserError(f"{path} is not there. Nothing was changed. Find the file, or choose another.")
        raw, others = reader(path, unit_m, up)
        return build(raw, path.name), others
    except UserError:
        raise
    except MemoryError as error:
        raise UserError(
            f"{path.name} asks for more memory than it may. Nothing was changed. It is probably damaged; export it again."
        ) from error
    except PermissionError as error:
        raise UserError(f"{path} may not be read. Nothing was changed. Change its permissions, or copy it.") from error
    except Exception as error:
        # Parsers of damaged files fail in as many ways as files can be damaged; a person needs one sentence.
        raise UserError(
            f"{path.name} is damaged and cannot be read ({type(error).__name__}). Nothing was changed. Export it again, or choose another file."
        ) from error
