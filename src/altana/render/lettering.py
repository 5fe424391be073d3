"""Words in pictures and on pages, in the typeface that ships with Altana."""

from __future__ import annotations

from functools import lru_cache

from PIL import ImageFont

from altana.core.fonts import BOLD, FAMILY, REGULAR

#: Names of the two weights on pages.
PAGE, PAGE_BOLD = FAMILY, f"{FAMILY}-Bold"


@lru_cache(maxsize=64)
def letters(size: float, bold: bool = False) -> ImageFont.FreeTypeFont:
    """The typeface for pictures.  size : pixels."""
    return ImageFont.truetype(str(BOLD if bold else REGULAR), size)


@lru_cache(maxsize=1)
def make_page_letters() -> None:
    """Make the two weights known to what writes pages (reportlab keeps them for the whole process)."""
    from reportlab.pdfbase.pdfmetrics import registerFont
    from reportlab.pdfbase.ttfonts import TTFont

    registerFont(TTFont(PAGE, str(REGULAR)))
    registerFont(TTFont(PAGE_BOLD, str(BOLD)))
