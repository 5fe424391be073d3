"""PLY: the header, and the elements as it lists them, written as text or as numbers of either byte order.

Read here, because trimesh cuts faces of more than four corners into fans or calls them damaged and knows
neither strips nor how pictures lie on quads, and the other library that is kept is under a licence that would
bind all of Altana.
"""

from __future__ import annotations

import io
import itertools
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Ints
from altana.importers.memory import check_room
from altana.importers.naming import text_of
from altana.importers.number_rows import even_rows

TYPES = {
    "char": "i1", "uchar": "u1", "short": "i2", "ushort": "u2", "int": "i4", "uint": "u4", "float": "f4", "double": "f8",
    "int8": "i1", "uint8": "u1", "int16": "i2", "uint16": "u2", "int32": "i4", "uint32": "u4", "int64": "i8", "uint64": "u8",
    "float32": "f4", "float64": "f8",
}  # fmt: skip
#: A header is no longer than this, bytes.
LONGEST_HEADER = 1 << 20
END = b"end_header"
Array = npt.NDArray[Any]


@dataclass(frozen=True, slots=True)
class Property:
    """A value of an element, or a list of values with the type of its count."""

    name: str
    kind: str
    count: str = ""


@dataclass(slots=True)
class Element:
    """``rows`` things with the same properties.  values : (rows,) by name.  lists : how many each has,
    (rows,), and all of them, by name."""

    name: str
    rows: int
    properties: list[Property] = field(default_factory=list)
    values: dict[str, Array] = field(default_factory=dict)
    lists: dict[str, tuple[Ints, Array]] = field(default_factory=dict)

    def columns(self, *names: str) -> Array | None:
        """(rows, n) values side by side, None where one is missing."""
        if not all(name in self.values for name in names):
            return None
        return np.column_stack([self.values[name] for name in names])


@dataclass(slots=True)
class Contents:
    """Elements by name, and the pictures that the header names."""

    elements: dict[str, Element]
    pictures: list[str]


def read_elements(data: bytes, name: str) -> Contents:
    """All elements of a file.  Raises UserError for more than there is room for, ValueError for damage."""
    order, contents, at = _header(data)
    for element in contents.elements.values():
        check_room(element.rows * max(1, len(element.properties)) * 8, name)
    if order == "":
        lines = (line for line in io.BytesIO(data[at:]) if line.strip())
        for element in contents.elements.values():
            _read_text(element, lines)
        return contents
    for element in contents.elements.values():
        at = _read_numbers(element, data, at, order)
    return contents


def _header(data: bytes) -> tuple[str, Contents, int]:
    """The byte order, empty for text; the elements, without their values; where the values begin."""
    end = data.find(END, 0, LONGEST_HEADER)
    if not data.startswith(b"ply") or end < 0:
        raise ValueError("no header")
    at = end + len(END)
    at += 2 if data[at : at + 2] == b"\r\n" else 1
    order, elements, pictures = "", dict[str, Element](), list[str]()
    current: Element | None = None
    for line in text_of(data[:end]).splitlines():
        words = line.split()
        if not words:
            continue
        if words[0] == "format":
            order = {"ascii": "", "binary_little_endian": "<", "binary_big_endian": ">"}[words[1]]
        elif words[0] in ("comment", "obj_info") and len(words) > 2 and words[1].lower() == "texturefile":
            pictures.append(line.split(None, 2)[2].strip())
        elif words[0] == "element":
            current = Element(words[1], int(words[2]))
            if current.rows < 0 or current.name in elements:
                raise ValueError("elements")
            elements[current.name] = current
        elif words[0] == "property" and current is not None:
            prop = (
                Property(words[4], TYPES[words[3]], TYPES[words[2]])
                if words[1] == "list"
                else Property(words[2], TYPES[words[1]])
            )
            current.properties.append(prop)
    return order, Contents(elements, pictures), at


def _read_text(element: Element, lines: Iterator[bytes]) -> None:
    rows = list(itertools.islice(lines, element.rows))
    if element.rows and not _take_even(element, rows):
        _take_rows(element, (_words(line, element.properties) for line in rows))


def _take_even(element: Element, rows: list[bytes]) -> bool:
    """Take values from rows that all have as many, in lists, too; False, and nothing taken, where they
    differ."""
    table = even_rows(rows) if len(rows) == element.rows else None
    if table is None:
        return False
    at, values, lists = 0, dict[str, Array](), dict[str, tuple[Ints, Array]]()
    for item in element.properties:
        if at >= table.shape[1]:
            return False
        first = table[:, at]
        at += 1
        if not item.count:
            values[item.name] = first.astype(item.kind)
            continue
        if not (first == first[0]).all() or not 0 <= first[0] <= table.shape[1] - at:
            return False
        size = int(first[0])
        some = table[:, at : at + size].astype(item.kind)
        lists[item.name] = np.full(element.rows, size, np.int64), some.ravel()
        at += size
    element.values.update(values)
    element.lists.update(lists)
    return True


def _words(line: bytes, properties: list[Property]) -> list[Any]:
    """The values of one line by property: numbers, or lists of them."""
    words, at = line.split(), 0
    columns: list[Any] = []
    for item in properties:
        count = 1
        if item.count:
            count = int(words[at])
            at += 1
        if count < 0 or at + count > len(words):
            raise ValueError("too few values")
        some = [float(word) for word in words[at : at + count]]
        columns.append(some if item.count else some[0])
        at += count
    return columns


def _take_rows(element: Element, rows: Iterator[list[Any]]) -> None:
    columns: list[list[Any]] = [[] for _ in element.properties]
    seen = 0
    for row in rows:
        seen += 1
        for column, value in zip(columns, row, strict=True):
            column.append(value)
    if seen != element.rows:
        raise ValueError("too few rows")
    for item, column in zip(element.properties, columns, strict=True):
        if item.count:
            counts = np.fromiter((len(one) for one in column), np.int64, len(column))
            flat = np.fromiter(itertools.chain.from_iterable(column), np.float64, int(counts.sum()))
            element.lists[item.name] = counts, flat.astype(item.kind)
        else:
            element.values[item.name] = np.asarray(column, item.kind)


def _read_numbers(element: Element, data: bytes, at: int, order: str) -> int:
    """Take an element's values from ``at`` on; where the next begins."""
    if not element.rows:
        return at
    kinds = [(order + item.kind, order + item.count if item.count else "") for item in element.properties]
    lengths = _first_lengths(data, at, kinds)
    row = np.dtype(
        [
            entry
            for number, ((kind, count), length) in enumerate(zip(kinds, lengths, strict=True))
            for entry in (
                [(f"c{number}", count), (f"v{number}", kind, (length,))] if count else [(f"v{number}", kind)]
            )
        ]
    )
    end = at + row.itemsize * element.rows
    if end <= len(data):
        table = np.frombuffer(data, row, element.rows, at)
        if all(
            (table[f"c{number}"] == length).all()
            for number, ((_, count), length) in enumerate(zip(kinds, lengths, strict=True))
            if count
        ):
            for number, item in enumerate(element.properties):
                values = table[f"v{number}"]
                if item.count:
                    counts = np.full(element.rows, lengths[number], np.int64)
                    element.lists[item.name] = counts, values.reshape(-1)
                else:
                    element.values[item.name] = values
            return end
    return _read_uneven(element, data, at, kinds)


def _first_lengths(data: bytes, at: int, kinds: list[tuple[str, str]]) -> list[int]:
    """How many values the first row has in each of its lists."""
    lengths = []
    for kind, count in kinds:
        length = 1
        if count:
            length = int(np.frombuffer(data, count, 1, at)[0])
            at += np.dtype(count).itemsize
        if length < 0 or at + length * np.dtype(kind).itemsize > len(data):
            raise ValueError("too few values")
        lengths.append(length)
        at += length * np.dtype(kind).itemsize
    return lengths


def _read_uneven(element: Element, data: bytes, at: int, kinds: list[tuple[str, str]]) -> int:
    """Rows whose lists are not all as long, one after the other."""
    types = [(np.dtype(kind), np.dtype(count) if count else None) for kind, count in kinds]
    whole = [
        Property(item.name, kind, item.count)
        for item, (kind, _) in zip(element.properties, kinds, strict=True)
    ]
    counts: list[list[int]] = [[] for _ in kinds]
    pieces: list[list[bytes]] = [[] for _ in kinds]
    for _ in range(element.rows):
        for number, (kind, count) in enumerate(types):
            length = 1
            if count is not None:
                length = int.from_bytes(
                    data[at : at + count.itemsize],
                    "big" if kinds[number][1][0] == ">" else "little",
                    signed=count.kind == "i",
                )
                at += count.itemsize
            size = length * kind.itemsize
            if length < 0 or at + size > len(data):
                raise ValueError("too few values")
            counts[number].append(length)
            pieces[number].append(data[at : at + size])
            at += size
    for number, item in enumerate(whole):
        flat = np.frombuffer(b"".join(pieces[number]), item.kind)
        if item.count:
            element.lists[item.name] = np.asarray(counts[number], np.int64), flat
        else:
            element.values[item.name] = flat
    return at
