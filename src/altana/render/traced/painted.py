"""A picture on a mesh whose vertices are painted, too: each takes of the light what the other leaves."""

from __future__ import annotations

from types import ModuleType
from typing import Any


def painted_picture(mi: ModuleType, picture: dict[str, Any], paint: dict[str, Any]) -> Any:
    """The texture that is the product of two; ``paint`` is an attribute of the mesh."""

    class Painted(mi.Texture):  # type: ignore[name-defined, misc]
        """Two textures at once."""

        def __init__(self) -> None:
            super().__init__(mi.Properties())
            # Held here, what they are made of is found by whoever records what is done with them.
            self.picture, self.paint = mi.load_dict(picture), mi.load_dict(paint)

        def eval(self, at: Any, active: Any = True) -> Any:
            """The colour of a place."""
            return self.picture.eval(at, active) * self.paint.eval(at, active)

        def is_spatially_varying(self) -> bool:
            """It is not one colour."""
            return True

        def to_string(self) -> str:
            """For messages."""
            return "Painted[]"

    return Painted()
