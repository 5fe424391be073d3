"""What is wrong with a model: open and flipped surfaces, plain stand-ins, missing storeys; with the objects concerned.

An edge of a sound solid belongs to exactly two triangles that run along it in opposite directions.  One triangle
means a hole; two in the same direction mean that one of them faces the wrong way; a closed body whose signed volume
is negative faces inwards as a whole.
"""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Bools, Floats
from altana.core.geometry.drawing import welded
from altana.core.model import GLASS, Model, Problem

#: Objects in which more of the edges are open are sheets (leaves, panes, terrain), not bodies with holes.
SHEET_SHARE = 0.25
FAR_M = 1_000.0
MOST_NAMED = 400


def survey(model: Model) -> tuple[Problem, ...]:
    """Everything found beyond what the importer said, each in one sentence with its objects."""
    if not len(model.faces):
        return ()
    open_edges, flipped, edges, volume = _by_object(model)
    body = (edges > 0) & (open_edges < SHEET_SHARE * edges)
    found = [
        _told(model, "holes", body & (open_edges > 0), "{} not closed: light and sections may show gaps."),
        _told(model, "flipped-faces", body & (flipped > 0), "{} some faces turned the wrong way; they are drawn from both sides."),
        _told(model, "inside-out", body & (open_edges == 0) & (volume < -1e-6), "{} turned inside out; they are drawn from both sides."),
        _told(model, "no-material", _plain(model), "{} no usable material; a plain one stands in."),
        _told(model, "no-storey", _homeless(model), "{} on no storey."),
        _far(model),
    ]
    return tuple(item for item in found if item is not None)


def edges_and_volumes(model: Model) -> tuple[Floats, Floats, Floats]:
    """Per object: open edges, all edges, and the signed volume (m3), which is negative for a body turned inside out."""
    open_edges, _, edges, volume = _by_object(model)
    return open_edges, edges, volume


_VERBS = {
    "holes": ("is", "are"),
    "inside-out": ("is", "are"),
    "no-storey": ("is", "are"),
    "flipped-faces": ("has", "have"),
    "no-material": ("has", "have"),
}


def _told(model: Model, code: str, which: Bools, form: str) -> Problem | None:
    numbers = np.flatnonzero(which).tolist()
    if not numbers:
        return None
    verb = _VERBS[code][len(numbers) > 1]
    named = f"“{model.objects[numbers[0]].name}” {verb}" if len(numbers) == 1 else f"{len(numbers)} objects {verb}"
    return Problem(code, form.format(named), tuple(model.objects[number].id for number in numbers[:MOST_NAMED]))


def _by_object(model: Model) -> tuple[Floats, Floats, Floats, Floats]:
    """Per object: open edges, edges run along twice in one direction, all edges, signed volume (m3)."""
    owner = model.face_objects()
    points, faces = welded(model.vertices, model.faces, owner)
    sound = (faces[:, 0] != faces[:, 1]) & (faces[:, 1] != faces[:, 2]) & (faces[:, 2] != faces[:, 0])
    faces, owner = faces[sound], owner[sound]
    count = len(model.objects)
    directed = faces[:, [0, 1, 1, 2, 2, 0]].reshape(-1, 2)
    low, high = directed.min(axis=1), directed.max(axis=1)
    key = low * np.int64(len(points) + 1) + high
    sense = np.where(directed[:, 0] == low, 1, -1)
    order = np.argsort(key, kind="stable")
    first = np.flatnonzero(np.r_[True, np.diff(key[order]) != 0]) if len(key) else np.zeros(0, int)
    uses = np.diff(np.r_[first, len(key)])
    balance = np.add.reduceat(sense[order], first) if len(first) else np.zeros(0)
    of = np.repeat(owner, 3)[order][first]
    a, b, c = (points[faces[:, corner]] for corner in range(3))
    volume = np.einsum("ij,ij->i", a, np.cross(b, c)) / 6.0

    def summed(values: npt.NDArray[np.generic]) -> Floats:
        return np.bincount(of, weights=values.astype(float), minlength=count).astype(float)

    return (
        summed(uses == 1),
        summed((uses == 2) & (balance != 0)),
        summed(np.ones(len(first))),
        np.bincount(owner, weights=volume, minlength=count).astype(float),
    )


def _plain(model: Model) -> Bools:
    stands_in = np.array([material.name == "Plain" and material.image < 0 and material.kind != GLASS for material in model.materials], bool)
    out = np.zeros(len(model.objects), bool)
    out[model.face_objects()[stands_in[model.face_material]]] = True
    return out


def _homeless(model: Model) -> Bools:
    known = {item.id for item in model.storeys}
    lost = np.array([item.storey_id not in known for item in model.objects], bool)
    # Where no object has a storey, the model as a whole has none, and the importer has said so.
    return lost if not lost.all() else np.zeros(len(lost), bool)


def _far(model: Model) -> Problem | None:
    """Single objects so far from the others that the model looks tiny."""
    middle = np.array(
        [
            model.vertices[model.faces[o.first_face : o.first_face + o.face_count]].mean(axis=(0, 1)) if o.face_count else (0, 0, 0)
            for o in model.objects
        ]
    )
    away = np.linalg.norm(middle - np.median(middle, axis=0), axis=1)
    return _lost(model, away > max(FAR_M, 20.0 * float(np.percentile(away, 80))))


def _lost(model: Model, which: Bools) -> Problem | None:
    numbers = np.flatnonzero(which).tolist()
    if not numbers:
        return None
    ids = tuple(model.objects[number].id for number in numbers[:MOST_NAMED])
    what = f"“{model.objects[numbers[0]].name}” lies" if len(numbers) == 1 else f"{len(numbers)} objects lie"
    return Problem("far-objects", f"{what} more than a kilometre from everything else.", ids)
