"""Trees that rays are cast into: filled from arrays as they lie, beside other threads, and by embreex alone
where need be."""

from __future__ import annotations

import mmap
import threading
import time

import numpy as np
import pytest

from altana.core.conventions import Floats32, Ints32
from altana.core.extent import extent
from altana.core.geometry import trees
from altana.core.geometry.trees import Tree


def waves(side: int) -> tuple[Floats32, Ints32]:
    """A wavy ground of side × side corners, 0.1 m apart."""
    x, y = (part.ravel().astype(np.float32) * 0.1 for part in np.meshgrid(np.arange(side), np.arange(side)))
    vertices = np.column_stack([x, y, np.sin(x) + np.cos(y)]).astype(np.float32)
    first = np.arange(side * (side - 1)).reshape(side - 1, side)[:, :-1].ravel()
    faces = np.concatenate(
        [
            np.column_stack([first, first + 1, first + side]),
            np.column_stack([first + 1, first + side + 1, first + side]),
        ]
    )
    return vertices, faces.astype(np.int32)


def downwards(count: int, reach_m: float) -> tuple[Floats32, Floats32]:
    random = np.random.default_rng(5)
    start = random.uniform((0, 0, 3), (reach_m, reach_m, 9), (count, 3)).astype(np.float32)
    along = (random.normal(size=(count, 3)) * 0.3 - (0, 0, 1)).astype(np.float32)
    return start, along / np.linalg.norm(along, axis=1, keepdims=True)


@pytest.mark.parametrize("compact", [False, True])
def test_arrays_as_they_lie_are_met_as_by_embreex_alone(
    monkeypatch: pytest.MonkeyPatch, compact: bool
) -> None:
    assert trees.embree() is not None, "the library of this machine's embreex can be spoken to"
    vertices, faces = waves(120)
    start, along = downwards(4_000, 11.9)
    monkeypatch.setattr(trees, "COMPACT", 1 if compact else 10**9)
    face, far = Tree(vertices, faces).nearest(start, along)
    covered = Tree(vertices, faces).covered(start, along, np.full(len(start), 4.0, np.float32))
    monkeypatch.setattr(trees, "embree", lambda: None)
    fed, fed_far = Tree(vertices, faces).nearest(start, along)
    met = face >= 0
    assert 0.7 < met.mean() < 1.0
    # Along an edge either of its two triangles may be met.
    assert (face == fed).mean() > 0.998
    assert far[met] == pytest.approx(fed_far[met], abs=1e-4)
    assert (covered == met & (far < 4.0)).mean() > 0.999


def test_corners_that_end_with_their_page_are_read_no_further(monkeypatch: pytest.MonkeyPatch) -> None:
    """Embree reads four numbers a corner: behind the last corner of a file's last page is nothing that may be
    read."""
    vertices, faces = waves(64)
    memory = mmap.mmap(-1, mmap.PAGESIZE * 12)
    count = len(memory) // 12
    last = np.frombuffer(memory, np.float32).reshape(-1, 3)[: len(vertices)]
    assert count == len(vertices) and not (last.ctypes.data + last.nbytes) % mmap.PAGESIZE
    last[:] = vertices
    readable = trees.readable_beyond(last)
    assert (readable == vertices).all() and (readable.ctypes.data + readable.nbytes) % mmap.PAGESIZE
    # Their copy is there as long as rays read it, whoever else gave the tree up.
    monkeypatch.setattr(trees, "COMPACT", 1)
    start, along = downwards(500, 6.2)
    ask = Tree(last, faces).nearest
    others = [np.full((len(vertices) + 1, 3), 7.0, np.float32) for _ in range(3)]
    assert len(others) == 3 and (ask(start, along)[0] == Tree(vertices, faces).nearest(start, along)[0]).all()


def test_arrays_at_odd_places_of_memory_are_met_as_others() -> None:
    vertices, faces = waves(64)
    odd = []
    for array in (vertices, faces):
        memory = np.zeros(array.nbytes + 1, np.uint8)[1:]
        memory[:] = array.reshape(-1).view(np.uint8)
        odd.append(memory.view(array.dtype).reshape(array.shape))
        assert not odd[-1].flags.aligned
    start, along = downwards(500, 6.2)
    face, _ = Tree(odd[0], odd[1]).nearest(start, along)
    assert (face == Tree(vertices, faces).nearest(start, along)[0]).all()


@pytest.mark.parametrize("number", [-1, 4096])
def test_corners_that_are_not_there_are_refused(number: int) -> None:
    vertices, faces = waves(64)
    faces[17, 1] = number
    with pytest.raises(IndexError):
        Tree(vertices, faces)


def test_places_that_are_no_numbers_are_met_by_no_ray() -> None:
    vertices, faces = waves(64)
    vertices[faces[100, 0]] = np.nan
    vertices[faces[300, 0]] = np.inf
    start, along = downwards(2_000, 6.2)
    face, _ = Tree(vertices, faces).nearest(start, along)
    assert (face >= 0).mean() > 0.5 and np.isfinite(vertices[faces[face[face >= 0]]]).all()


def test_other_threads_run_while_a_tree_is_built() -> None:
    vertices, faces = waves(708)
    awake = [time.perf_counter()]
    over = threading.Event()

    def tick() -> None:
        while not over.wait(0.0005):
            awake.append(time.perf_counter())

    thread = threading.Thread(target=tick)
    thread.start()
    started = time.perf_counter()
    Tree(vertices, faces)
    lasted = time.perf_counter() - started
    over.set()
    thread.join()
    # A million triangles: holding the lock there would be one silence as long as all of it.
    assert len(awake) > 5 and max(np.diff(awake)) < lasted * 0.8


def test_a_library_of_another_kind_is_not_spoken_to(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(trees, "_SCENE_SIZE", 48)
    assert trees.embree.__wrapped__() is None
    monkeypatch.undo()
    monkeypatch.setattr(trees, "files", lambda name: ())
    assert trees.embree.__wrapped__() is None


@pytest.mark.parametrize("count", [1, 63, 64, 1000])
def test_the_extent_of_many_places_is_that_of_each(count: int) -> None:
    places = np.random.default_rng(count).normal(size=(count, 3)).astype(np.float32)
    assert np.array_equal(extent(places), np.stack([places.min(axis=0), places.max(axis=0)]))
    assert np.array_equal(extent(places[::-1]), extent(places))
    places[count // 2, 1] = np.nan
    assert np.isnan(extent(places)[:, 1]).all()
