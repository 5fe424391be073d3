"""Names of delivered files, from a pattern: what each field becomes, and what no file system takes; print
sizes; and numbers in a row."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Mapping, Sequence

from altana.core.errors import Refused

FIELDS = ("project", "author", "date", "version", "storey", "room", "order", "camera", "format", "kind")
#: Names that one system or another keeps for itself.
RESERVED = {
    "con",
    "prn",
    "aux",
    "nul",
    *(f"com{n}" for n in range(1, 10)),
    *(f"lpt{n}" for n in range(1, 10)),
}
LONGEST = 120
INCH_MM = 25.4


def counted(number: int, noun: str) -> str:
    """A number with its noun: ``1 file``, ``3 files``."""
    return f"{number} {noun}" if number == 1 else f"{number} {noun}s"


def plain(text: str) -> str:
    """Text as part of a file name: letters, digits, dots, dashes and underscores that every system takes."""
    spelled = unicodedata.normalize("NFKD", text).encode("ascii", "ignore").decode()
    return re.sub(r"[^A-Za-z0-9._-]+", "-", spelled).strip("-.")


def unknown_fields(pattern: str) -> tuple[str, ...]:
    """What stands in braces and is no field."""
    return tuple(name for name in re.findall(r"\{([^{}]*)\}", pattern) if name not in FIELDS)


def named(pattern: str, values: Mapping[str, str]) -> str:
    """A file name without its suffix.  Raises Refused for a field that is none, or where nothing is left."""
    wrong = unknown_fields(pattern)
    if wrong:
        raise Refused(f"“{{{wrong[0]}}}” is no field of a name. Fields: {', '.join(FIELDS)}.")
    if "{" in re.sub(r"\{[^{}]*\}", "", pattern) or "}" in re.sub(r"\{[^{}]*\}", "", pattern):
        raise Refused("A brace of the name's pattern is not closed.")
    filled = re.sub(r"\{([^{}]*)\}", lambda match: plain(values.get(match.group(1), "")), pattern)
    stem = re.sub(r"-{2,}", "-", plain(filled))[:LONGEST].strip("-.").lower()
    if not stem:
        raise Refused("Nothing is left of the name. Write letters or fields such as {camera}.")
    return unreserved(stem)


def unreserved(name: str) -> str:
    """A name that no system keeps for itself, whatever suffix it gets: those count without what stands behind
    their first dot."""
    first, dot, rest = name.partition(".")
    return f"{first}-{dot}{rest}" if first.lower() in RESERVED else name


def cell(text: str) -> str:
    """Text as a cell of a table: a spreadsheet must not take it for a formula."""
    return f"'{text}" if text[:1] in ("=", "+", "-", "@", "\t", "\r") else text


def folder_named(pattern: str, values: Mapping[str, str]) -> str:
    """A folder below the delivery folder; parts that would lead out of it are dropped."""
    parts = [part for part in re.split(r"[/\\]+", pattern) if part.strip() and set(part.strip()) - {"."}]
    return "/".join(named(part, values) for part in parts)


def clashes(names: Iterable[str]) -> frozenset[str]:
    """Names that occur more than once, capitals aside."""
    seen: set[str] = set()
    twice: set[str] = set()
    for name in names:
        (twice if name.lower() in seen else seen).add(name.lower())
    return frozenset(twice)


def size_for_print(width_mm: float, dpi: float) -> int:
    """Pixels across for a print so wide."""
    return max(1, round(width_mm / INCH_MM * dpi))


def print_width_mm(width_px: int, dpi: float) -> float:
    """How wide so many pixels print, millimetres."""
    return width_px / dpi * INCH_MM if dpi > 0 else 0.0


def runs_of(numbers: Sequence[int]) -> str:
    """Numbers in words as short as may be: ``1, 3–5``."""
    runs: list[list[int]] = []
    for number in sorted(numbers):
        if runs and number == runs[-1][-1] + 1:
            runs[-1].append(number)
        else:
            runs.append([number])
    spans = [", ".join(map(str, run)) if len(run) < 3 else f"{run[0]}–{run[-1]}" for run in runs]
    return ", ".join(spans)
