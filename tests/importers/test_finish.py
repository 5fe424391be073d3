"""How rough a pane is: clear where a file says nothing of panes, frosted where it is called so or said to be."""

from __future__ import annotations

from pathlib import Path

import pytest

from altana.core.model import GLASS
from altana.importers.finish import CLEAR_ROUGHNESS, FROSTED_ROUGHNESS, pane_roughness
from tests.importers.test_gltf import material_of


@pytest.mark.parametrize("name", ["Glass", "Glas", "Window pane", "Opaline", "Mattress"])
def test_glass_is_clear_where_nothing_is_said(name: str) -> None:
    assert pane_roughness(name) == (FROSTED_ROUGHNESS if name == "Opaline" else CLEAR_ROUGHNESS)


@pytest.mark.parametrize("name", ["Frosted glass", "GLASS_SATIN", "milk glass", "Sandblasted"])
def test_glass_is_frosted_where_it_is_called_so(name: str) -> None:
    assert pane_roughness(name) == FROSTED_ROUGHNESS
    assert pane_roughness(name, 0.8) == 0.8


def test_gltf_says_it_with_what_it_lets_through(tmp_path: Path) -> None:
    blended = material_of(
        tmp_path, pbrMetallicRoughness={"baseColorFactor": [1, 1, 1, 0.2]}, alphaMode="BLEND"
    )
    assert (blended.kind, blended.roughness) == (GLASS, CLEAR_ROUGHNESS)
    frosted = material_of(
        tmp_path,
        pbrMetallicRoughness={"roughnessFactor": 0.6},
        extensions={"KHR_materials_transmission": {"transmissionFactor": 1.0}},
    )
    assert (frosted.kind, frosted.roughness) == (GLASS, pytest.approx(0.6))
