"""Line styles under their names: what lines and pencil drawings are made with, ready to be taken and
changed."""

from __future__ import annotations

from dataclasses import replace

from altana.core.errors import Refused
from altana.core.project import Style

#: The styles that come with Altana.
STYLES = (
    Style(),
    Style("Fine pen", 1.1, 0.5),
    Style("Broad pen", 4.2, 1.5),
    Style("Outlines only", 2.6, 0.0),
    Style("Sepia", 1.8, 0.9, ink="#5b3b22", paper="#f6eedd", roughness=0.6, hatching=0.5),
    Style("White on slate", 2.0, 0.9, ink="#f1efe8", paper="#323c42"),
    Style("Hard pencil", 1.4, 0.8, ink="#55534f", roughness=0.25, hatching=0.35),
    Style("Soft pencil", 2.6, 1.6, ink="#2b2a29", roughness=0.6, hatching=0.9),
    Style("Quick hand", 2.2, 1.2, ink="#33302c", roughness=1.0, hatching=0.3),
)


def style_named(name: str) -> Style:
    """One of Altana's styles.  Raises Refused with a sentence that lists them."""
    for style in STYLES:
        if style.name.lower() == name.strip().lower():
            return style
    raise Refused(
        f"There is no line style “{name}”. Styles: {', '.join(style.name for style in STYLES)}; or a style's file."
    )


def called(style: Style) -> str:
    """What a style is called: the name of one that comes with Altana it is equal to, else its own, with what
    is to be known where it is a changed one of those."""
    for known in STYLES:
        if replace(style, name=known.name) == known:
            return known.name
    return f"{style.name}, changed" if any(style.name == known.name for known in STYLES) else style.name
