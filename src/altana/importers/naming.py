"""Names and ids of things in mesh files: told apart, and the same whenever the file is read again."""

from __future__ import annotations

import hashlib
import re


def text_of(data: bytes) -> str:
    """The text of a file; what is no UTF-8 was mostly written on a desktop with the letters of Western
    Europe."""
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("cp1252", "replace")


class Names:
    """Gives things that are called alike names and ids of their own."""

    def __init__(self) -> None:
        self._taken: dict[str, int] = {}

    def of(self, label: str, same: bool = False) -> tuple[str, str]:
        """The name and id of a thing that its file calls so.  same : it is one more part of the thing last
        called so."""
        label = label.strip() or "Object"
        count = self._taken.get(label, 0)
        if not same or not count:
            count += 1
            self._taken[label] = count
        name = label if count == 1 else f"{label} {count}"
        return name, stable_id(name)


def stable_id(name: str) -> str:
    """An id that stays when other objects are added or taken out of the file."""
    return "o" + hashlib.blake2b(name.encode("utf-8", "replace"), digest_size=5).hexdigest()


def category_of(name: str) -> str:
    """The first word of a name, which mostly says what a thing is."""
    word = re.split(r"[\s_.:\-\d]+", name.strip())[0]
    return word.capitalize() or "Object"
