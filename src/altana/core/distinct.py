"""Distinct numbers by sorting: NumPy's own ``unique`` goes by a table of hashes, which takes ten to fifty
times as long."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Ints


def distinct(values: npt.NDArray[Any]) -> npt.NDArray[Any]:
    """(k,) the different ones of any numbers, in order."""
    ordered = np.sort(values, axis=None)
    first = np.ones(len(ordered), bool)
    first[1:] = ordered[1:] != ordered[:-1]
    rows: npt.NDArray[Any] = ordered[first]
    return rows


def in_use(numbers: npt.NDArray[Any], count: int) -> Ints:
    """(k,) which of the numbers from 0 to ``count`` - 1 there are, in order."""
    there = np.zeros(count, bool)
    there[np.reshape(numbers, -1)] = True
    return np.flatnonzero(there)
