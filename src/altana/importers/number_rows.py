"""Rows of numbers written as text, taken in at once."""

from __future__ import annotations

import numpy as np

from altana.core.conventions import Floats


def numbers_in(text: str | bytes) -> Floats:
    """(n,) the numbers of a text that white space parts.  Raises ValueError where a word is none."""
    return np.fromstring(text, float, sep=" ")


def even_rows(rows: list[str] | list[bytes], width: int = 0) -> Floats | None:
    """(rows, width) the numbers of rows that all have as many; None where they differ, or where a word is no
    number.

    width : how many, where that is known; otherwise as many as the first row has.
    """
    if not rows:
        return np.zeros((0, width))
    width = width or len(rows[0].split())
    try:
        flat = numbers_in(b" ".join(rows) if isinstance(rows[0], bytes) else " ".join(rows))
    except ValueError:
        return None
    return flat.reshape(len(rows), width) if len(flat) == len(rows) * width else None
