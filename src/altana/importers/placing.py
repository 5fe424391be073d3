"""Where surfaces of a file stand: what places and directions become by a matrix."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from altana.core.conventions import Floats, Floats32


@dataclass(frozen=True, slots=True, eq=False)
class Turn:
    """What the linear part of a placement does: which axes it only exchanges, whether it keeps lengths, and
    whether it mirrors."""

    linear: Floats
    #: For rows of numbers in single precision; only where axes are exchanged and nothing else.
    single: Floats32 | None
    inverse: Floats
    rigid: bool
    mirrors: bool


def turn_of(linear: Floats) -> Turn:
    """Of (3, 3); what is brought there by no numbers has none, and is damaged."""
    if not np.isfinite(linear).all():
        return Turn(linear, None, np.full((3, 3), np.nan), False, False)
    exchanged = bool((np.abs(linear) == np.eye(3)[np.argmax(np.abs(linear), axis=1)]).all())
    rigid = exchanged or bool(np.abs(linear @ linear.T - np.eye(3)).max() < 1e-9)
    inverse = np.asarray(np.linalg.pinv(linear), np.float64)
    single = np.ascontiguousarray(linear.T, np.float32) if exchanged else None
    return Turn(linear, single, inverse, rigid, bool(np.linalg.det(linear) < 0))


def _exchanged(values: Any, turn: Turn) -> Any:
    """(n, 3) with its columns exchanged and signed, in single precision: products with 0, 1 and -1 are
    exact."""
    return values @ turn.single


def moved_points(points: Any, turn: Turn, moved: Floats) -> Any:
    """(n, 3) places; single precision stays where axes are only exchanged."""
    if points.dtype == np.float32 and turn.single is not None and not moved.any():
        return _exchanged(points, turn)
    return np.asarray(points, float) @ turn.linear.T + moved


def turned_directions(normals: Any, turn: Turn) -> Any:
    """(n, 3) directions of surfaces, unit length."""
    if normals.dtype == np.float32 and turn.single is not None:
        return _exchanged(normals, turn)
    normals_turned = np.asarray(normals, float) @ turn.inverse
    return (
        normals_turned
        if turn.rigid
        else normals_turned / np.maximum(np.linalg.norm(normals_turned, axis=1, keepdims=True), 1e-12)
    )


@dataclass(frozen=True, slots=True)
class Placing:
    """How surfaces are brought to where they stand: turned, and ``moved`` by (3,)."""

    turn: Turn
    moved: Floats

    def points(self, places: Any) -> Any:
        """(n, 3) places, brought there."""
        return moved_points(places, self.turn, self.moved)

    def directions(self, normals: Any) -> Any:
        """(n, 3) directions of surfaces, brought there; unit length."""
        return turned_directions(normals, self.turn)

    def then(self, linear: Floats, moved: Floats, turns: dict[Turn, Turn]) -> Placing:
        """The same, turned and moved once more.  turns : what was found for others; is added to."""
        if self.turn not in turns:
            turns[self.turn] = turn_of(linear @ self.turn.linear)
        return Placing(turns[self.turn], linear @ self.moved + moved)
