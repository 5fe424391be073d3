"""The tokens: light and dark chrome from the same names."""

from __future__ import annotations

from dataclasses import dataclass, fields


@dataclass(slots=True)
class Tokens:
    """Colours by what they are for.  A window has its own, which become others when another chrome is
    chosen."""

    paper: str = "#F4F1EA"
    leaf: str = "#FBFAF6"
    ink: str = "#24211C"
    pencil: str = "#655E53"
    well: str = "#7D7D7D"
    band: str = "#3A3834"
    band_text: str = "#F7F4EC"
    verdigris: str = "#1E7B6D"
    verdigris_wash: str = "#D9E6E1"
    on_verdigris: str = "#FFFFFF"
    saffron: str = "#B87410"
    mulberry: str = "#75497F"
    brick: str = "#B4452F"
    brick_wash: str = "#F4E1DA"
    reference: str = "#8496A8"
    rule: str = "#D8D2C6"
    hover: str = "#EBE6DB"
    name: str = "light"

    def take(self, other: Tokens) -> None:
        """Become others, wherever these are held."""
        for field in fields(other):
            setattr(self, field.name, getattr(other, field.name))


LIGHT = Tokens()
DARK = Tokens(
    paper="#2B2722",
    leaf="#221F1B",
    ink="#F0E9DC",
    pencil="#B5AA99",
    well="#5E5E5E",
    band="#1B1917",
    verdigris="#38A592",
    verdigris_wash="#2D443E",
    on_verdigris="#0F1614",
    saffron="#D59A3C",
    mulberry="#B489BE",
    brick="#E08069",
    brick_wash="#4A302A",
    reference="#64788C",
    rule="#453F37",
    hover="#383229",
    name="dark",
)
