"""Films of every container read back: count, rate, size, sampling, length, key frames, and seeking to the
right frame."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import OpenEXR
import pytest
from PIL import Image

from altana.core.errors import UserError
from altana.core.file_kinds import FILM_FILES, KINDS
from altana.render.encode import CORNERS, Pixels, Stamp, exr_bytes, exr_light, stamped, write_film
from altana.render.film_file import film_facts, film_frame_at

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


@pytest.mark.parametrize("kind", [name for name in FILM_FILES if name != "gif"])
@pytest.mark.parametrize("rate", [Fraction(25), Fraction(30000, 1001)])
def test_every_container_holds_what_was_put_in(tmp_path: Path, kind: str, rate: Fraction) -> None:
    wanted = KINDS[kind].encoding
    assert wanted is not None
    path = tmp_path / f"film.{KINDS[kind].suffix}"
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
        keys = [
            float(packet.pts * packet.time_base)
            for packet in container.demux(stream)
            if packet.is_keyframe and packet.pts is not None
        ]
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
    films = []
    for number in range(2):
        path = tmp_path / f"{number}.{KINDS[kind].suffix}"
        write_film(path, numbered(20), Fraction(24), *SIZE, kind)
        films.append(path.read_bytes())
    assert films[0] == films[1]


def test_better_words_make_larger_files(tmp_path: Path) -> None:
    rng = np.random.default_rng(1)
    noise = [rng.integers(0, 255, (SIZE[1], SIZE[0], 3)).astype(np.uint8) for _ in range(6)]
    for kind in [name for name in FILM_FILES if name != "gif"]:
        sizes = []
        for quality in ("proof", "review", "final"):
            path = tmp_path / f"{kind}-{quality}.{KINDS[kind].suffix}"
            write_film(path, noise, Fraction(25), *SIZE, kind, quality)
            sizes.append(path.stat().st_size)
        assert sizes == sorted(sizes)
        assert sizes[0] < sizes[2]


def test_what_cannot_be_written_is_said(tmp_path: Path) -> None:
    with pytest.raises(UserError, match="even numbers"):
        write_film(tmp_path / "x.mp4", numbered(1), Fraction(25), 191, 96)
    with pytest.raises(UserError, match="no kind of film"):
        write_film(tmp_path / "x.mp4", numbered(1), Fraction(25), *SIZE, "betamax")


@pytest.mark.parametrize("rate", [Fraction(25), Fraction(30000, 1001), Fraction(12)])
def test_a_gif_keeps_its_length_and_its_pictures(tmp_path: Path, rate: Fraction) -> None:
    path = tmp_path / "film.gif"
    assert write_film(path, numbered(90), rate, *SIZE, "gif") == 90
    with Image.open(path) as image:
        # Read by another library: pictures, how long each is shown, and that it begins again.
        assert (image.n_frames, image.size, image.info["loop"]) == (90, SIZE, 0)
        shown = []
        for number in range(90):
            image.seek(number)
            shown.append(image.info["duration"])
            if number in (0, 41, 89):
                grey = np.asarray(image.convert("L")).astype(float)
                assert (
                    sum(
                        1 << bit
                        for bit in range(BITS)
                        if grey[34:62, bit * 24 + 7 : bit * 24 + 17].mean() > 128
                    )
                    == number
                )
    assert sum(shown) / 1000 == pytest.approx(90 / float(rate), abs=0.011)
    # No picture is off its moment by more than half a tick.
    assert np.abs(np.cumsum([0, *shown[:-1]]) / 1000 - np.arange(90) / float(rate)).max() <= 0.0051
    frame = film_frame_at(path, 41 / float(rate), rate)
    assert frame is not None
    assert number_in(av.VideoFrame.from_ndarray(frame, format="rgb24")) == 41
    with pytest.raises(UserError, match="every second"):
        write_film(path, numbered(3), Fraction(60), *SIZE, "gif")


def test_linear_light_survives_its_file(tmp_path: Path) -> None:
    light = np.random.default_rng(2).uniform(0, 3000, (24, 40, 3)).astype(np.float32)
    light[0, 0] = (0.001, 40_000.0, 90_000.0)
    path = tmp_path / "light.exr"
    path.write_bytes(exr_bytes(light, "Hall, frame 3"))
    back = exr_light(path)
    assert back.shape == light.shape
    assert np.allclose(back[1:], light[1:], rtol=6e-4)
    assert back[0, 0] == pytest.approx((0.001, 40_000.0, 65_000.0), rel=1e-3)
    with OpenEXR.File(str(path)) as file:
        assert file.header()["comments"] == "Hall, frame 3"


@pytest.mark.parametrize("corner", CORNERS)
def test_a_stamp_stands_in_its_corner_and_nowhere_else(corner: str) -> None:
    plain = np.full((360, 640, 3), 120, np.uint8)
    signed = stamped(plain, "frame 12   0.48 s", Stamp(("frame", "time"), corner, 0.05))
    changed = (signed != plain).any(axis=2)
    rows, columns = np.nonzero(changed)
    assert (columns.mean() < 320) == ("left" in corner)
    assert (rows.mean() < 180) == ("top" in corner)
    assert 20 < np.ptp(rows) < 40
    assert signed[changed].max() > 230
    assert signed[changed].min() < 80


#: Writes a film of each kind and prints a digest of each; memory that nobody wrote is filled by the C library
#: as its setting says.
_EACH_KIND = """
import hashlib, sys
from fractions import Fraction
from pathlib import Path
import numpy as np
from altana.core.file_kinds import FILM_KINDS, KINDS
from altana.render.encode import write_film
coarse = np.random.default_rng(1).integers(0, 255, (12, 20, 3), np.uint8)
frame = np.kron(coarse, np.ones((15, 16, 1), np.uint8))
for kind in FILM_KINDS:
    if not KINDS[kind].frames:
        path = Path(sys.argv[1]) / kind
        write_film(path, (np.roll(frame, 3 * n, axis=1) for n in range(14)), Fraction(25), 320, 180, kind, "proof")
        print(kind, hashlib.md5(path.read_bytes()).hexdigest())
"""


@pytest.mark.slow
def test_equal_frames_become_equal_films_whatever_lies_in_memory(tmp_path: Path) -> None:
    films = []
    for byte in ("1", "85", "200"):
        setting = {**os.environ, "MALLOC_PERTURB_": byte}
        done = subprocess.run(
            [sys.executable, "-c", _EACH_KIND, str(tmp_path)],
            capture_output=True,
            text=True,
            check=True,
            env=setting,
        )
        films.append(done.stdout)
    assert films[0].count("\n") >= 5
    assert films[0] == films[1] == films[2]
