"""What tests of drawing share."""

from __future__ import annotations

from collections.abc import Iterator

import pytest

from altana.render.renderer import Renderer


@pytest.fixture
def renderers() -> Iterator[list[Renderer]]:
    """Put those in that are to be closed after the test."""
    in_use: list[Renderer] = []
    yield in_use
    for item in in_use:
        item.close()
