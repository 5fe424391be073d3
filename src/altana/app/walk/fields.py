"""Number fields that show what several places have in common."""

from __future__ import annotations

from altana.app.theme.number_field import NumberField


def show_several(field: NumberField, values: list[float]) -> None:
    """One value, or that several places differ."""
    if max(values) - min(values) > 1e-9:
        field.show_mixed()
    else:
        field.show_value(values[0])
