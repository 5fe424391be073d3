"""What is wrong with a model: open and flipped surfaces, plain stand-ins, missing storeys; with the objects concerned.

An edge of a sound solid belongs to exactly two triangles that run along it in opposite directions.  One triangle
means a hole; two in the same direction mean that one of them faces the wrong way; a closed body whose signed volume
is negative faces inwards as a whole.
"""

from __future__ import annotations

from weakref import WeakKeyDictionary

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Bools, Floats
from altana.core.geometry.drawing import welded
from altana.core.geometry.runs import object_boxes
from altana.core.model import GLASS, Model, Problem

#: Objects in which more of the edges are open are sheets (leaves, panes, terrain), not bodies with holes.
SHEET_SHARE = 0.25
FAR_M = 1_000.0
#: Triangles looked at together.
AT_A_TIME = 500_000
_known: WeakKeyDictionary[Model, Floats] = WeakKeyDictionary()
MOST_NAMED = 400


def survey(model: Model) -> tuple[Problem, ...]:
    """Everything found beyond what the importer said, each in one sentence with its objects."""
    if not len(model.faces):
        return ()
    open_edges, flipped, edges, volume = edge_figures(model)
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
    open_edges, _, edges, volume = edge_figures(model)
    return open_edges, edges, volume


def edge_figures(model: Model) -> Floats:
    """(4, objects): open edges, edges run along twice in one direction, all edges, signed volume (m3); kept with the model."""
    held = _known.get(model)
    if held is None:
        held = _known[model] = np.stack(_by_object(model))
    return held


def keep_edge_figures(model: Model, figures: Floats) -> None:
    """Say what the figures of a model are, where they were kept with it."""
    _known[model] = figures


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
    """The four figures, some objects at a time, so that a large model takes no more memory than a middling one."""
    counts = np.array([item.face_count for item in model.objects], np.int64)
    if not counts.sum():
        return (*(np.zeros(len(counts)) for _ in range(4)),)  # type: ignore[return-value]
    # Objects stand one after the other, and no edge belongs to two of them.
    group = (np.cumsum(counts) - counts) // AT_A_TIME
    starts = np.flatnonzero(np.r_[True, np.diff(group) > 0])
    found = [_of_objects(model, int(first), int(end)) for first, end in zip(starts, [*starts[1:], len(counts)], strict=True)]
    open_edges, flipped, edges, volume = (np.concatenate(parts) for parts in zip(*found, strict=True))
    return open_edges, flipped, edges, volume


def _of_objects(model: Model, first_object: int, end_object: int) -> tuple[Floats, Floats, Floats, Floats]:
    count = end_object - first_object
    owner = np.repeat(np.arange(count, dtype=np.int32), [item.face_count for item in model.objects[first_object:end_object]])
    begin = model.objects[first_object].first_face
    corners, local = np.unique(model.faces[begin : begin + len(owner)], return_inverse=True)
    points, faces = welded(model.vertices[corners], local.reshape(-1, 3).astype(np.int32), owner)
    sound = (faces[:, 0] != faces[:, 1]) & (faces[:, 1] != faces[:, 2]) & (faces[:, 2] != faces[:, 0])
    faces, owner = faces[sound], owner[sound]
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
    low, high = object_boxes(model)
    middle = np.where(np.isfinite(low), (low + high) / 2, 0.0)
    away = np.linalg.norm(middle - np.median(middle, axis=0), axis=1)
    return _lost(model, away > max(FAR_M, 20.0 * float(np.percentile(away, 80))))


def _lost(model: Model, which: Bools) -> Problem | None:
    numbers = np.flatnonzero(which).tolist()
    if not numbers:
        return None
    ids = tuple(model.objects[number].id for number in numbers[:MOST_NAMED])
    what = f"“{model.objects[numbers[0]].name}” lies" if len(numbers) == 1 else f"{len(numbers)} objects lie"
    return Problem("far-objects", f"{what} more than a kilometre from everything else.", ids)
