"""Radiance pictures (.hdr): light as red, green, blue and a shared exponent a pixel, with run lengths.

The format is Greg Ward's, published with "Real Pixels" (Graphics Gems II, 1991).
"""

from __future__ import annotations

import re

import numpy as np

from altana.core.conventions import Floats32
from altana.core.errors import Refused

#: More pixels than this are not taken.
MOST_PIXELS = 300_000_000
_SIZE = re.compile(rb"\n([-+])Y (\d{1,6}) \+X (\d{1,6})\n")


def is_radiance(data: bytes) -> bool:
    """Whether these bytes begin as such a picture."""
    return data.startswith((b"#?RADIANCE", b"#?RGBE"))


def read_radiance(data: bytes) -> Floats32:
    """(height, width, 3) float32 linear light.  Raises Refused for what is damaged or too large."""
    size = _SIZE.search(data[:65_536])
    if not is_radiance(data) or size is None:
        raise Refused("no Radiance picture")
    height, width = int(size.group(2)), int(size.group(3))
    if not 0 < height * width <= MOST_PIXELS:
        raise Refused(f"a Radiance picture of {width} x {height} pixels")
    body = np.frombuffer(data, np.uint8, offset=size.end())
    pixels = _flat(body, width, height) if not _in_runs(body, width) else _unrolled(body, width, height)
    light: Floats32 = pixels[..., :3].astype(np.float32) * np.exp2(pixels[..., 3:].astype(np.float32) - 136.0)
    light[pixels[..., 3] == 0] = 0.0
    upright: Floats32 = light[::-1] if size.group(1) == b"+" else light
    return upright


def _in_runs(body: np.ndarray, width: int) -> bool:
    return (
        8 <= width < 32_768
        and len(body) >= 4
        and bool(body[0] == 2 and body[1] == 2 and (int(body[2]) << 8 | int(body[3])) == width)
    )


def _flat(body: np.ndarray, width: int, height: int) -> np.ndarray:
    if len(body) < width * height * 4:
        raise Refused("a Radiance picture that breaks off")
    return body[: width * height * 4].reshape(height, width, 4)


def _unrolled(body: np.ndarray, width: int, height: int) -> np.ndarray:
    # A row takes four bytes at least for every 127 of its own, so a short file cannot ask for a large
    # picture.
    if height * width * 4 > len(body) * 64 + 1024:
        raise Refused("a Radiance picture that breaks off")
    rows = np.zeros((height, 4, width), np.uint8)
    at, raw = 0, body.tobytes()
    for row in range(height):
        if raw[at : at + 2] != b"\2\2":
            raise Refused("a Radiance picture with a damaged row")
        at += 4
        for channel in range(4):
            x = 0
            while x < width:
                if at + 1 >= len(raw):
                    raise Refused("a Radiance picture that breaks off")
                count = raw[at]
                run = count > 128
                count = count - 128 if run else count
                if count == 0 or x + count > width:
                    raise Refused("a Radiance picture with a damaged row")
                if run:
                    rows[row, channel, x : x + count] = raw[at + 1]
                    at += 2
                else:
                    rows[row, channel, x : x + count] = body[at + 1 : at + 1 + count]
                    at += 1 + count
                x += count
    return rows.transpose(0, 2, 1)
