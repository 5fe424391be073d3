"""Project files: read back what was written, refuse what is damaged with a sentence, lose nothing."""

from __future__ import annotations

import errno
import json
import os
from dataclasses import replace
from pathlib import Path

import jsonschema
import pytest
from hypothesis import given
from hypothesis import strategies as st

from altana.core.errors import UserError
from altana.core.geometry.edges import edges_of
from altana.core.geometry.runs import runs_of
from altana.core.project import Camera, ModelRef, Project, Walk, WalkKey
from altana.demo.project import demo_project
from altana.storage import cache
from altana.storage.project_file import (
    from_json,
    model_path,
    read_project,
    schema,
    take_in,
    to_json,
    write_project,
)
from tests.conftest import ROOT


def test_read_back_is_equal(tmp_path: Path) -> None:
    project = demo_project()
    path = tmp_path / "a.altana"
    write_project(path, project)
    assert read_project(path) == project
    assert path.read_bytes() == to_json(project)
    assert path.read_text().startswith('{\n "kind": "altana-project"')


@given(
    st.builds(
        Camera,
        st.just("cam-01"),
        st.text(min_size=1).filter(lambda s: bool(s.strip())),
        st.tuples(*[st.floats(-1e6, 1e6)] * 3),
        st.floats(0, 359.9),
        st.floats(-90, 90),
        focal_mm=st.floats(8, 300),
        near_m=st.none() | st.floats(0.1, 5.0),
        intent=st.text(),
    )
)
def test_any_camera_survives(camera: Camera) -> None:
    project = Project("Ü", cameras=(camera,))
    assert from_json(to_json(project), "x") == project


def test_demo_file_follows_the_published_schema(demo_files: Path) -> None:
    published = json.loads((ROOT / "docs/project.schema.json").read_text())
    assert published == json.loads(json.dumps(schema())), "write docs/project.schema.json anew"
    content = json.loads((demo_files / "larkwater.altana").read_text())
    jsonschema.validate(content, published)
    content["cameras"][0]["focal_mm"] = "wide"
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate(content, published)


GOOD = json.loads(
    to_json(
        Project(
            "T",
            cameras=(Camera("cam-01", "A"),),
            models=(ModelRef("m", "a.glb"),),
            walks=(Walk("w", "W", (WalkKey((0, 0, 1)), WalkKey((1, 0, 1)))),),
        )
    )
)


def _with(**changes: object) -> bytes:
    content = json.loads(json.dumps(GOOD))
    for path, value in changes.items():
        target = content
        *parents, last = path.split("__")
        for part in parents:
            target = target[int(part) if part.isdigit() else part]
        target[last] = value
    return json.dumps(content).encode()


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "damaged"),
        (b"{", "damaged"),
        (b"\xff\xfe\x00", "damaged"),
        (b"[]", "not an Altana project"),
        (b"[" * 100_000, "damaged"),
        (b'{"kind": "other"}', "not an Altana project"),
        (_with(version=99), "newer Altana"),
        (_with(cameras__0__focal_mm="x"), r"cameras\[0\].focal_mm|\$.cameras"),
        (_with(cameras__0__focal_mm=0.001), "“A”"),
        (_with(cameras__0__eye=[1, 2]), "cameras"),
        (_with(models__0__path="../../etc/passwd"), "does not lie in"),
        (_with(models__0__path="/etc/passwd"), "does not lie in"),
        (_with(walks__0__rate="0"), "rate"),
        (_with(walks__0__keys=[]), "two places"),
        (_with(light__date="never"), "date"),
        (_with(cameras=[GOOD["cameras"][0]] * 2), "same id"),
        (to_json(Project("T")).replace(b'"hour": 15.0', b'"hour": NaN'), "damaged"),
    ],
)
def test_damaged_projects_get_a_sentence(data: bytes, says: str, tmp_path: Path) -> None:
    path = tmp_path / "p.altana"
    path.write_bytes(data)
    with pytest.raises(UserError, match=says) as caught:
        read_project(path)
    assert "p.altana" in caught.value.sentence
    assert path.read_bytes() == data


def test_missing_folders_and_directories(tmp_path: Path) -> None:
    with pytest.raises(UserError, match="not there"):
        read_project(tmp_path / "none.altana")
    with pytest.raises(UserError, match="folder"):
        read_project(tmp_path)
    with pytest.raises(UserError, match="folder is not there"):
        write_project(tmp_path / "none" / "a.altana", Project())


def test_a_full_disk_keeps_the_old_file(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "a.altana"
    write_project(path, Project("old"))

    def full(_: int) -> None:
        raise OSError(errno.ENOSPC, "full")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(UserError, match=r"disk is full.*last saved is unchanged"):
        write_project(path, Project("new"))
    monkeypatch.undo()
    assert read_project(path).name == "old"
    assert [item.name for item in tmp_path.iterdir()] == ["a.altana"]


def test_models_stay_inside_the_project_folder(tmp_path: Path) -> None:
    (tmp_path / "p").mkdir()
    secret = tmp_path / "secret.glb"
    secret.write_bytes(b"x")
    (tmp_path / "p" / "link.glb").symlink_to(secret)
    with pytest.raises(UserError, match="leads out"):
        model_path(tmp_path / "p" / "a.altana", ModelRef("m", "link.glb"))
    assert take_in(secret, [], tmp_path / "p" / "a.altana") == "models/secret.glb"
    assert (tmp_path / "p/models/secret.glb").read_bytes() == b"x"
    assert take_in(tmp_path / "p/models/secret.glb", [], tmp_path / "p" / "a.altana") == "models/secret.glb"


def test_cache_gives_back_the_same_model(
    demo_opened, demo_files: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:  # type: ignore[no-untyped-def]
    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path))
    path, model = demo_files / "larkwater.glb", demo_opened.model
    key = cache.model_key(path)
    assert cache.load_model(path, key) is None
    cache.keep_model(path, key, model, ["larkwater.ifc"])
    again = cache.load_model(path, key)
    assert again is not None
    assert again[1] == ["larkwater.ifc"]
    assert (again[0].vertices == model.vertices).all()
    assert (again[0].objects, again[0].rooms, again[0].images) == (model.objects, model.rooms, model.images)
    assert (runs_of(again[0]).low == runs_of(model).low).all() and (
        edges_of(again[0]).figures == edges_of(model).figures
    ).all()
    entry = tmp_path / "models" / key / "vertices.npy"
    entry.write_bytes(entry.read_bytes()[:5000])
    assert cache.load_model(path, key) is None
    assert cache.model_key(path, 0.001) != key


def test_a_cache_that_cannot_be_written_is_no_loss(
    demo_opened, demo_files: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:  # type: ignore[no-untyped-def]
    blocked = tmp_path / "file"
    blocked.write_text("")
    monkeypatch.setenv("ALTANA_CACHE", str(blocked))
    cache.keep_model(demo_files / "larkwater.glb", "k", replace(demo_opened.model), [])
    assert cache.load_model(demo_files / "larkwater.glb", "k") is None
