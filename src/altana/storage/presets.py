"""Presets of the shot list: how a row is made, as a small readable file that can be given to others."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import msgspec

from altana.core.edits.shots import preset_of
from altana.core.errors import UserError
from altana.core.project import Shot

SUFFIX = ".altana-preset"
LARGEST_BYTES = 200_000


def preset_json(shot: Shot) -> bytes:
    """A preset as the bytes of its file."""
    return (json.dumps({"kind": "altana-preset", "version": 1, **msgspec.to_builtins(preset_of(shot))}, indent=1) + "\n").encode()


def read_preset(path: Path) -> dict[str, Any]:
    """A preset from its file.  Raises UserError."""
    try:
        if path.stat().st_size > LARGEST_BYTES:
            raise ValueError("it is too large")
        content = json.loads(path.read_text(encoding="utf-8"))
        if not isinstance(content, dict) or content.pop("kind", None) != "altana-preset":
            raise ValueError("it is no preset of Altana")
        content.pop("version", None)
        shot = msgspec.convert({"id": "", **{name: value for name, value in content.items() if name in Shot.__slots__}}, Shot)
    except (OSError, ValueError, RecursionError, msgspec.ValidationError) as error:
        raise UserError(f"{path.name} cannot be used as a preset: {error}. Nothing was changed; choose another file.") from error
    return preset_of(shot)
