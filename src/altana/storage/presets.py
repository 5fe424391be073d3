"""Presets of the shot list and line styles: how a row is made or drawn, as small readable files that can be
given to others."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import msgspec

from altana.core.edits.shots import checked_style, preset_of
from altana.core.errors import Refused, UserError
from altana.core.project import Shot, Style

SUFFIX, STYLE_SUFFIX = ".altana-preset", ".altana-style"
LARGEST_BYTES = 200_000


def preset_json(shot: Shot) -> bytes:
    """A preset as the bytes of its file."""
    return _written("altana-preset", preset_of(shot))


def read_preset(path: Path) -> dict[str, Any]:
    """A preset from its file.  Raises UserError."""
    content = _content(path, "altana-preset", "preset")
    try:
        shot = msgspec.convert(
            {"id": "", **{name: value for name, value in content.items() if name in Shot.__slots__}}, Shot
        )
    except msgspec.ValidationError as error:
        raise _useless(path, "preset", error) from error
    return preset_of(shot)


def style_json(style: Style) -> bytes:
    """A line style as the bytes of its file."""
    return _written("altana-style", style)


def read_style(path: Path) -> Style:
    """A line style from its file; it is called as the file is.  Raises UserError."""
    content = _content(path, "altana-style", "line style")
    try:
        known = {name: value for name, value in content.items() if name in Style.__slots__}
        return checked_style(msgspec.convert({**known, "name": path.name.removesuffix(STYLE_SUFFIX)}, Style))
    except (Refused, msgspec.ValidationError) as error:
        raise _useless(path, "line style", error) from error


def _written(kind: str, content: object) -> bytes:
    return (
        json.dumps({"kind": kind, "version": 1, **msgspec.to_builtins(content)}, indent=1, ensure_ascii=False)
        + "\n"
    ).encode()


def _content(path: Path, kind: str, what: str) -> dict[str, Any]:
    try:
        if path.stat().st_size > LARGEST_BYTES:
            raise ValueError("it is too large")
        content = json.loads(path.read_text(encoding="utf-8"))
        if not isinstance(content, dict) or content.pop("kind", None) != kind:
            raise ValueError(f"it is no {what} of Altana")
    except (OSError, ValueError, RecursionError) as error:
        raise _useless(path, what, error) from error
    content.pop("version", None)
    return content


def _useless(path: Path, what: str, error: Exception) -> UserError:
    return UserError(
        f"{path.name} cannot be used as a {what}: {error}. Nothing was changed; choose another file."
    )
