"""Names are text: whatever they look like, nothing of them is read as markup."""

from __future__ import annotations

import html


def tip_text(text: str) -> str:
    """A tooltip that shows this text, letter by letter: tooltips take what looks like markup for it, and would fetch pictures that it names."""
    if "<" not in text and "&" not in text:
        return text
    return "<p>" + html.escape(text).replace("\n", "<br>") + "</p>"
