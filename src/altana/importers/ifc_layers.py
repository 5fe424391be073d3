"""Layers that an IFC file switches off or freezes: what stands on them alone stays away, as in drawings."""

from __future__ import annotations

from typing import Any


def resting(file: Any) -> tuple[set[int], list[str]]:
    """Numbers of the representations and items on layers that are off or frozen, and these layers' names."""
    items, names = set[int](), list[str]()
    try:
        layers = file.by_type("IfcPresentationLayerWithStyle")
    except RuntimeError:
        return items, names
    for layer in layers:
        # A third answer is that it is not known.
        if layer.LayerOn is False or layer.LayerFrozen is True:
            items |= {item.id() for item in layer.AssignedItems}
            names.append(str(layer.Name or "Layer"))
    return items, sorted(set(names))


def rests(product: Any, items: set[int]) -> bool:
    """Whether all that a product shows is among those items."""
    shapes = product.Representation.Representations
    return bool(shapes) and all(
        shape.id() in items or (shape.Items and all(item.id() in items for item in shape.Items))
        for shape in shapes
    )
