"""Draws of the path tracer: even over the samples of a pixel, however many there are, and alike nowhere."""

from __future__ import annotations

from types import ModuleType

import numpy as np
import pytest

from altana.render.traced.draws import even_draws, hashed, turned
from altana.render.traced.engine import llvm_library, start_engine

pytestmark = pytest.mark.skipif(not llvm_library(), reason="LLVM 19 is not installed")
SAMPLES, PIXELS = 64, 24


@pytest.fixture(scope="module")
def engine() -> ModuleType:
    return start_engine()[0]


@pytest.fixture(scope="module")
def drawn(engine: ModuleType) -> np.ndarray:
    """(samples, pixels, 7): a pair, a number, a pair, a pair."""
    import drjit as dr

    draws, key = even_draws(engine)(), hashed(engine, dr.arange(engine.UInt32, PIXELS))
    samples = []
    for sample in range(SAMPLES):
        draws.begin(engine.UInt32(turned(sample)), key)
        parts = draws.next_2d(), draws.next_1d(), draws.next_2d(), draws.next_2d()
        samples.append(np.concatenate([np.atleast_2d(np.array(part)) for part in parts]).T)
    return np.stack(samples)


def test_bits_are_turned_round() -> None:
    assert [turned(n) for n in (0, 1, 2, 3)] == [0, 1 << 31, 1 << 30, 3 << 30]


@pytest.mark.parametrize("count", [16, 64])
def test_each_draw_is_even_for_a_pixel(drawn: np.ndarray, count: int) -> None:
    assert drawn.min() >= 0.0
    assert drawn.max() < 1.0
    for number in range(drawn.shape[2]):
        for pixel in range(PIXELS):
            cells = (drawn[:count, pixel, number] * count).astype(int)
            assert len(np.unique(cells)) == count


def test_each_pair_fills_its_square_evenly(drawn: np.ndarray) -> None:
    for first in (0, 3, 5):
        for pixel in range(PIXELS):
            pair = (drawn[:, pixel, first : first + 2] * 8).astype(int)
            assert len(np.unique(pair[:, 0] * 8 + pair[:, 1])) == SAMPLES


def test_draws_and_pixels_have_nothing_to_do_with_each_other(drawn: np.ndarray) -> None:
    between = np.array(
        [np.corrcoef(drawn[:, pixel].T)[~np.eye(drawn.shape[2], dtype=bool)] for pixel in range(PIXELS)]
    )
    # Of 64 independent numbers correlations are about an eighth.
    assert np.abs(between).mean() < 0.15
    assert np.abs(between).max() < 0.6
    pixels = np.corrcoef(drawn[:, :, 0].T)[~np.eye(PIXELS, dtype=bool)]
    assert np.abs(pixels).mean() < 0.15
    assert np.abs(drawn.mean(axis=0) - 0.5).max() < 1.0 / SAMPLES


def test_the_same_sample_is_drawn_again_the_same(engine: ModuleType, drawn: np.ndarray) -> None:
    import drjit as dr

    again = even_draws(engine)()
    again.begin(engine.UInt32(turned(40)), hashed(engine, dr.arange(engine.UInt32, PIXELS)))
    assert np.array_equal(np.array(again.next_2d()).T, drawn[40, :, :2])
