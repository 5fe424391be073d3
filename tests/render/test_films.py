"""Films of every container read back: count, rate, size, sampling, length, key frames, and seeking to the right frame."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest

from altana.core.errors import UserError
from altana.render.encode import CONTAINERS, Pixels, film_facts, write_film

SIZE = (192, 96)
BITS = 8


def numbered(count: int) -> Iterator[Pixels]:
    """Frames with their number burned in as eight bars, black or white, over a slowly changing ground."""
    for number in range(count):
        frame = np.full((SIZE[1], SIZE[0], 3), 90 + number % 40, np.uint8)
        for bit in range(BITS):
            frame[24:72, bit * 24 + 2 : bit * 24 + 22] = 235 if number >> bit & 1 else 20
        yield frame


def number_in(frame: av.VideoFrame) -> int:
    """The number read back from the pixels."""
    grey = frame.to_ndarray(format="rgb24").astype(float).mean(axis=2)
    return sum(1 << bit for bit in range(BITS) if grey[34:62, bit * 24 + 7 : bit * 24 + 17].mean() > 128)


@pytest.mark.parametrize("kind", list(CONTAINERS))
@pytest.mark.parametrize("rate", [Fraction(25), Fraction(30000, 1001)])
def test_every_container_holds_what_was_put_in(tmp_path: Path, kind: str, rate: Fraction) -> None:
    wanted = CONTAINERS[kind]
    path = tmp_path / f"film.{wanted.suffix}"
    assert write_film(path, numbered(90), rate, *SIZE, kind) == 90
    facts = film_facts(path)
    assert facts.frames == 90
    assert (facts.width, facts.height) == SIZE
    assert facts.pixel_format == wanted.pixel_format
    assert facts.seconds == pytest.approx(90 / float(rate), abs=0.05 if kind == "webm" else 1e-3)
    if kind != "webm":
        assert facts.rate == rate
    assert abs(facts.rate - rate) < rate / 1000
    with av.open(str(path)) as container:
        stream = container.streams.video[0]
        keys = [float(packet.pts * packet.time_base) for packet in container.demux(stream) if packet.is_keyframe and packet.pts is not None]
    assert keys[0] == pytest.approx(0.0, abs=0.05)
    assert np.diff([*keys, 90 / float(rate)]).max() <= 1.0 + 1.5 / float(rate)
    rng = np.random.default_rng(5)
    with av.open(str(path)) as container:
        stream = container.streams.video[0]
        for wanted_number in rng.integers(0, 90, 10).tolist():
            second = wanted_number / float(rate)
            container.seek(max(0, int((second - 1e-3) / stream.time_base)), stream=stream, backward=True)
            for frame in container.decode(stream):
                if frame.time is not None and frame.time >= second - 0.4 / float(rate):
                    assert number_in(frame) == wanted_number
                    break
            else:
                pytest.fail(f"frame {wanted_number} was not found")


@pytest.mark.parametrize("kind", ["mp4", "h265", "mov", "avi"])
def test_equal_frames_become_equal_bytes(tmp_path: Path, kind: str) -> None:
    made = []
    for number in range(2):
        path = tmp_path / f"{number}.{CONTAINERS[kind].suffix}"
        write_film(path, numbered(20), Fraction(24), *SIZE, kind)
        made.append(path.read_bytes())
    assert made[0] == made[1]


def test_better_words_make_larger_files(tmp_path: Path) -> None:
    rng = np.random.default_rng(1)
    noise = [rng.integers(0, 255, (SIZE[1], SIZE[0], 3)).astype(np.uint8) for _ in range(6)]
    for kind in CONTAINERS:
        sizes = []
        for quality in ("proof", "review", "final"):
            path = tmp_path / f"{kind}-{quality}.{CONTAINERS[kind].suffix}"
            write_film(path, noise, Fraction(25), *SIZE, kind, quality)
            sizes.append(path.stat().st_size)
        assert sizes == sorted(sizes)
        assert sizes[0] < sizes[2]


def test_what_cannot_be_written_is_said(tmp_path: Path) -> None:
    with pytest.raises(UserError, match="even numbers"):
        write_film(tmp_path / "x.mp4", numbered(1), Fraction(25), 191, 96)
    with pytest.raises(UserError, match="no kind of film"):
        write_film(tmp_path / "x.mp4", numbered(1), Fraction(25), *SIZE, "betamax")
