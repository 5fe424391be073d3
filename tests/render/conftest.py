"""What tests of drawing share."""

from __future__ import annotations

from collections.abc import Iterator

import pytest

from altana.render.renderer import Renderer


@pytest.fixture
def renderers() -> Iterator[list[Renderer]]:
    """Put those in that are to be closed after the test."""
    made: list[Renderer] = []
    yield made
    for item in made:
        item.close()
