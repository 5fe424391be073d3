"""The typeface that ships with Altana: Latin, Greek and Cyrillic letters, the same in the window, on pages
and in pictures."""

from __future__ import annotations

from pathlib import Path

FONTS = Path(__file__).parent.parent / "fonts"
FAMILY = "Lato"
REGULAR, BOLD = FONTS / "Lato-Regular.ttf", FONTS / "Lato-Bold.ttf"
