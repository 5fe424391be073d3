"""A small building for tests of light: a room with an opening, and two deep shelves on its wall."""

from __future__ import annotations

from pathlib import Path

from altana.core.model import Material
from altana.core.project import Light
from altana.jobs.light import light_of
from altana.jobs.models import Opened
from tests.conftest import box_between, model_of

NOON = Light(hour=12.0)
GREY = Material("Grey", (0.8, 0.8, 0.8, 1.0), roughness=0.95)


def shed_of(folder: Path) -> Opened:
    """The shed, its light at noon kept in the cache."""
    model = model_of(
        ("Floor", box_between((-0.2, -0.2, -0.3), (4.2, 4.2, 0)), GREY),
        ("Ceiling", box_between((-0.2, -0.2, 2.6), (4.2, 4.2, 2.8)), GREY),
        ("West", box_between((-0.2, -0.2, 0), (0, 4.2, 2.6)), GREY),
        ("East", box_between((4, 1.5, 0), (4.2, 4.2, 2.6)), GREY),
        ("South", box_between((0, -0.2, 0), (4, 0, 2.6)), GREY),
        ("North", box_between((0, 4, 0), (4, 4.2, 2.6)), GREY),
        ("Shelf", box_between((1, 3.5, 1.2), (2, 4, 1.22)), GREY),
        ("Shelf above", box_between((1, 3.5, 1.5), (2, 4, 1.52)), GREY),
    )
    opened = Opened(model, ("s",), folder)
    light_of(opened, NOON)
    return opened
