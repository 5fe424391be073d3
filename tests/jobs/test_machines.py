"""Several machines: the same bytes as one, whatever dies; each file travels once; nothing but Altana's own
orders is done."""

from __future__ import annotations

import json
import os
import pickle
import random
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any

import msgspec
import pytest

from altana.core.edits.shots import add_shots, start_values
from altana.core.errors import UserError
from altana.core.project import FILM, LINES, PANORAMA, PENCIL, TRANSPARENT, Project
from altana.jobs.machines import files as files_module
from altana.jobs.machines import fleet as fleet_module
from altana.jobs.machines import pieces as pieces_module
from altana.jobs.machines.bench import Bench, do_piece
from altana.jobs.machines.fence import _loads
from altana.jobs.machines.fleet import Fleet
from altana.jobs.machines.pieces import WIRE, PieceOrder, Result, Still, build, packed, pieces_of, read_order
from altana.jobs.machines.places import address_of, make_certificates
from altana.jobs.machines.plan import Cost, plan_of, simulate
from altana.jobs.machines.serving import kind
from altana.jobs.models import Opened
from altana.jobs.requests import Picture, Request
from altana.jobs.run import Run
from altana.jobs.shotlist import chosen_rows, rows_of, shot_request
from altana.storage.made import DIRECT
from altana.storage.project_file import write_project
from tests.jobs.hosts import Hosts, hosts

ALTANA = [sys.executable, "-m", "altana"]
WAIT_S = 300.0


def listed(project: Project, rows: list[Any]) -> Project:
    cameras = tuple(replace(item, in_shot_list=False) for item in project.cameras)
    return add_shots(replace(project, shots=(), cameras=cameras), rows)


@pytest.fixture(scope="module")
def short(demo_project: Project) -> Project:
    """The demo with a list of small rows: stills of several kinds, a panorama, a film."""
    walks = tuple(replace(w, seconds=2.0, rate="12", width_px=96, height_px=54) for w in demo_project.walks)
    project = replace(demo_project, walks=walks)
    hall, quay = (project.camera_named(name).id for name in ("Waiting hall to the water", "Quay, morning"))
    still = replace(start_values(project, "still", hall), width_px=96, quality="proof")
    round_ = replace(start_values(project, PANORAMA, hall), width_px=128, quality="proof")
    rows = [
        still,
        replace(still, rendition=LINES, keep_master=False, folder="drawings"),
        replace(still, rendition=PENCIL, keep_master=False, folder="drawings"),
        replace(still, subject=quay, background=TRANSPARENT, file="tif", hour=18.0),
        replace(still, subject=quay, passes=True),
        replace(round_, faces=True),
        replace(start_values(project, FILM, "walk-01"), quality="proof"),
    ]
    return listed(project, rows)


def files_of(out: Path) -> dict[str, bytes]:
    return {p.relative_to(out).as_posix(): p.read_bytes() for p in sorted(out.rglob("*")) if p.is_file()}


def unlike(one: dict[str, bytes], other: dict[str, bytes]) -> list[str]:
    """The files that only one has, or that are not the same, by name: bytes tell a reader nothing."""
    return sorted(name for name in one.keys() | other.keys() if one.get(name) != other.get(name))


def request_of(project: Project, opened: Opened) -> Request:
    return shot_request(chosen_rows(rows_of(project, opened.model)), project)


@pytest.fixture(scope="module")
def alone(
    short: Project, demo_opened: Opened, demo_files: Path, tmp_path_factory: pytest.TempPathFactory
) -> Path:
    """The list made by one machine."""
    out = tmp_path_factory.mktemp("alone")
    run = Run(request_of(short, demo_opened), demo_opened, out)
    run.base = demo_files
    run.go()
    return out


# ---------------------------------------------------------------------- without a network


@dataclass
class Done:
    """A future that is there at once."""

    value: bytes
    status: str = "finished"

    def result(self, timeout: float = 0.0) -> bytes:
        return self.value

    def cancel(self) -> None:
        self.status = "cancelled"


@dataclass
class HereClient:
    """A cluster of one: pieces are made on a bench of this process."""

    bench: Bench
    status: str = "running"
    made: list[str] = field(default_factory=list)
    damage: Callable[[bytes], bytes] = lambda data: data

    def submit(self, function: Any, order: bytes, key: str, **_: Any) -> Any:
        self.made.append(key)
        done = Done(self.damage(packed(self.bench.make(order))))
        done.add_done_callback = lambda told: told(done)  # type: ignore[attr-defined]
        return done

    def scheduler_info(self, n_workers: int = 0) -> dict[str, Any]:
        return {"workers": {"a": {"name": self.bench.name, "resources": {"same": 1}}}}


@pytest.fixture
def here() -> Iterator[Fleet]:
    """A fleet whose only machine is this process."""

    def fetch(digest: str, start: int) -> bytes:
        raise AssertionError("everything lies here already")

    fleet = Fleet.__new__(Fleet)
    bench = Bench(fetch)
    fleet.client, fleet.kind, fleet.done = HereClient(bench), "same", {}
    fleet._call = _kept  # type: ignore[method-assign]
    yield fleet
    bench.forget()


def _kept(what: str, **values: Any) -> Any:
    if what == "altana_missing":
        return list(values["digests"])
    files_module.take_part(**values)
    return ""


@pytest.mark.slow
def test_put_together_from_parts_it_is_the_same(
    short: Project,
    demo_opened: Opened,
    demo_files: Path,
    alone: Path,
    here: Fleet,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    run = Run(request_of(short, demo_opened), demo_opened, tmp_path, machines=here)
    run.base = demo_files
    # Every still that can be made from tiles is.
    monkeypatch.setattr(pieces_module, "SMALL_PX", 1)
    run.go()
    assert unlike(files_of(alone), files_of(tmp_path)) == []
    assert not run.aside
    assert here.done[here.client.bench.name].pieces == len(here.client.made) >= 12


@pytest.mark.slow
def test_traced_pictures_and_two_eyes_from_parts_are_the_same(
    demo_project: Project,
    demo_opened: Opened,
    demo_files: Path,
    here: Fleet,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    hall = demo_project.camera_named("Waiting hall to the water").id
    row = replace(start_values(demo_project, "still", hall), width_px=1600, quality="final", samples=1)
    around = replace(start_values(demo_project, PANORAMA, hall), width_px=1600, quality="final", samples=1)
    rows = [row, around, replace(around, width_px=128, quality="proof", samples=0, stereo_m=0.064)]
    request = request_of(listed(demo_project, rows), demo_opened)
    Run(request, demo_opened, tmp_path / "one", base=demo_files).go()
    monkeypatch.setattr(pieces_module, "SMALL_PX", 1)
    Run(request, demo_opened, tmp_path / "parts", base=demo_files, machines=here).go()
    assert len(here.client.made) > 2 + 2 + 4
    assert unlike(files_of(tmp_path / "one"), files_of(tmp_path / "parts")) == []


def test_a_panorama_whose_light_is_looked_for_is_made_in_one_piece(
    demo_project: Project, demo_opened: Opened, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Who draws one face needs the light of all."""
    hall = demo_project.camera_named("Waiting hall to the water").id

    def kinds(width: int, **values: object) -> list[str]:
        row = replace(start_values(demo_project, PANORAMA, hall), width_px=width, **values)
        request = request_of(listed(demo_project, [row]), demo_opened)
        return [type(piece).__name__ for piece in pieces_of(request.items[0], request)]

    monkeypatch.setenv("ALTANA_PIXEL_LIGHT", "1")
    assert kinds(4000, quality="review") == ["Round"]
    assert kinds(4000, quality="proof") == kinds(8000, quality="review") == ["Face"] * 6
    assert set(kinds(4000, quality="review", stereo_m=0.064)) == {"Slices"}
    monkeypatch.setenv("ALTANA_PIXEL_LIGHT", "0")
    assert kinds(4000, quality="review") == ["Face"] * 6


@pytest.mark.slow
def test_a_result_that_cannot_be_read_is_made_again(
    short: Project, demo_opened: Opened, demo_files: Path, alone: Path, here: Fleet, tmp_path: Path
) -> None:
    spoilt: list[str] = []

    def damage(data: bytes) -> bytes:
        if len(spoilt) < 2:
            spoilt.append("x")
            return data[: len(data) // 2]
        return data

    here.client.damage = damage
    only = replace(request_of(short, demo_opened), items=request_of(short, demo_opened).items[:1])
    Run(only, demo_opened, tmp_path, machines=here, base=demo_files).go()
    assert len(spoilt) == 2 and len(here.client.made) == 3
    files = files_of(tmp_path)
    assert unlike(files, {name: files_of(alone)[name] for name in files}) == []


def test_what_fails_again_and_again_is_set_aside_with_a_sentence(
    short: Project, demo_opened: Opened, demo_files: Path, here: Fleet, tmp_path: Path
) -> None:
    here.client.damage = lambda data: packed(Result("m", 0.1, fault="Traceback\nKeyError: 'x'"))
    run = Run(
        replace(request_of(short, demo_opened), items=request_of(short, demo_opened).items[:2]),
        demo_opened, tmp_path, tmp_path / "job", machines=here, base=demo_files,
    )  # fmt: skip
    run.go()
    assert len(run.aside) == 2
    assert "could not be made on 3 tries (KeyError: 'x')" in next(iter(run.aside.values()))
    told = [json.loads(line) for line in (tmp_path / "job" / "journal.jsonl").read_text().splitlines()]
    assert [event["machine"] for event in told if event["event"] == "trouble"] == ["m"] * 6


@pytest.mark.slow
def test_what_one_machine_refuses_another_may_make(
    short: Project, demo_opened: Opened, demo_files: Path, alone: Path, here: Fleet, tmp_path: Path
) -> None:
    told: list[str] = []

    def damage(data: bytes) -> bytes:
        told.append("x")
        if len(told) == 1:
            return packed(Result("small", 0.1, refused="There is not enough memory on small."))
        return data

    here.client.damage = damage
    only = replace(request_of(short, demo_opened), items=request_of(short, demo_opened).items[:1])
    Run(only, demo_opened, tmp_path, tmp_path / "job", machines=here, base=demo_files).go()
    assert len(told) == 2 and here.done["small"].trouble == "There is not enough memory on small."
    # Where all refuse, their sentence is what is said.
    here.client.damage = lambda data: packed(Result("small", 0.1, refused="Nobody has memory."))
    with pytest.raises(UserError, match="Nobody has memory"):
        Run(replace(only, way=DIRECT), demo_opened, tmp_path / "more", machines=here, base=demo_files).go()


# ---------------------------------------------------------------------- orders that are refused


@pytest.fixture
def order(demo_project: Project, demo_opened: Opened) -> PieceOrder:
    item = request_of(demo_project, demo_opened).items[0]
    assert isinstance(item, Picture)
    return PieceOrder(WIRE, build(), "0" * 40, Still(item))


def refused(order: PieceOrder) -> str:
    def fetch(digest: str, start: int) -> bytes:
        raise AssertionError("nothing is fetched for it")

    result = Bench(fetch).make(packed(order))
    assert not result.files and not result.arrays and not result.fault
    return result.refused


def test_orders_that_nobody_should_give_are_refused(order: PieceOrder) -> None:
    assert isinstance(order.piece, Still)
    item = order.piece.item
    other = refused(msgspec.structs.replace(order, build="altana-0.0.1-x"))
    assert "is of altana-0.0.1-x, this machine has altana-" in other and other.endswith("on all machines.")
    assert "largest picture" in refused(
        msgspec.structs.replace(order, piece=Still(replace(item, width_px=200_000)))
    )
    assert "largest picture" in refused(
        msgspec.structs.replace(order, piece=Still(replace(item, height_px=0)))
    )
    for name in ("../../etc/cron.d/x", "/etc/passwd", "a/../../b", "a\\..\\b"):
        told = refused(msgspec.structs.replace(order, piece=Still(replace(item, file=name))))
        assert name in told and "out of its folder" in told
    assert "no digest" in refused(msgspec.structs.replace(order, common="../../secret"))
    with pytest.raises(UserError, match="cannot be read"):
        read_order(b"\x80\x05cos\nsystem\n(S'true'\ntR.")


def test_files_and_their_places_are_looked_at(
    order: PieceOrder, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path))
    for name in ("../outside", "/outside", "models/../../outside"):
        with pytest.raises(UserError, match="out of its folder"):
            pieces_module.read_common(_common_with(name))
    with pytest.raises(UserError, match="otherwise than it was sent"):
        files_module.take_part("ab" * 20, 0, b"something else", True)
    with pytest.raises(UserError, match="larger than the cache"):
        files_module.take_part("ab" * 20, 10**15, b"x", False)
    assert not list((tmp_path / "lent" / "files").iterdir())
    # In parts, by two at once, it is whole in the end.
    data = bytes(range(256)) * 40
    digest = files_module.digest_of(data)
    for _ in range(2):
        files_module.take_part(digest, 0, data[:5000], False)
    files_module.take_part(digest, 5000, data[5000:], True)
    assert (tmp_path / "lent" / "files" / digest).read_bytes() == data
    with pytest.raises(UserError, match="no digest"):
        pieces_module.read_common(_common_with("ok", light="light-of-somebody"))


def _common_with(name: str, light: str = "") -> bytes:
    project = Project("x")
    odd = pieces_module.PackedFile(name, "ab" * 20, 3)
    lights = (pieces_module.PackedFile(light, "ab" * 20, 3),) if light else ()
    return packed(pieces_module.Common(project, "proof", 0, 0.0, (odd,), lights))


def test_pickles_that_name_anything_else_are_refused(tmp_path: Path) -> None:
    ran = tmp_path / "ran"

    class Evil:
        def __reduce__(self) -> Any:
            return os.system, (f"touch {ran}",)

    with pytest.raises(pickle.UnpicklingError, match="not among what may be named"):
        _loads(pickle.dumps(Evil()))
    assert not ran.exists()
    assert _loads(pickle.dumps({"a": [1, b"x", (2.0, None)]})) == {"a": [1, b"x", (2.0, None)]}


# ---------------------------------------------------------------------- places


@pytest.mark.parametrize("text", ["8.8.8.8", "tcp://1.1.1.1:8786", "tcp://0.0.0.0:8786"])
def test_only_near_addresses_without_certificates(text: str) -> None:
    with pytest.raises(UserError, match="not on a private network"):
        address_of(text, None)


@pytest.mark.parametrize("text", ["", "http://127.0.0.1", "127.0.0.1:99999", "a b", "tcp://"])
def test_no_address(text: str) -> None:
    with pytest.raises(UserError, match="no address"):
        address_of(text, None)


def test_addresses(tmp_path: Path) -> None:
    assert address_of("127.0.0.1", None) == "tcp://127.0.0.1:8786"
    assert address_of("tcp://192.168.1.7:9000", None) == "tcp://192.168.1.7:9000"
    assert address_of("[::1]:9000", None) == "tcp://[::1]:9000"
    assert address_of("8.8.8.8", tmp_path) == "tls://8.8.8.8:8786"
    with pytest.raises(UserError, match="--certificates DIR"):
        address_of("tls://127.0.0.1", None)


# ---------------------------------------------------------------------- real processes


@dataclass
class Cluster:
    """A scheduler and workers as processes of their own, each with a cache of its own, on hosts of their own
    where the machine allows it."""

    folder: Path
    hosts: Hosts = field(default_factory=Hosts)
    more: tuple[str, ...] = ()
    address: str = ""
    scheduler: Any = None
    workers: list[Any] = field(default_factory=list)

    def start(self, count: int) -> None:
        self.scheduler = self._process(
            "scheduler", "--listen", self._listen(), "--json", *self.more, name="scheduler"
        )
        self.address = json.loads(self.scheduler.stdout.readline())["address"]
        self.workers = [self.worker(number) for number in range(count)]

    def _listen(self) -> str:
        self.hosts.on("scheduler")
        return f"{self.hosts.address('scheduler')}:0"

    def worker(self, number: int) -> Any:
        name = f"machine-{number + 1}"
        return self._process("worker", self.address, "--threads", "1", "--name", name, *self.more, name=name)

    def _process(self, *words: str, name: str) -> Any:
        settings = {**os.environ, "ALTANA_CACHE": str(self.folder / name)}
        with (self.folder / f"{name}.log").open("a") as log:
            return subprocess.Popen(
                [*self.hosts.on(name), *ALTANA, *words],
                stdout=subprocess.PIPE, stderr=log, text=True, env=settings,
            )  # fmt: skip

    def end(self) -> None:
        for process in (*self.workers, self.scheduler):
            process.terminate()
        for process in (*self.workers, self.scheduler):
            try:
                process.wait(120)
            except subprocess.TimeoutExpired:
                process.kill()
                process.wait()
            process.stdout.close()


@pytest.fixture(scope="module")
def cluster(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Cluster]:
    with hosts() as several:
        machines = Cluster(tmp_path_factory.mktemp("cluster"), several)
        machines.start(3)
        yield machines
        machines.end()


@pytest.fixture
def written(short: Project, demo_files: Path, tmp_path: Path) -> Path:
    """The short list as a project file beside a copy of the model."""
    folder = tmp_path / "project"
    folder.mkdir()
    for item in short.models:
        (folder / item.path).parent.mkdir(parents=True, exist_ok=True)
        os.link(demo_files / item.path, folder / item.path)
    write_project(folder / "short.altana", short)
    return folder / "short.altana"


def head(cluster: Cluster, project: Path, out: Path, *more: str) -> list[str]:
    words = ["render", str(project), "--shots", "--out", str(out), "--job", str(out.parent / "job"), "--json"]
    return [*cluster.hosts.on("head"), *ALTANA, *words, "--on", cluster.address, *more]


@pytest.mark.slow
def test_three_machines_make_the_bytes_of_one_and_each_file_travels_once(
    cluster: Cluster, written: Path, alone: Path, tmp_path: Path
) -> None:
    out = tmp_path / "out"
    done = subprocess.run(
        head(cluster, written, out), capture_output=True, text=True, timeout=600, check=False
    )
    assert done.returncode == 0, done.stderr
    assert unlike(files_of(alone), files_of(out)) == []
    events = journal(out)
    helped = [event for event in events if event["event"] == "helped"]
    fetched = {
        name: sum(e["fetched"] for e in helped if e["machine"] == name)
        for name in {e["machine"] for e in helped}
    }
    assert set(fetched) == {"machine-1", "machine-2", "machine-3"}
    # All that a machine needs is what lies with the scheduler: each of them got that once.
    whole = sum(path.stat().st_size for path in (cluster.folder / "scheduler" / "lent" / "files").iterdir())
    assert set(fetched.values()) == {whole}
    facts = json.loads(done.stdout)
    assert {item["name"] for item in facts["machines"]} == set(fetched)
    assert sum(item["pieces"] for item in facts["machines"]) == len(helped)


@pytest.mark.slow
def test_a_folder_that_all_see_is_used_and_nothing_travels(
    written: Path, alone: Path, tmp_path: Path
) -> None:
    seen = tmp_path / "seen by all"
    seen.mkdir()
    with hosts() as several:
        cluster = Cluster(tmp_path, several, more=("--shared", str(seen)))
        cluster.start(1)
        try:
            words = head(cluster, written, tmp_path / "out", "--shared", str(seen))
            # One row tells as much as all.
            words[words.index("--shots")] = "--shot=1"
            done = subprocess.run(words, capture_output=True, text=True, timeout=600, check=False)
            assert done.returncode == 0, done.stderr
        finally:
            cluster.end()
    files = files_of(tmp_path / "out")
    assert files and unlike(files, {name: files_of(alone)[name] for name in files}) == []
    assert sum(item["fetched_bytes"] for item in json.loads(done.stdout)["machines"]) == 0
    names = {path.name for path in seen.iterdir()}
    assert names == {path.name for path in (tmp_path / "machine-1" / "lent-out" / "lent" / "files").iterdir()}
    assert all(files_module.digest_of_file(seen / name) == name for name in names)


def test_what_lies_in_a_shared_folder_is_looked_at(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path / "cache"))
    good, bad = files_module.digest_of(b"as it is"), files_module.digest_of(b"as it was")
    assert not files_module.take_shared(good)
    monkeypatch.setenv(files_module.SHARED, str(tmp_path))
    files_module.share(good, b"as it is")
    (tmp_path / bad).write_bytes(b"changed since")
    os.mkfifo(tmp_path / ("0" * 40))
    assert files_module.take_shared(good) and files_module.has(good)
    assert not files_module.take_shared(bad) and not files_module.has(bad)
    assert not files_module.take_shared("0" * 40)
    # What is not good there comes over the network.
    asked: list[str] = []

    def fetch(digest: str, start: int) -> bytes:
        asked.append(digest)
        return b"" if start else b"as it was"

    assert files_module.bring([good, bad], fetch) == len(b"as it was") and set(asked) == {bad}
    # A folder that may not be written to, or is gone, is as none.
    monkeypatch.setenv(files_module.SHARED, str(tmp_path / "gone"))
    files_module.share(good, b"as it is")
    assert files_module.shared() is None


def journal(out: Path) -> list[dict[str, Any]]:
    return [json.loads(line) for line in (out.parent / "job" / "journal.jsonl").read_text().splitlines()]


@pytest.mark.slow
@pytest.mark.parametrize("most", [2, 6])
def test_machines_and_head_are_killed_and_nothing_is_lost_or_twice(
    cluster: Cluster, written: Path, alone: Path, tmp_path: Path, most: int
) -> None:
    """most : a machine that is slow today would never come to its end between two kills."""
    out, dice = tmp_path / "out", random.Random(5)
    process = subprocess.Popen(
        head(cluster, written, out), stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
    )
    began, kills, headless = time.monotonic(), 0, False
    while process.poll() is None or not headless:
        assert time.monotonic() - began < 900
        time.sleep(2.5)
        if headless and kills >= most:
            continue
        number = dice.randrange(3)
        cluster.workers[number].kill()
        cluster.workers[number].wait()
        cluster.workers[number].stdout.close()
        cluster.workers[number] = cluster.worker(number)
        kills += 1
        if not headless and (kills == 2 or process.poll() is not None):
            process.kill()
            process.wait()
            headless = True
            process = subprocess.Popen(
                head(cluster, written, out, "--resume"), stdout=subprocess.DEVNULL, stderr=subprocess.PIPE
            )
    assert process.wait() == 0, process.stderr.read() if process.stderr else ""
    if process.stderr:
        process.stderr.close()
    assert kills >= 2
    assert unlike(files_of(alone), files_of(out)) == []
    pieces = [event["file"] for event in journal(out) if event["event"] == "piece"]
    assert len(pieces) == len(set(pieces)) == 7


def test_nothing_but_orders_is_done(cluster: Cluster, tmp_path: Path) -> None:
    ran = tmp_path / "ran"
    script = f"""
import distributed, os, sys, pathlib
client = distributed.Client({cluster.address!r}, timeout=600)
tried = []
def attempt(what):
    try:
        what()
        tried.append("did")
    except BaseException as error:
        tried.append(type(error).__name__)
attempt(lambda: client.submit(os.system, "touch {ran}").result(timeout=30))
attempt(lambda: client.submit(lambda: pathlib.Path({str(ran)!r}).touch()).result(timeout=30))
attempt(lambda: client.run(os.system, "touch {ran}"))
attempt(lambda: client.run_on_scheduler(os.system, "touch {ran}"))
module = pathlib.Path({str(tmp_path / "odd.py")!r}); module.write_text("import os; os.system('touch {ran}')")
attempt(lambda: client.upload_file(str(module)))
print(tried)
os._exit(0)
"""
    done = subprocess.run(
        [sys.executable, "-c", script], capture_output=True, text=True, timeout=600, check=False
    )
    assert "did" not in done.stdout and done.stdout.count("'") == 10, (done.stdout, done.stderr[-500:])
    assert not ran.exists()
    # And it still does what it should.
    fleet = Fleet(cluster.address)
    try:
        assert len(_machines(fleet, 3)) == 3
        future = fleet.client.submit(
            do_piece, b"no order", key="altana-none", resources={kind(): 1}, pure=False
        )
        assert "cannot be read" in pieces_module.read_result(future.result(timeout=600)).refused
    finally:
        fleet.close()


def _machines(fleet: Fleet, count: int) -> list[str]:
    until = time.monotonic() + WAIT_S
    while len(fleet.machines()[0]) < count and time.monotonic() < until:
        time.sleep(0.2)
    return fleet.machines()[0]


def test_a_machine_of_another_kind_is_told_and_not_used(cluster: Cluster) -> None:
    fleet = Fleet(cluster.address)
    try:
        assert len(_machines(fleet, 3)) == 3
        fleet.kind = "altana-9.9.9-other"
        assert fleet.machines() == ([], ["machine-1", "machine-2", "machine-3"])
    finally:
        fleet.close()


@pytest.mark.slow
def test_encrypted_with_certificates_of_our_own(
    written: Path, alone: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    certificates = tmp_path / "certificates"
    make_certificates(certificates)
    assert (certificates / "machine.key").stat().st_mode & 0o077 == 0
    with pytest.raises(UserError, match="There are certificates"):
        make_certificates(certificates)
    cluster = Cluster(tmp_path, more=("--certificates", str(certificates)))
    try:
        cluster.start(1)
        assert cluster.address.startswith("tls://")
        out = tmp_path / "out"
        words = [*head(cluster, written, out), "--certificates", str(certificates)]
        words[words.index("--shots")] = "--shot"
        words.insert(words.index("--shot") + 1, "1")
        done = subprocess.run(words, capture_output=True, text=True, timeout=600, check=False)
        assert done.returncode == 0, done.stderr
        files = files_of(out)
        assert unlike(files, {name: files_of(alone)[name] for name in files}) == []
        monkeypatch.setattr(fleet_module, "ANSWER_S", 4)
        others = tmp_path / "others"
        make_certificates(others)
        with pytest.raises(UserError, match="No scheduler answers"):
            Fleet(cluster.address, others)
    finally:
        cluster.end()


@pytest.mark.slow
def test_a_scheduler_that_goes_ends_the_run_with_a_sentence_and_it_is_resumed(
    written: Path, alone: Path, tmp_path: Path
) -> None:
    cluster = Cluster(tmp_path)
    cluster.start(1)
    out = tmp_path / "out"
    process = subprocess.Popen(
        head(cluster, written, out), stdout=subprocess.DEVNULL, stderr=subprocess.PIPE, text=True
    )
    until = time.monotonic() + WAIT_S
    while not list(out.rglob("*.png")) and time.monotonic() < until:
        time.sleep(0.1)
    cluster.end()
    said = process.communicate(timeout=600)[1]
    assert process.returncode == 1
    assert said.strip().splitlines()[-1].startswith("The scheduler is gone. What was finished is kept;"), (
        said[-400:]
    )
    assert "Traceback" not in said
    again = [
        word for word in head(cluster, written, out, "--resume") if word not in ("--on", cluster.address)
    ]
    assert subprocess.run(again, capture_output=True, check=False, timeout=600).returncode == 0
    assert unlike(files_of(alone), files_of(out)) == []


def test_a_machine_is_not_lent_with_too_little_memory() -> None:
    done = subprocess.run(
        [*ALTANA, "worker", "127.0.0.1:9", "--memory", "0.2"],
        capture_output=True,
        text=True,
        timeout=600,
        check=False,
    )
    assert (done.returncode, done.stderr) == (1, "0.2 GB is outside 1 to 100 000. Nothing was begun.\n")


@pytest.mark.slow
def test_nobody_there_is_one_sentence(written: Path, tmp_path: Path) -> None:
    done = subprocess.run(
        [*ALTANA, "render", str(written), "--shots", "--out", str(tmp_path / "out"), "--on", "127.0.0.1:9"],
        capture_output=True, text=True, timeout=600, check=False,
    )  # fmt: skip
    assert done.returncode == 1
    assert (
        done.stderr.strip()
        .splitlines()[-1]
        .startswith("No scheduler answers at tcp://127.0.0.1:9. Nothing was begun.")
    )
    both = subprocess.run(
        [*ALTANA, "render", str(written), "--shots", "--out", "x", "--on", "127.0.0.1:9", "--machines", "2"],
        capture_output=True, text=True, timeout=600, check=False,
    )  # fmt: skip
    assert both.returncode == 2


# ---------------------------------------------------------------------- planning


def test_the_simulation_is_list_scheduling() -> None:
    pieces = [Cost(10.0)] * 8
    own = 8 * 0.0065
    assert simulate(pieces, 1).seconds == pytest.approx(80.0 + 0.0065)
    assert simulate(pieces, 4).seconds == pytest.approx(20.0 + 4 * 0.0065)
    assert simulate(pieces, 100).seconds == pytest.approx(10.0 + own)
    assert simulate(pieces, 4, start_s=5.0).seconds == pytest.approx(25.0 + 4 * 0.0065)
    # Where the network decides, machines do not help.
    heavy = [Cost(1.0, 1.1e9)] * 10
    assert simulate(heavy, 10).seconds > 100.0
    assert simulate(heavy, 10).busy < 0.02


@pytest.mark.slow
def test_a_plan_is_told(short: Project, demo_opened: Opened, written: Path, tmp_path: Path) -> None:
    plan = plan_of(request_of(short, demo_opened).items, request_of(short, demo_opened))
    took = list(plan.seconds.values())
    assert plan.pieces >= 12 and took[0] > took[1] >= took[2]
    assert plan.enough in plan.seconds
    done = subprocess.run(
        [*ALTANA, "render", str(written), "--shots", "--out", str(tmp_path / "out"), "--plan-machines", "--json"],
        capture_output=True, text=True, timeout=600, check=True,
    )  # fmt: skip
    facts = json.loads(done.stdout)
    assert facts["pieces"] == plan.pieces and facts["seconds"]["2"] < facts["seconds"]["1"]
    assert not (tmp_path / "out").exists()
