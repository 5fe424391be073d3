"""Garbage collection keeps out of the window's way, and still takes what was left."""

from __future__ import annotations

import gc
import weakref
from collections.abc import Iterator

import pytest

from altana.app.shell.window import MainWindow
from altana.app.workspace.garbage import Garbage
from tests.app.conftest import until


class Left:
    """Something that holds itself, as what is left of a closed project may."""

    def __init__(self) -> None:
        self.itself = self


@pytest.fixture
def garbage(window: MainWindow) -> Iterator[Garbage]:
    collector = Garbage(window.workspace.studio)
    collector._soon.setInterval(10)
    yield collector
    window.workspace.studio.opened.disconnect(collector.look)
    collector.deleteLater()
    gc.unfreeze()


def test_what_stays_is_not_looked_through_and_what_was_left_is_taken_when_others_are_opened(
    window: MainWindow, garbage: Garbage
) -> None:
    scene = window.workspace.studio.scene

    def looked_through() -> bool:
        return any(thing is scene for thing in gc.get_objects())

    assert looked_through()
    # As if its models had just been opened.
    garbage.look()
    until(lambda: garbage.settled)
    assert not looked_through()

    left = weakref.ref(Left())
    gc.freeze()
    gc.collect()
    assert left() is not None
    garbage.look()
    assert left() is None
    assert looked_through()
    until(lambda: garbage.settled)
    assert not looked_through()
