"""Names are text: whatever they look like, nothing of them is read as markup."""

from __future__ import annotations

import html


def short_name(name: str, longest: int = 18) -> str:
    """A name for a button: its middle left out where it is long, for names are told apart by their ends."""
    if len(name) <= longest:
        return name
    begin = (longest - 1) // 2
    return f"{name[:begin].rstrip()}…{name[-(longest - 1 - begin) :].lstrip()}"


def tip_text(text: str) -> str:
    """A tooltip that shows this text, letter by letter: tooltips take what looks like markup for it, and
    would fetch pictures that it names."""
    if "<" not in text and "&" not in text:
        return text
    return "<p>" + html.escape(text).replace("\n", "<br>") + "</p>"
