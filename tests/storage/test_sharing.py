"""Two writers of one project: nothing is lost, what clashes is said; versions, links, modes, unfinished
files, damaged caches."""

from __future__ import annotations

import gzip
import json
import os
import stat
import subprocess
import sys
import threading
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from click.testing import CliRunner
from hypothesis import given, settings
from hypothesis import strategies as st

from altana.cli.main import commands
from altana.core.edits.cameras import add_camera, remove_camera, set_camera
from altana.core.edits.shots import add_shots, change_shots, start_values
from altana.core.errors import UserError
from altana.core.merging import differences, merged
from altana.core.project import STILL, Camera, Project
from altana.storage import cache, files, sharing
from altana.storage.files import PART_S, part_prefix, write_atomically
from altana.storage.project_file import (
    from_json,
    read_project,
    to_json,
    unknown_fields,
    versions_folder,
    write_project,
)
from altana.storage.sharing import change_project, digest_of, save_changes
from altana.storage.versions import KEPT, versions_of


def project_with(*names: str) -> Project:
    project = Project(name="Two")
    for name in names:
        project, _ = add_camera(project, Camera("", name))
    return project


@pytest.fixture
def path(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.setenv("ALTANA_AUTOSAVE", str(tmp_path / "kept"))
    project_path = tmp_path / "two.altana"
    write_project(project_path, project_with("Hall", "Stair"))
    return project_path


# ---------------------------------------------------------------------- merging


def test_changes_of_different_things_are_put_together() -> None:
    base = project_with("Hall", "Stair")
    ours = set_camera(base, "cam-01", heading_deg=90.0)
    ours, new = add_camera(ours, Camera("", "Ours"))
    ours = add_shots(ours, [start_values(ours, STILL, new)])
    theirs = set_camera(set_camera(base, "cam-02", focal_mm=50.0), "cam-01", note="theirs")
    theirs, _ = add_camera(theirs, Camera("", "Theirs"))
    theirs = replace(theirs, author="Somebody")
    both = merged(base, ours, theirs)
    assert both.clashes == ()
    cameras = {camera.name: camera for camera in both.project.cameras}
    assert set(cameras) == {"Hall", "Stair", "Ours", "Theirs"}
    assert (cameras["Hall"].heading_deg, cameras["Hall"].note, cameras["Stair"].focal_mm) == (
        90.0,
        "theirs",
        50.0,
    )
    # Both had called the new one by the same id; the row follows its own camera.
    assert len({camera.id for camera in both.project.cameras}) == 4
    assert both.project.camera(both.project.shots[0].subject).name == "Ours"  # type: ignore[union-attr]
    assert both.project.author == "Somebody"


def test_changes_of_the_same_thing_clash_and_ours_holds() -> None:
    base = project_with("Hall", "Stair")
    ours, theirs = set_camera(base, "cam-01", focal_mm=24.0), set_camera(base, "cam-01", focal_mm=50.0)
    both = merged(base, ours, theirs)
    assert both.clashes == ("camera “Hall”: focal mm",) and both.project.cameras[0].focal_mm == 24.0
    gone = merged(base, remove_camera(base, "cam-02"), set_camera(base, "cam-02", note="x"))
    assert len(gone.clashes) == 1 and gone.project.camera("cam-02").note == "x"  # type: ignore[union-attr]
    same = merged(base, ours, ours)
    assert same.project == ours and same.clashes == ()
    # A row whose camera the other has removed goes with it.
    listed = add_shots(base, [start_values(base, STILL, "cam-02")])
    put_together = merged(
        listed, change_shots(listed, ["shot-01"], scale=50.0), remove_camera(listed, "cam-02")
    )
    assert [
        shot for shot in put_together.project.shots if put_together.project.camera(shot.subject) is None
    ] == []


STEPS = st.lists(
    st.tuples(st.sampled_from(["set", "add", "remove", "name"]), st.integers(0, 3), st.integers(1, 5)),
    max_size=5,
)


def changed(project: Project, steps: list[tuple[str, int, int]]) -> Project:
    for kind, place, value in steps:
        ids = [camera.id for camera in project.cameras]
        if kind == "add":
            project, _ = add_camera(project, Camera("", f"New {value}", focal_mm=20.0 + value))
        elif kind == "name":
            project = replace(project, name=f"Name {value}")
        elif ids:
            chosen = ids[place % len(ids)]
            project = (
                remove_camera(project, chosen)
                if kind == "remove"
                else set_camera(project, chosen, heading_deg=10.0 * value)
            )
    return project


@given(STEPS, STEPS)
@settings(max_examples=150)
def test_whatever_two_people_do_the_merged_project_can_be_read(one: list, two: list) -> None:  # type: ignore[type-arg]
    base = project_with("A", "B", "C", "D")
    ours, theirs = changed(base, one), changed(base, two)
    both = merged(base, ours, theirs)
    assert from_json(to_json(both.project), "merged") == both.project
    # What only one of them changed is as that one left it.
    if theirs == base:
        assert both.project == ours
    names = [camera.name for camera in both.project.cameras]
    for side in (ours, theirs):
        for camera in side.cameras:
            if base.camera(camera.id) is None:
                assert names.count(camera.name) >= 1
    assert bool(differences(base, both.project)) == (base != both.project)


# ---------------------------------------------------------------------- the file


def test_two_loops_of_camera_add_lose_none(path: Path) -> None:
    script = (
        "import sys\nfrom click.testing import CliRunner\nfrom altana.cli.main import commands\n"
        "for n in range(10):\n"
        "    found = CliRunner().invoke(commands, ['camera', 'add', sys.argv[1], '--eye', '1,2,1.6', '--name', f'{sys.argv[2]} {n}'])\n"
        "    assert found.exit_code == 0, found.output\n"
    )
    both = [subprocess.Popen([sys.executable, "-c", script, str(path), name]) for name in ("one", "two")]
    assert [process.wait(600) for process in both] == [0, 0]
    names = {camera.name for camera in read_project(path).cameras}
    assert names == {"Hall", "Stair", *(f"{name} {n}" for name in ("one", "two") for n in range(10))}


def test_a_save_keeps_what_others_saved_meanwhile(path: Path) -> None:
    base = read_project(path)
    change_project(path, lambda p: set_camera(p, "cam-02", note="theirs"))
    saved = save_changes(path, base, set_camera(base, "cam-01", note="ours"))
    assert saved == read_project(path) and [camera.note for camera in saved.cameras] == ["ours", "theirs"]
    with pytest.raises(UserError, match="somebody else meanwhile, in the same places: camera “Stair”: note"):
        save_changes(path, base, set_camera(base, "cam-02", note="ours"))
    assert read_project(path) == saved


def test_who_waits_too_long_for_another_save_is_told(path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sharing, "WAIT_S", 0.1)
    lock, release = threading.Event(), threading.Event()

    def holding() -> None:
        with sharing.locked(path):
            lock.set()
            release.wait(120)

    other = threading.Thread(target=holding)
    other.start()
    lock.wait(120)
    with pytest.raises(UserError, match="being saved by somebody else"):
        change_project(path, lambda p: p)
    release.set()
    other.join()
    assert change_project(path, lambda p: replace(p, author="x")).author == "x"
    assert sorted(item.name for item in path.parent.iterdir() if item.name != "kept") == [path.name]


def test_a_file_keeps_its_mode_its_link_and_its_group(path: Path, tmp_path: Path) -> None:
    path.chmod(0o600)
    change_project(path, lambda p: replace(p, author="x"))
    assert stat.S_IMODE(path.stat().st_mode) == 0o600
    link = tmp_path / "linked" / "link.altana"
    link.parent.mkdir()
    link.symlink_to(path)
    write_project(link, replace(read_project(path), author="y"))
    assert link.is_symlink() and read_project(path).author == "y"
    path.chmod(0o444)
    with pytest.raises(UserError, match="write-protected"):
        write_project(path, project_with("Other"))
    assert read_project(path).author == "y"
    fresh = tmp_path / "fresh.altana"
    mask = os.umask(0o027)
    try:
        write_project(fresh, project_with("A"))
    finally:
        os.umask(mask)
    assert stat.S_IMODE(fresh.stat().st_mode) == 0o640


def test_unfinished_files_are_removed_when_nobody_finishes_them(tmp_path: Path) -> None:
    ours = part_prefix("b")
    dead, alive = tmp_path / ".a.altana.999999999.x.part", tmp_path / f"{ours}y.part"
    young = tmp_path / ".c.h0badcafe0bad.999999998.z.part"
    killed = tmp_path / f"{ours.replace(str(os.getpid()), '999999997')}z.part"
    for file in (dead, alive, young, killed):
        file.write_bytes(b"half")
    for file in (dead, alive):
        os.utime(file, (1.0, 1.0))
    files._looked_through.discard(tmp_path)
    write_atomically(tmp_path / "made.txt", b"whole")
    assert not dead.exists() and alive.exists() and young.exists() and PART_S > 0
    # What this machine began just now and was killed over, nobody else can be writing.
    assert not killed.exists()
    write_atomically(tmp_path / ("n" * 250 + ".txt"), b"long names too")
    with pytest.raises(UserError, match="its name is too long"):
        write_atomically(tmp_path / ("n" * 300), b"x")


def test_what_a_file_says_otherwise(path: Path) -> None:
    document = json.loads(path.read_text())
    path.write_bytes(b"\xef\xbb\xbf" + json.dumps(document).encode())
    assert read_project(path).cameras[0].name == "Hall"
    document["cameras"][0]["mood"] = "calm"
    document["weather"] = {"wind": 3}
    path.write_text(json.dumps(document))
    assert set(unknown_fields(path)) == {"weather", "cameras 1.mood"}
    for version in (-1, 0, None, "7", True):
        path.write_text(json.dumps({**document, "version": version}))
        with pytest.raises(UserError, match="version"):
            read_project(path)


def test_text_that_no_file_can_hold_is_refused_before_it_is_written(path: Path) -> None:
    before = digest_of(path)
    with pytest.raises(UserError, match="as last saved is unchanged"):
        write_project(path, replace(project_with("A"), author="\ud800"))
    assert digest_of(path) == before


# ---------------------------------------------------------------------- versions


def test_the_last_twenty_saves_are_a_way_back(path: Path) -> None:
    for number in range(25):
        change_project(path, lambda p, number=number: set_camera(p, "cam-01", heading_deg=float(number)))
    versions = versions_of(versions_folder(), path)
    assert len(versions) == KEPT
    assert from_json(versions[0].data, "x").cameras[0].heading_deg == 23.0
    # The same content twice is one version.
    write_project(path, read_project(path))
    write_project(path, read_project(path))
    assert len(versions_of(versions_folder(), path)) == KEPT
    told = CliRunner().invoke(commands, ["versions", "list", str(path), "--json"], catch_exceptions=False)
    facts = json.loads(told.stdout)
    assert facts[1]["changed"] == ["camera “Hall”: heading deg"]
    change_project(path, lambda p: remove_camera(p, "cam-02"))
    taken = CliRunner().invoke(
        commands, ["versions", "take", str(path), "1", "--camera", "Stair"], catch_exceptions=False
    )
    assert "camera “Stair”: new" in taken.stdout
    assert {camera.name for camera in read_project(path).cameras} == {"Hall", "Stair"}
    CliRunner().invoke(commands, ["versions", "take", str(path), "10"], catch_exceptions=False)
    assert read_project(path).cameras[0].heading_deg < 24.0
    with pytest.raises(UserError, match="no version 99"):
        CliRunner().invoke(commands, ["versions", "take", str(path), "99"], catch_exceptions=False)


def test_a_damaged_version_says_so(path: Path) -> None:
    change_project(path, lambda p: replace(p, author="x"))
    (version,) = versions_of(versions_folder(), path)
    version.path.write_bytes(version.path.read_bytes()[:20])
    told = CliRunner().invoke(commands, ["versions", "list", str(path), "--json"], catch_exceptions=False)
    assert "cannot be read any more" in json.loads(told.stdout)[0]["damaged"]
    version.path.write_bytes(gzip.compress(b"{"))
    with pytest.raises(UserError, match="damaged"):
        CliRunner().invoke(commands, ["versions", "take", str(path), "1"], catch_exceptions=False)


# ---------------------------------------------------------------------- caches


def box(folder: Path) -> Path:
    import trimesh

    file = folder / "box.glb"
    trimesh.creation.box((2.0, 3.0, 4.0)).export(file)
    return file


@pytest.mark.parametrize("damage", ["empty", "half", "random", "no head", "bad head", "other file"])
def test_a_damaged_entry_of_the_cache_counts_as_missing(
    damage: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    from altana.importers.table import read_model

    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path / "cache"))
    file = box(tmp_path)
    model, others = read_model(file, 0.0, "")
    key = cache.model_key(file)
    cache.keep_model(file, key, model, others)
    assert cache.load_model(file, key) is not None
    entry = tmp_path / "cache" / "models" / key
    for part in [path for path in entry.iterdir() if (path.suffix == ".npy") == ("head" not in damage)]:
        data = part.read_bytes()
        if damage == "empty":
            part.write_bytes(b"")
        elif damage == "half":
            part.write_bytes(data[: len(data) // 2])
        elif damage == "random":
            part.write_bytes(bytes(np.random.default_rng(1).integers(0, 256, len(data) + 1, np.uint8)))
        elif damage == "no head":
            part.unlink()
        elif damage == "bad head":
            part.write_bytes(b"{}")
        else:
            part.unlink()
            part.mkdir()
        assert cache.load_model(file, key) is None
    cache.keep_model(file, key, model, others)
    assert cache.load_model(file, key) is not None
    assert not list((tmp_path / "cache" / "models").glob("*.part"))


@pytest.mark.parametrize("data", [b"", b"PK\x03\x04", b"\x93NUMPY", bytes(200)])
def test_a_damaged_light_counts_as_missing(
    data: bytes, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path))
    (tmp_path / "light").mkdir()
    (tmp_path / "light" / "abc.npz").write_bytes(data)
    assert cache.load_light("abc") is None


def test_the_cache_stays_within_its_size_the_longest_unused_go_first(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path))
    monkeypatch.setattr(cache, "limit_bytes", lambda: 2500.0)
    for folder in ("models", "light"):
        (tmp_path / folder).mkdir()
    for age, name in enumerate(("new", "old", "older")):
        entry = tmp_path / "models" / name
        entry.mkdir()
        (entry / "vertices.npy").write_bytes(bytes(1000))
        os.utime(entry, (1000.0 - age, 1000.0 - age))
    (tmp_path / "light" / "lamp.npz").write_bytes(bytes(1000))
    left = tmp_path / "models" / "half.999999999.part"
    left.mkdir()
    cache.tidy(spared=tmp_path / "models" / "older")
    assert sorted(item.name for item in (tmp_path / "models").iterdir()) == ["older"]
    assert (tmp_path / "light" / "lamp.npz").exists() and not left.exists()
