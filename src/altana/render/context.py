"""The graphics context: without a window, on a graphics card where there is one, else in software."""

from __future__ import annotations

import re
from pathlib import Path

import moderngl

from altana.core.errors import UserError

SHADERS = Path(__file__).parent / "shaders"


def create_context() -> moderngl.Context:
    """A context that needs no display.  Raises UserError when the machine has no usable OpenGL."""
    try:
        # The library's own types take the name of the way for a dictionary.
        context = moderngl.create_context(standalone=True, backend="egl", require=330)  # type: ignore[arg-type]
    except Exception as error:
        raise UserError(
            "Pictures cannot be drawn: OpenGL 3.3 through EGL is not available. "
            "Install the packages listed in packages-debian.txt and start again."
        ) from error
    return context


def shader(name: str) -> str:
    """The text of a shader file with its includes."""
    text = (SHADERS / name).read_text("utf-8")
    return re.sub(r"#include (\S+)", lambda match: shader(match.group(1)), text)


def drawn_by() -> str:
    """What draws here: the card or the software, and its version.  Raises UserError when the machine has no
    usable OpenGL."""
    context = create_context()
    try:
        return f"{context.info['GL_RENDERER']}, {context.info['GL_VERSION']}"
    finally:
        context.release()
