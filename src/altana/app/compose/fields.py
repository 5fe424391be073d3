"""Number fields of the chosen cameras: where each gets its number, what a typed one does, and that all show
what is."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from altana.app.theme.number_field import NumberField
from altana.app.workspace.camera_edits import CameraEdits
from altana.app.workspace.view_state import ViewState
from altana.core.project import Camera
from altana.core.ranges import COORDINATE_M, Range

#: With more cameras than this chosen, what has to be found out by casting rays is not compared.
MOST_COMPARED = 40


@dataclass(frozen=True, slots=True)
class FieldSpec:
    """One number of a camera: what it is called, its steps, and its range; ``step_name`` names the undo
    step."""

    name: str
    tip: str
    unit: str
    decimals: int
    step: float
    step_name: str
    get: Callable[[Camera], float]
    change: Callable[[Camera, float], Camera]
    range: Range = COORDINATE_M
    #: It has to be found out by casting rays.
    costly: bool = False


@dataclass(frozen=True, slots=True)
class _ShownField:
    field: NumberField
    spec: FieldSpec


class CameraFields:
    """All number fields of the panel of cameras."""

    def __init__(self, edits: CameraEdits, state: ViewState) -> None:
        self._edits, self._state = edits, state
        self._shown: list[_ShownField] = []

    def field(self, spec: FieldSpec) -> NumberField:
        """A field that shows and changes this number of the chosen cameras."""
        field = NumberField(
            spec.name, spec.tip, spec.unit, spec.decimals, spec.step, spec.range.low, spec.range.high
        )
        field.changing.connect(lambda value: self._edits.preview(spec.change, value))
        field.changed.connect(lambda value: self._edits.commit(spec.step_name, spec.change, value))
        self._shown.append(_ShownField(field, spec))
        return field

    def show_none(self) -> None:
        """No camera is there, so no number is either."""
        for shown in self._shown:
            shown.field.setText("–")

    def show(self, camera: Camera) -> None:
        """Every field shows the shown camera's number, or that the chosen ones differ."""
        others = (
            [item for item in self._edits.chosen if item.id != camera.id] if self._state.loose is None else []
        )
        for shown in self._shown:
            # What is folded away is shown when it is unfolded; a drag has no time for it.
            body = shown.field.parentWidget()
            if body is not None and body.isHidden():
                continue
            get = shown.spec.get
            compared = others if not shown.spec.costly or len(others) < MOST_COMPARED else []
            value = get(camera)
            if any(abs(get(item) - value) > 1e-9 for item in compared):
                shown.field.show_mixed()
            else:
                shown.field.show_value(value)
