"""Files for others pass what validators of their formats ask."""

from __future__ import annotations

import json
import struct
from pathlib import Path
from typing import Any

import jsonschema
import pytest
from pxr import Usd, UsdValidation

from altana.core.project import Project
from altana.jobs.sending import send

SCHEMA = json.loads((Path(__file__).parent / "schemas/gltf.schema.json").read_text())


def document(path: Path) -> dict[str, Any]:
    data = path.read_bytes()
    if path.suffix == ".gltf":
        return dict(json.loads(data))
    return dict(json.loads(data[20 : 20 + struct.unpack_from("<I", data, 12)[0]]))


@pytest.mark.parametrize(
    ("kind", "whole"), [("gltf", False), pytest.param("glb", False, marks=pytest.mark.slow), ("glb", True)]
)
def test_gltf_is_what_its_schema_asks(
    kind: str, whole: bool, demo_copy: Path, demo_project: Project, tmp_path: Path
) -> None:
    out = tmp_path / f"sent.{kind}"
    send(demo_project, demo_copy, demo_project.cameras, demo_project.walks[:1], out, whole=whole)
    told = document(out)
    jsonschema.Draft202012Validator(SCHEMA).validate(told)
    # And every number that points somewhere points at something.
    for node in told["nodes"]:
        assert all(child < len(told["nodes"]) for child in node.get("children", ()))
        assert node.get("camera", 0) < len(told["cameras"])
    for animation in told["animations"]:
        for channel in animation["channels"]:
            assert "camera" in told["nodes"][channel["target"]["node"]]
    for accessor in told["accessors"]:
        view = told["bufferViews"][accessor["bufferView"]]
        assert view.get("byteOffset", 0) + view["byteLength"] <= told["buffers"][0]["byteLength"]
        assert view.get("byteOffset", 0) % 4 == 0
    # The schema can say no.
    told["cameras"][0]["perspective"].pop("znear")
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.Draft202012Validator(SCHEMA).validate(told)


@pytest.mark.parametrize(("kind", "whole"), [("usda", False), ("usdc", True)])
def test_usd_passes_every_validator_of_its_library(
    kind: str, whole: bool, demo_copy: Path, demo_project: Project, tmp_path: Path
) -> None:
    out = tmp_path / f"sent.{kind}"
    send(demo_project, demo_copy, demo_project.cameras, demo_project.walks[:1], out, whole=whole)
    validators = UsdValidation.ValidationRegistry().GetOrLoadAllValidators()
    assert len(validators) > 20
    context = UsdValidation.ValidationContext(validators)
    problems = context.Validate(Usd.Stage.Open(str(out)))
    assert [(item.GetName(), item.GetMessage()) for item in problems] == []
    # They find what is wrong: a stage without its unit.
    bare = tmp_path / "bare.usda"
    bare.write_text('#usda 1.0\ndef Camera "A" { }\n')
    assert context.Validate(Usd.Stage.Open(str(bare)))
