"""Depths that tell surfaces apart from a centimetre to fifty kilometres in one picture.

Depth is kept reversed in floating point: 1 where sight begins, 0 infinitely far away.  The fine steps that
floats have near 0 then cancel the crowding of far depths that perspective brings (E. Lapidous and G. Jiao,
"Optimal depth buffer for low-cost graphics hardware", 1999).  The graphics library in use neither sets the
range of clip space nor makes floating point depth buffers, so three calls go to the driver itself.
"""

from __future__ import annotations

import ctypes
from collections.abc import Callable

import moderngl

LOWER_LEFT, ZERO_TO_ONE = 0x8CA1, 0x935F
RENDERBUFFER, DEPTH_COMPONENT32F = 0x8D41, 0x8CAC
#: Where there is nothing; ``NEARER`` is what a surface must be to be seen.
EMPTY, NEARER = 0.0, ">="


def _driver_call(name: str, *kinds: type[ctypes._SimpleCData[int]]) -> Callable[..., None] | None:
    try:
        find = ctypes.CDLL("libEGL.so.1").eglGetProcAddress
    except OSError:
        return None
    find.restype, find.argtypes = ctypes.c_void_p, [ctypes.c_char_p]
    place = find(name.encode())
    return ctypes.CFUNCTYPE(None, *kinds)(place) if place else None


def reversed_range(context: moderngl.Context) -> bool:
    """Give clip space depths from 0 to 1; False where the driver cannot (before OpenGL 4.5), and shaders then
    spread them to -1 to 1."""
    call = (
        _driver_call("glClipControl", ctypes.c_uint, ctypes.c_uint)
        if "GL_ARB_clip_control" in context.extensions
        else None
    )
    if call is None:
        return False
    with context:
        call(LOWER_LEFT, ZERO_TO_ONE)
    return True


def depth_buffer(context: moderngl.Context, size: tuple[int, int]) -> moderngl.Renderbuffer:
    """A depth buffer in floating point, width and height in pixels; the context is the current one."""
    buffer = context.depth_renderbuffer(size)
    bind = _driver_call("glBindRenderbuffer", ctypes.c_uint, ctypes.c_uint)
    give = _driver_call("glRenderbufferStorage", ctypes.c_uint, ctypes.c_uint, ctypes.c_int, ctypes.c_int)
    if bind is not None and give is not None:
        bind(RENDERBUFFER, buffer.glo)
        give(RENDERBUFFER, DEPTH_COMPONENT32F, *size)
    return buffer
