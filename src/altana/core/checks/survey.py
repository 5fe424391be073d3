"""What is wrong with a model: open and flipped surfaces, plain stand-ins, missing storeys; with the objects
concerned.

An edge of a sound solid belongs to exactly two triangles that run along it in opposite directions.  One
triangle means a hole; two in the same direction mean that one of them faces the wrong way; a closed body
whose signed volume is negative faces inwards as a whole.
"""

from __future__ import annotations

import numpy as np

from altana.core.conventions import Bools, Floats
from altana.core.geometry.edges import edges_of
from altana.core.geometry.runs import object_boxes
from altana.core.light.lightmap import MOST_LIT
from altana.core.model import GLASS, Model, Problem

#: Objects in which more of the edges are open are sheets (leaves, panes, terrain), not bodies with holes.
SHEET_SHARE = 0.25
FAR_M = 1_000.0
MOST_NAMED = 400


def survey(model: Model) -> tuple[Problem, ...]:
    """Everything found beyond what the importer said, each in one sentence with its objects."""
    if not len(model.faces):
        return ()
    open_edges, flipped, edges, volume = edges_of(model).figures
    body = (edges > 0) & (open_edges < SHEET_SHARE * edges)
    problems = [
        _told(model, "holes", body & (open_edges > 0), "{} not closed: light and sections may show gaps."),
        _told(
            model,
            "flipped-faces",
            body & (flipped > 0),
            "{} some faces turned the wrong way; they are drawn from both sides.",
        ),
        _told(
            model,
            "inside-out",
            body & (open_edges == 0) & (volume < -1e-6),
            "{} turned inside out; they are drawn from both sides.",
        ),
        _told(model, "no-material", _plain(model), "{} no usable material; a plain one stands in."),
        _told(model, "no-storey", _homeless(model), "{} on no storey."),
        _far(model),
        _too_large_for_light(model),
    ]
    return tuple(item for item in problems if item is not None)


def edges_and_volumes(model: Model) -> tuple[Floats, Floats, Floats]:
    """Per object: open edges, all edges, and the signed volume (m3), which is negative for a body turned
    inside out."""
    open_edges, _, edges, volume = edges_of(model).figures
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
    named = (
        f"“{model.objects[numbers[0]].name}” {verb}"
        if len(numbers) == 1
        else f"{len(numbers)} objects {verb}"
    )
    return Problem(
        code, form.format(named), tuple(model.objects[number].id for number in numbers[:MOST_NAMED])
    )


def _too_large_for_light(model: Model) -> Problem | None:
    if len(model.faces) <= MOST_LIT:
        return None
    sentence = f"The model has {len(model.faces) / 1e6:.1f} million triangles; sun and shadow are exact, the soft light of the sky is estimated."
    return Problem("light-estimated", sentence)


def _plain(model: Model) -> Bools:
    stands_in = np.array(
        [
            material.name == "Plain" and material.image < 0 and material.kind != GLASS
            for material in model.materials
        ],
        bool,
    )
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
