"""One way of making: the same bytes however a picture is asked for; what was made is known, and so is what is
out of date."""

from __future__ import annotations

import json
import shutil
from dataclasses import replace
from itertools import product
from pathlib import Path

import pytest

from altana.core.edits.shots import add_shots, change_shots, start_values
from altana.core.project import (
    BACKGROUNDS,
    LINES,
    MATERIALS,
    NO_TONE,
    PAPER,
    PENCIL,
    PICTURE,
    RENDITIONS,
    SKY,
    STILL,
    TRANSPARENT,
    WHITE_CARD,
    Project,
    Tone,
)
from altana.jobs.added import Added, add_order
from altana.jobs.batch import Batch
from altana.jobs.finished import RunBooks
from altana.jobs.item_files import ItemFiles
from altana.jobs.job_files import ORDER_FILE, OUT_FILE
from altana.jobs.made import changed_since, models_digest, outdated_rows, states_of
from altana.jobs.models import Opened
from altana.jobs.requests import request_for
from altana.jobs.run import Run
from altana.jobs.shotlist import rows_of, shot_request, trial
from altana.storage.made import ASIDE, FILE, MadeFile, all_made, note_made

WARM = Tone(exposure_ev=0.6, contrast=0.2, white_k=5200.0)
#: A few that meet every drawing style, background and tone; the rest in `--slow`.
FEW = [
    (MATERIALS, SKY, NO_TONE),
    (MATERIALS, TRANSPARENT, WARM),
    (WHITE_CARD, PAPER, WARM),
    (LINES, SKY, NO_TONE),
    (PENCIL, TRANSPARENT, NO_TONE),
]
ALL = [
    pytest.param(*item, marks=[] if item in FEW else [pytest.mark.slow])
    for item in product(RENDITIONS, [name for name in BACKGROUNDS if name != PICTURE], (NO_TONE, WARM))
]


@pytest.fixture
def base(tmp_path: Path, demo_files: Path, demo_project: Project) -> Path:
    """A folder that stands for the project's: its models are the demo's."""
    for item in demo_project.models:
        path = tmp_path / "project" / item.path
        path.parent.mkdir(parents=True, exist_ok=True)
        shutil.copyfile(demo_files / item.path, path)
    return tmp_path / "project"


@pytest.fixture
def one_row(demo_project: Project) -> Project:
    camera = demo_project.camera_named("Tower from the forecourt")
    small = replace(camera, width_px=64, height_px=80, format_index=0, formats=())
    bare = replace(demo_project, shots=(), cameras=(small, *demo_project.cameras[:2]))
    return add_shots(bare, [replace(start_values(bare, STILL, camera.id), quality="proof")])


def run_of(
    request: object, opened: Opened, out: Path, base: Path | None = None, job: Path | None = None
) -> Run:
    run = Run(request, opened, out, job)  # type: ignore[arg-type]
    run.base = base
    run.go()
    return run


@pytest.mark.parametrize(("rendition", "background", "tone"), ALL)
def test_every_way_to_make_a_picture_gives_the_same_bytes(
    rendition: str, background: str, tone: Tone, one_row: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    shot = one_row.shots[0].id
    project = change_shots(one_row, [shot], rendition=rendition, background=background, tone=tone)
    camera = project.cameras[0]
    listed = run_of(shot_request(rows_of(project), project), demo_opened, tmp_path / "list")
    direct = request_for(project, (camera,), (), None, None, "proof", "png")
    straight = run_of(direct, demo_opened, tmp_path / "direct")
    # As a row without a master, and one of another name.
    other = change_shots(project, [shot], keep_master=False, pattern="another", folder="")
    again = run_of(shot_request(rows_of(other), other), demo_opened, tmp_path / "other")
    pictures = [
        next(path for path in run.written if path.suffix == ".png").read_bytes()
        for run in (listed, straight, again)
    ]
    assert pictures[0] == pictures[1] == pictures[2]
    if rendition == MATERIALS:
        card = replace(
            direct, items=(replace(direct.items[0], shot=replace(direct.items[0].shot, rendition=LINES)),)
        )  # type: ignore[type-var, arg-type]
        assert next(iter(run_of(card, demo_opened, tmp_path / "card").written)).read_bytes() != pictures[0]


def test_what_was_made_is_current_until_something_it_shows_is_another(
    one_row: Project, demo_opened: Opened, base: Path, tmp_path: Path
) -> None:
    def request(project: Project) -> object:
        return replace(shot_request(rows_of(project), project), of="x.altana")

    out = base / "delivery"
    run_of(request(one_row), demo_opened, out, base)
    run_of(replace(trial(rows_of(one_row), one_row), of="x.altana"), demo_opened, out, base)
    camera = one_row.cameras[0]
    straight = request_for(one_row, (camera,), (), None, None, "proof", "png")
    run_of(replace(straight, of="x.altana"), demo_opened, tmp_path / "elsewhere", base)

    def changed(project: Project) -> list[tuple[str, ...]]:
        return [parts for _, parts in states_of(project, rows_of(project), base, "x.altana")]

    assert changed(one_row) == [(), (), ()]
    records = list(all_made(base).values())
    assert [item.way for item in records] == ["list", "test", "direct"]
    assert records[0].file.startswith("delivery/stills/") and Path(records[2].file).is_absolute()
    assert all(item.path(base).is_file() and item.took_s > 0 for item in records)
    # What changes no picture leaves all current.
    noted = replace(camera, note="seen", name="Tower", intent="x", guides=(), done=True)
    assert changed(replace(one_row, cameras=(noted, *one_row.cameras[1:]), name="Other")) == [(), (), ()]
    assert changed(change_shots(one_row, ["shot-01"], note="x", keep_master=False)) == [(), (), ()]
    moved = replace(camera, eye=(camera.eye[0], camera.eye[1] + 0.1, camera.eye[2]))
    shot = [one_row.shots[0].id]
    for project, part in (
        (replace(one_row, cameras=(moved, *one_row.cameras[1:])), "camera"),
        (replace(one_row, light=replace(one_row.light, hour=8.0)), "light"),
        (replace(one_row, tone=WARM), "tone"),
        (change_shots(one_row, shot, rendition=PENCIL), "how it is drawn"),
    ):
        assert changed(project) == [(part,)] * 3, part
    # A row's own size and quality are its own matter: what was asked for otherwise stays as it was asked for.
    assert changed(change_shots(one_row, shot, quality="review")) == [("quality",), (), ()]
    assert changed(change_shots(one_row, shot, width_px=96)) == [("size",), ("size",), ()]
    gone = replace(one_row, shots=())
    assert changed(gone)[:2] == [("its row",), ("its row",)]
    # Another model behind the same name.
    path = base / one_row.models[0].path
    content = path.read_bytes()
    path.unlink()
    path.write_bytes(content + b" ")
    assert changed(one_row) == [("model",)] * 3


def test_rows_that_are_missing_or_out_of_date_are_found(
    one_row: Project, demo_opened: Opened, base: Path
) -> None:
    second = add_shots(
        one_row, [replace(one_row.shots[0], id="", subject=one_row.cameras[1].id, width_px=64)]
    )
    out, rows = base / "delivery", rows_of(second)
    models = models_digest(second, base)

    def late(project: Project) -> list[str]:
        return [
            row.shot.id for row in outdated_rows(project, rows_of(project), out, base, all_made(base), models)
        ]

    assert late(second) == ["shot-01", "shot-02"]
    run_of(replace(shot_request(rows[:1], second), of="x.altana"), demo_opened, out, base)
    assert late(second) == ["shot-02"]
    run_of(replace(shot_request(rows[1:], second, "review"), of="x.altana"), demo_opened, out, base)
    # Made in another quality than the row's own it is not what the row asks for.
    assert late(second) == ["shot-02"]
    run_of(replace(shot_request(rows[1:], second), of="x.altana"), demo_opened, out, base)
    assert late(second) == []
    assert late(replace(second, light=replace(second.light, haze=0.5))) == ["shot-01", "shot-02"]
    (out / rows[0].file).unlink()
    assert late(second) == ["shot-01"]
    assert late(change_shots(second, ["shot-01"], on=False)) == []


def test_a_row_that_fails_is_in_the_list_with_its_reason(
    one_row: Project, demo_opened: Opened, base: Path
) -> None:
    bad = change_shots(one_row, ["shot-01"], background=PICTURE, background_file="nowhere.png")
    request = replace(shot_request(rows_of(bad), bad), of="x.altana")
    run = run_of(request, demo_opened, base / "delivery", base)
    ((name, sentence),) = run.aside.items()
    (record,) = all_made(base).values()
    assert (record.state, record.sentence) == (ASIDE, sentence) and record.file.endswith(name)
    assert changed_since(record, bad, rows_of(bad), models_digest(bad, base)) == ()


def test_a_list_of_what_was_made_that_is_damaged_loses_only_its_bad_lines(
    base: Path, one_row: Project
) -> None:
    def made(file: str, took_s: float) -> MadeFile:
        return MadeFile(file, "x.altana", "made", 1.0, took_s, "n", "list", one_row.shots[0], 4, 4)

    note_made(base, made("a.png", 1.0))
    with (base / FILE).open("ab") as file:
        file.write(b'{"file": 3}\n\xff\xfe\n[1]\n')
    note_made(base, made("b.png", 2.0))
    note_made(base, made("a.png", 3.0))
    assert [(item.file, item.took_s) for item in all_made(base).values()] == [("b.png", 2.0), ("a.png", 3.0)]
    assert list(all_made(base, "other.altana")) == []
    # A folder that cannot be written takes nothing, and nothing fails.
    note_made(base / "nowhere", made("a.png", 1.0))
    link = base / "linked"
    link.mkdir()
    (link / FILE).symlink_to(base / "outside.txt")
    note_made(link, made("a.png", 1.0))
    assert not (base / "outside.txt").exists()


# ---------------------------------------------------------------------- rows added to a run


@pytest.fixture
def three_rows(one_row: Project) -> Project:
    ids = [camera.id for camera in one_row.cameras]
    rows = [replace(one_row.shots[0], id="", subject=item, width_px=64, keep_master=False) for item in ids]
    return add_shots(replace(one_row, shots=()), rows)


def batch_of(project: Project, opened: Opened, tmp_path: Path) -> Batch:
    job = tmp_path / "job"
    job.mkdir()
    rows = rows_of(project)
    return Batch(Run(shot_request(rows[:2], project), opened, tmp_path / "out", job), lambda _: opened)


def begun(job: Path) -> list[str]:
    lines = [json.loads(line) for line in (job / "journal.jsonl").read_text().splitlines()]
    return [line["file"] for line in lines if line["event"] == "begin"]


def after_the_first(monkeypatch: pytest.MonkeyPatch, action: object) -> None:
    """Do something once the first piece of a run is made."""
    known, done = RunBooks.note, []

    def noting(self: RunBooks, item: object, seconds: float) -> None:
        known(self, item, seconds)  # type: ignore[arg-type]
        if not done:
            done.append(action())  # type: ignore[operator]

    monkeypatch.setattr(RunBooks, "note", noting)


def test_rows_are_added_to_a_run_that_goes_on(
    three_rows: Project, demo_opened: Opened, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    batch = batch_of(three_rows, demo_opened, tmp_path)
    files = [row.file for row in rows_of(three_rows)]
    job = tmp_path / "job"
    after_the_first(monkeypatch, lambda: add_order(job, three_rows, Added(("shot-03",))))
    batch.go()
    assert begun(job) == files
    assert [
        path.relative_to(tmp_path / "out").as_posix() for path in batch.written if path.suffix == ".png"
    ] == files
    assert not list((job / "more").glob("*.json")) and not batch.aside


@pytest.mark.slow
def test_added_rows_may_go_first_and_nothing_is_made_twice(
    three_rows: Project, demo_opened: Opened, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    batch = batch_of(three_rows, demo_opened, tmp_path)
    files = [row.file for row in rows_of(three_rows)]
    job = tmp_path / "job"

    def add_first() -> None:
        add_order(job, three_rows, Added(("shot-03",), quality="review"))
        (job / ORDER_FILE).write_text(json.dumps([files[2]]))

    after_the_first(monkeypatch, add_first)
    batch.go()
    assert begun(job) == [files[0], files[2], files[1]]
    assert len({path for path in batch.written if path.suffix == ".png"}) == 3


def test_what_is_ordered_again_is_made_once_as_it_was_ordered_last(
    three_rows: Project, demo_opened: Opened, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    batch = batch_of(three_rows, demo_opened, tmp_path)
    files = [row.file for row in rows_of(three_rows)]
    job = tmp_path / "job"
    after_the_first(monkeypatch, lambda: add_order(job, three_rows, Added(("shot-02",), quality="review")))
    batch.go()
    assert begun(job) == files[:2]
    sidecar = tmp_path / "out" / f"{files[1]}.camera.json"
    assert json.loads(sidecar.read_text())["shot"]["quality"] == "review"


def test_rows_are_taken_out_of_a_run_also_the_one_in_hand(
    three_rows: Project, demo_opened: Opened, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    batch = batch_of(three_rows, demo_opened, tmp_path)
    files = [row.file for row in rows_of(three_rows)]
    job = tmp_path / "job"
    after_the_first(monkeypatch, lambda: (job / OUT_FILE).write_text(json.dumps([files[1]])))
    batch.go()
    assert begun(job) == files[:1]
    assert '"out"' in (job / "journal.jsonl").read_text()
    # While it is drawn.
    (job / OUT_FILE).unlink()
    known = ItemFiles.make

    def drawing(self: ItemFiles, item: object, *more: object) -> None:
        (job / OUT_FILE).write_text(json.dumps([item.file]))  # type: ignore[attr-defined]
        known(self, item, *more)  # type: ignore[arg-type]

    monkeypatch.setattr(ItemFiles, "make", drawing)
    again = Batch(
        Run(shot_request(rows_of(three_rows)[1:2], three_rows), demo_opened, tmp_path / "again", job),
        lambda _: demo_opened,
    )
    again.go()
    assert again.written == [] and not list((tmp_path / "again").rglob("*.png"))


def test_an_order_that_cannot_be_read_is_set_aside(
    three_rows: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    batch = batch_of(three_rows, demo_opened, tmp_path)
    job = tmp_path / "job"
    add_order(job, three_rows, Added(("shot-09",)))
    add_order(job, three_rows, Added(("shot-03",)))
    (job / "more" / "0002.altana").write_text("{")
    batch.go()
    assert len(batch.aside) == 2 and "no row" in " ".join(batch.aside.values())
    assert len([path for path in batch.written if path.suffix == ".png"]) == 2
