"""Opening models: from the cache at once, otherwise read by a child process that may fail without harm."""

from __future__ import annotations

import hashlib
import os
import sys
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np

from altana.core.errors import UserError
from altana.core.geometry.copies import joined_copies, keep_copies, known_copies
from altana.core.geometry.edges import edges_of, joined_edges, keep_edges
from altana.core.geometry.runs import joined_runs, keep_runs, runs_of
from altana.core.light.lamps import with_lamps
from altana.core.model import Model, Problem, join
from altana.core.patching import with_patches
from altana.core.placing import placed
from altana.core.project import ModelRef, Project
from altana.importers.memory import leave_to_the_end, reader_limit
from altana.importers.table import READERS, read_model, refused_kind
from altana.importers.units import UNITS
from altana.jobs.reader import Waiting, as_child, end_at_once, read_in_child
from altana.storage.cache import keep_model, load_model, model_key
from altana.storage.project_file import model_path

#: Codes of problems by which pictures lack something that belongs to them.
MISSING = ("missing-model", "missing-files")


@dataclass(frozen=True, slots=True)
class Opened:
    """The models of a project as one scene, with the cache keys of what throws and takes light."""

    model: Model
    keys: tuple[str, ...]
    #: The project's folder, where its pictures lie.
    base: Path = Path()

    @property
    def without(self) -> tuple[str, ...]:
        """Sentences about what pictures are made without: model files and pictures that are not there."""
        return tuple(item.sentence for item in self.model.problems if item.code in MISSING)


def open_model(
    path: Path, unit_m: float = 0.0, waiting: Waiting | None = None, up: str = ""
) -> tuple[Model, list[str], str]:
    """A model file, the names of its other files, and its cache key.

    ``waiting`` is called with the seconds so far; returning False gives up.  Raises UserError.
    """
    if path.suffix.lower() not in READERS:
        raise refused_kind(path)
    if not path.is_file():
        raise UserError(f"{path} is not there. Nothing was changed. Find the file, or choose another.")
    try:
        key = model_key(path, unit_m, up)
    except OSError as error:
        raise UserError(
            f"{path} may not be read. Nothing was changed. Change its permissions, or copy it."
        ) from error
    kept_model = load_model(path, key)
    if kept_model is None:
        read_in_child("altana.jobs.models", (str(path), repr(unit_m), up), path.name, waiting)
        kept_model = load_model(path, key)
    if kept_model is None:
        # The cache cannot be written here; then the model is read once more, in this process.
        model, others = read_model(path, unit_m, up)
        return model, others, key
    return (*kept_model, key)


def are_kept(project: Project, project_path: Path) -> bool:
    """Whether all models of a project that are shown were read before, so that opening them takes a
    moment."""
    shown = [item for item in project.models if item.shown]
    try:
        return bool(shown) and all(
            load_model(path, model_key(path, item.unit_m, item.up)) is not None
            for item in shown
            for path in (model_path(project_path, item),)
        )
    except (UserError, OSError):
        return False


def agreed(models: Sequence[Model]) -> tuple[float, str]:
    """Unit in metres and axis for files that belong together and name none, where they were judged
    differently: as the largest of them was.  0 and empty where all agree."""
    largest = sorted(models, key=lambda model: -len(model.faces))
    units = [model.unit.removesuffix(", assumed") for model in largest if model.unit.endswith(", assumed")]
    axes = [item.remedy for model in largest for item in model.problems if item.code == "axis-assumed"]
    unit_m = next((metres for metres, (name, _, _) in UNITS.items() if units and name == units[0]), 0.0)
    up = {"up:z": "y", "up:y": "z"}.get(axes[0], "") if axes else ""
    return (unit_m if len(set(units)) > 1 else 0.0), (up if len(set(axes)) > 1 else "")


def open_project_models(project: Project, project_path: Path, waiting: Waiting | None = None) -> Opened:
    """All models of a project as one scene.  Raises UserError."""
    if not project.models:
        raise UserError("The project has no model yet. Add one, then stand cameras in it.")
    shown = [item for item in project.models if item.shown]
    opened: list[tuple[Model, str]] = []
    missing: list[Problem] = []

    def one(item: ModelRef) -> tuple[Model, str] | UserError:
        try:
            model, _, key = open_model(model_path(project_path, item), item.unit_m, waiting, item.up)
        except UserError as error:
            return error
        where = f"{item.move if any(item.move) else ''}{item.turn_deg or ''}"
        return placed(model, item.move, item.turn_deg), f"{key}{where}"

    # Reading goes on in children, so several files are read at a time.
    with ThreadPoolExecutor(min(len(shown), os.cpu_count() or 1) or 1) as pool:
        for part in pool.map(one, shown):
            if isinstance(part, tuple):
                opened.append(part)
            elif waiting is not None and not waiting(0.0):
                raise part
            else:
                # One file that is gone must not shut out the others; what is made without it says so.
                missing.append(Problem("missing-model", f"{part.sentence} Pictures are made without it."))
    # Linework comes after the building: the building's numbers and its offset stay as they are alone.
    opened.sort(key=lambda item: not len(item[0].faces))
    if not opened or not len(opened[0][0].faces):
        if missing:
            raise UserError(missing[0].sentence.removesuffix(" Pictures are made without it."))
        raise UserError("The project holds only linework. Add a building model, then stand cameras in it.")
    # Drawings throw no light, so they are not part of what the kept light is known by.
    keys = tuple(key for model, key in opened if len(model.faces))
    patches = tuple(item for item in project.patches if item.on)
    if patches:
        keys = (*keys, hashlib.blake2b(repr(patches).encode(), digest_size=12).hexdigest())
    whole = _joined([model for model, _ in opened])
    lamps = project.light.lamps.hung
    if missing:
        bare, whole = whole, replace(whole, problems=(*missing, *whole.problems))
        _keep_known(whole, bare)
    patched = with_patches(whole, patches)
    lit = with_lamps(patched, lamps)
    if lit is not patched:
        # What is drawn is the same; how strongly lamps glow is part of what light is known by.
        _keep_known(lit, patched)
        keys = (*keys, hashlib.blake2b(repr(lamps).encode(), digest_size=12).hexdigest())
    return Opened(lit, keys, project_path.parent)


def _keep_known(model: Model, like: Model) -> None:
    """What is known of a model holds for another with the same surfaces."""
    keep_runs(model, runs_of(like))
    keep_edges(model, edges_of(like))
    if (copies := known_copies(like)) is not None:
        keep_copies(model, copies)


def _joined(models: list[Model]) -> Model:
    """The models as one scene, with what is known of each carried over."""
    whole = join(models)
    if len(models) > 1:
        shifts = [np.asarray(model.offset) - np.asarray(models[0].offset) for model in models]
        keep_runs(whole, joined_runs(models, shifts))
        keep_edges(whole, joined_edges(models, shifts))
        if (copies := joined_copies(models, shifts)) is not None:
            keep_copies(whole, copies)
    return whole


def main() -> int:
    """Read one model into the cache (the child process)."""
    path, unit_m, up = Path(sys.argv[1]), float(sys.argv[2]), sys.argv[3]

    def read() -> None:
        leave_to_the_end()
        model, others = read_model(path, unit_m, up)
        keep_model(path, model_key(path, unit_m, up), model, others)

    return as_child(path.name, reader_limit(), read)


if __name__ == "__main__":
    end_at_once(main())
