"""What can be said of the places and the looking of a walk on the command line, and what it means."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from altana.cli.shared import vec3
from altana.cli.values import Read, or_off
from altana.core.errors import Refused
from altana.core.project import AHEAD, KEYED, POINT, Look, Walk

KEY_FIELDS = {
    "focal": "focal_mm",
    "ev": "ev",
    "rise": "rise_mm",
    "cross": "cross_mm",
    "near": "near_m",
    "far": "far_m",
    "hour": "hour",
    "lamps": "lamps",
    "heading": "heading_deg",
    "tilt": "tilt_deg",
    "handle": "handle",
    "long-way": "long_way",
}


def _handle(text: str) -> tuple[float, float]:
    east, north = (float(part) for part in text.split("/"))
    return (east, north)


def _yes(text: str) -> bool:
    if text not in ("yes", "no"):
        raise ValueError(text)
    return text == "yes"


def second_or_pace(text: str) -> float | None:
    """The second of a place, or None where the pace decides."""
    return None if text == "free" else float(text)


KEY_READS: dict[str, Read] = {
    **dict.fromkeys(("focal", "ev", "rise", "cross", "heading", "tilt"), float),
    **dict.fromkeys(("near", "far", "hour", "lamps"), or_off(float)),
    "handle": or_off(_handle),
    "long-way": _yes,
}


def with_keys(walk: Walk, values: dict[str, Any]) -> Walk:
    """A walk with what was said of its places.  Raises Refused where a place is not there."""
    keys = list(walk.keys)
    for typed in (*values["dwells"], *values["moments"], *values["bends"], *values["places"]):
        if typed.index >= len(keys):
            raise Refused(f"There is no place {typed.index + 1}: the walk has {len(keys)}.")
        own = {KEY_FIELDS.get(name, name): value for name, value in typed.fields.items()}
        keys[typed.index] = replace(keys[typed.index], **own)
    looks = [
        *walk.looks,
        *(_look(text) for text in values["looks"]),
        *(_way(text) for text in values["ways"]),
    ]
    return replace(walk, keys=tuple(keys), looks=tuple(looks))


def _span(text: str) -> tuple[float, float, str]:
    span, _, what = text.partition(":")
    start, _, end = span.partition("-")
    return float(start), float(end), what


def _look(text: str) -> Look:
    try:
        start, end, what = _span(text)
        first, moves, last = what.partition(">")
        x, y, z = (float(part) for part in first.split(","))
        to = vec3(tuple(float(part) for part in last.split(","))) if moves else None
        return Look(start, end, POINT, (x, y, z), to)
    except ValueError as error:
        raise Refused(f"“{text}” is not FROM-TO:x,y,z, such as 0.2-0.5:3,4,1.6.") from error


def _way(text: str) -> Look:
    try:
        start, end, what = _span(text)
        if what not in (AHEAD, KEYED):
            raise ValueError(what)
        return Look(start, end, what)
    except ValueError as error:
        raise Refused(
            f"“{text}” is not FROM-TO:{AHEAD} or FROM-TO:{KEYED}, such as 0.2-0.5:{AHEAD}."
        ) from error
