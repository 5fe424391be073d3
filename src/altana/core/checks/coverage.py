"""Coverage: over many pictures, what of the model is seen, how large, from where, and what is never seen."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from altana.core.conventions import Floats, Floats32, Ints, Ints32
from altana.core.model import Model
from altana.core.naming import cell


@dataclass(frozen=True, slots=True)
class ObjectCoverage:
    """One object: its largest share of a picture (0 to 1) and in which, the smallest distance it is seen at
    (metres, infinite when never) and from which, and in how many pictures it is seen."""

    object_id: str
    name: str
    category: str
    share: float
    largest_in: str
    nearest_m: float
    nearest_in: str
    pictures: int

    @property
    def seen(self) -> bool:
        """Whether any picture shows it."""
        return self.pictures > 0


class Tally:
    """Gathers picture after picture; arrays run over the model's objects."""

    def __init__(self, model: Model) -> None:
        count = len(model.objects)
        self._model = model
        self.share: Floats = np.zeros(count)
        self.nearest: Floats = np.full(count, np.inf)
        self.largest_in: Ints = np.full(count, -1)
        self.nearest_in: Ints = np.full(count, -1)
        self.pictures: Ints = np.zeros(count, np.int64)
        self.names: list[str] = []
        self._known: dict[str, int] = {}

    def add(
        self,
        name: str,
        object_index: Ints32,
        depth_m: Floats32,
        panes: Ints32 | None = None,
        pane_depth_m: Floats32 | None = None,
    ) -> None:
        """Count one picture: (height, width) object numbers (-1 is sky) and depths in metres; the same of
        panes before it.

        Several pictures may have one name: the film frames of a walk.
        """
        if name not in self._known:
            self._known[name] = len(self.names)
            self.names.append(name)
        number = self._known[name]
        share, near = np.zeros(len(self.share)), np.full(len(self.share), np.inf)
        for numbers, depth in ((object_index, depth_m), (panes, pane_depth_m)):
            if numbers is None or depth is None:
                continue
            drawn = numbers >= 0
            index = numbers[drawn].astype(np.int64)
            share += np.bincount(index, minlength=len(share)) / numbers.size
            np.minimum.at(near, index, depth[drawn].astype(float))
        larger, nearer = share > self.share, near < self.nearest
        self.share[larger], self.largest_in[larger] = share[larger], number
        self.nearest[nearer], self.nearest_in[nearer] = near[nearer], number
        self.pictures[share > 0] += 1

    def result(self) -> tuple[ObjectCoverage, ...]:
        """One entry for each object, in the model's order."""
        return tuple(
            ObjectCoverage(
                item.id,
                cell(item.name),
                cell(item.category),
                float(self.share[number]),
                self.names[self.largest_in[number]] if self.largest_in[number] >= 0 else "",
                float(self.nearest[number]),
                self.names[self.nearest_in[number]] if self.nearest_in[number] >= 0 else "",
                int(self.pictures[number]),
            )
            for number, item in enumerate(self._model.objects)
        )


HEADINGS = (
    "object",
    "name",
    "category",
    "seen",
    "pictures",
    "largest_share",
    "largest_in",
    "nearest_m",
    "nearest_in",
)


def as_csv(shares: Sequence[ObjectCoverage]) -> str:
    """A table of all objects, one a line, with a heading; distances of what is never seen are left empty."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(HEADINGS)
    for item in shares:
        near = f"{item.nearest_m:.3f}" if item.seen else ""
        seen = "yes" if item.seen else "no"
        table.writerow(
            [
                cell(item.object_id),
                cell(item.name),
                cell(item.category),
                seen,
                item.pictures,
                f"{item.share:.6f}",
                cell(item.largest_in),
                near,
                cell(item.nearest_in),
            ]
        )
    return out.getvalue()
