"""A file that has not changed is not read through again; one that has, however little, is."""

from __future__ import annotations

import os
import time
from pathlib import Path

import msgspec
import numpy as np
import pytest

from altana.importers.table import read_model
from altana.storage import file_keys
from altana.storage.cache import HEAD, KEYS, cache_folder, keep_model, load_model, model_key
from altana.storage.file_keys import SETTLED_NS, known_digest


@pytest.fixture
def model(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A file that was written a while ago, and an empty cache."""
    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path / "cache"))
    path = tmp_path / "model.glb"
    path.write_bytes(b"first")
    # The time of its record cannot be set, so it is waited for; not as long as people's disks may need.
    monkeypatch.setattr(file_keys, "SETTLED_NS", 60_000_000)
    time.sleep(0.08)
    return path


def notes() -> list[Path]:
    return sorted((cache_folder() / KEYS).glob("*"))


def test_it_is_read_once(model: Path, tmp_path: Path) -> None:
    read: list[int] = []

    def made() -> str:
        read.append(1)
        return "0" * 40

    for _ in range(3):
        assert known_digest(model, "how", tmp_path / "keys", made) == "0" * 40
    assert len(read) == 1
    # Of something else besides its bytes it is another digest.
    known_digest(model, "otherwise", tmp_path / "keys", made)
    assert len(read) == 2


def test_other_bytes_of_the_same_length_and_time_are_another_key(model: Path) -> None:
    key, stat = model_key(model), model.stat()
    assert model_key(model) == key and len(notes()) == 1
    model.write_bytes(b"other")
    os.utime(model, ns=(stat.st_atime_ns, stat.st_mtime_ns))
    assert model.stat().st_mtime_ns == stat.st_mtime_ns and model.stat().st_size == stat.st_size
    assert model_key(model) != key
    # Another file put in its place is known by its number.
    third = model.with_name("third.glb")
    third.write_bytes(b"third")
    os.replace(third, model)
    assert model_key(model) != key


def test_a_file_written_just_now_is_not_noted(model: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(file_keys, "SETTLED_NS", SETTLED_NS)
    assert SETTLED_NS >= 2_000_000_000
    model.write_bytes(b"again")
    before = len(notes())
    model_key(model)
    assert len(notes()) == before


@pytest.mark.parametrize("text", [b"", b"{", b"\xff\xfe", b'{"file":[1,2,3],"digest":"x"}'])
def test_a_damaged_note_is_none(model: Path, text: bytes) -> None:
    key = model_key(model)
    (note,) = notes()
    note.write_bytes(text)
    assert model_key(model) == key
    # It is mended, too.
    assert msgspec.json.decode(note.read_bytes())["digest"] == key


def test_a_note_leads_nowhere_else(model: Path) -> None:
    key = model_key(model)
    (note,) = notes()
    told = msgspec.json.decode(note.read_bytes())
    note.write_bytes(msgspec.json.encode({**told, "digest": "../../elsewhere"}))
    assert model_key(model) == key


def test_without_a_place_for_notes_it_is_read_each_time(model: Path, tmp_path: Path) -> None:
    (tmp_path / "cache").write_text("a file where the folder would be")
    assert model_key(model) == model_key(model)
    model.unlink()
    with pytest.raises(OSError):
        model_key(model)


def test_a_kept_model_comes_back_mapped_and_the_same(model: Path, demo_files: Path) -> None:
    path = demo_files / "larkwater.glb"
    read, others = read_model(path)
    key = model_key(path)
    keep_model(path, key, read, others)
    mapped = load_model(path, key)
    assert mapped is not None
    for name in ("vertices", "normals", "uvs", "faces", "face_material"):
        ours, theirs = getattr(mapped[0], name), getattr(read, name)
        assert ours.dtype == theirs.dtype and np.array_equal(ours, theirs), name
        # Nobody writes into what all processes share.
        assert not ours.flags.writeable
    # An entry of before, which says nothing of how its arrays lie, is opened as well, and no more than
    # mapped.
    head = cache_folder() / "models" / key / HEAD
    told = msgspec.json.decode(head.read_bytes())
    assert told["laid"]["vertices"][1] == list(read.vertices.shape)
    head.write_bytes(msgspec.json.encode({**told, "laid": {}}))
    older = load_model(path, key)
    assert older is not None and np.array_equal(older[0].vertices, read.vertices)
    assert not older[0].vertices.flags.owndata
    # One that claims more than there is counts as missing.
    told["laid"]["vertices"][1] = [10**9, 3]
    head.write_bytes(msgspec.json.encode(told))
    assert load_model(path, key) is None
