"""Values on the command line that are more than one word: ``FIELD=VALUE`` and ``PLACE:FIELD=VALUE``."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Any

import click

from altana.core.errors import Refused

#: One value read from text; raises ValueError.
Read = Callable[[str], Any]


@dataclass(frozen=True, slots=True)
class Field:
    """A field's name and its value; a bare word stands alone, with None."""

    name: str
    value: Any = None


class FieldValue(click.ParamType[Field]):
    """``FIELD=VALUE`` for the fields of a record: each is read as what the sample holds there.

    sample : a record with the fields.
    names : which of them may be given.
    words : what may stand alone, such as ``project``.
    own : fields that are told otherwise than they are held, with how each is read.
    """

    name = "FIELD=VALUE"

    def __init__(
        self,
        sample: object,
        names: Iterable[str],
        words: tuple[str, ...] = (),
        own: Mapping[str, Read] | None = None,
    ) -> None:
        self._reads = {name: _reader(getattr(sample, name)) for name in names} | dict(own or {})
        self._words = words

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> Field:
        """The field that was given.  Raises Refused for an unknown field or a value that cannot be read."""
        if isinstance(value, Field):
            return value
        if value in self._words:
            return Field(value)
        return field_of(str(value), self._reads, f"is none of {', '.join(self._reads)}.")


@dataclass(frozen=True, slots=True)
class AtPlace:
    """Fields for one place of a walk; places count from 0."""

    index: int
    fields: dict[str, Any]


class PlaceFields(click.ParamType[AtPlace]):
    """``PLACE:FIELD=VALUE[,FIELD=VALUE]``, or ``PLACE:VALUE`` where only one field is meant; places count
    from 1.

    reads : how each field is read, by the word that stands on the command line.
    only : the one field that a bare value is for.
    """

    def __init__(self, reads: Mapping[str, Read], only: str = "") -> None:
        self._reads, self._only = dict(reads), only
        self.name = "PLACE:VALUE" if only else "PLACE:FIELD=VALUE"

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> AtPlace:
        """The place and its fields.  Raises Refused for what cannot be read."""
        if isinstance(value, AtPlace):
            return value
        number, _, rest = str(value).partition(":")
        if not number.strip().isdigit() or int(number) < 1 or not rest:
            raise Refused(f"“{value}” is not {self.name} with a place from 1.")
        parts = [f"{self._only}={rest}"] if self._only else rest.split(",")
        fields = [
            field_of(part, self._reads, f"is no field of a place. Fields: {', '.join(self._reads)}.")
            for part in parts
        ]
        return AtPlace(int(number) - 1, {item.name: item.value for item in fields})


def field_of(text: str, reads: Mapping[str, Read], unknown: str) -> Field:
    """``FIELD=VALUE`` read by the field's own way.  Raises Refused, with the sentence's end for an unknown
    field."""
    name, _, value = text.partition("=")
    name = name.strip()
    if name not in reads:
        raise Refused(f"“{name}” {unknown}")
    try:
        return Field(name, reads[name](value))
    except (ValueError, OverflowError) as error:
        raise Refused(f"“{value}” is no value for {name}.") from error


def fields_of(given: Iterable[Field]) -> dict[str, Any]:
    """Fields and their values; of one given twice, the last."""
    return {item.name: item.value for item in given}


def or_off(read: Read) -> Read:
    """The same, and ``off`` for none."""
    return lambda text: None if text == "off" else read(text)


def number_of(text: str, what: str) -> float:
    """A number.  Raises Refused, naming what it was for."""
    try:
        return float(text)
    except ValueError as error:
        raise Refused(f"“{text}” is no number for {what}.") from error


def _reader(value: object) -> Read:
    if isinstance(value, tuple):
        return _curve
    if isinstance(value, bool):
        return lambda text: text.lower() in ("1", "yes", "on", "true")
    if isinstance(value, str):
        return str
    if isinstance(value, int):
        return lambda text: int(float(text))
    return float


def _curve(text: str) -> tuple[tuple[float, float], ...]:
    """``0.25:0.2/0.75:0.8`` as points of a curve; nothing for none."""
    points = []
    for part in text.split("/") if text else ():
        place, _, value = part.partition(":")
        points.append((float(place), float(value)))
    return tuple(points)
