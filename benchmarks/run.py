"""Speeds as ratios of two things measured in one run, on the demo model.  Usage: python benchmarks/run.py
[pictures|import|sections|checks|walks|films|shots|live|window|start]

Each figure is the median of several runs taken in turn, so that a machine that slows down slows both.  VTK is
used for one comparison only: pip install vtk==9.7.2.
"""

from __future__ import annotations

import multiprocessing
import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import ifcopenshell
import ifcopenshell.geom
import numpy as np
import trimesh

from altana.core.edits.shots import add_shots, change_shots, list_cameras, start_values
from altana.core.geometry.sections import SortedTriangles
from altana.core.light.sky import sky_of
from altana.core.light.tables import ColourTable
from altana.core.light.tone import developed
from altana.core.model import Model
from altana.core.project import (
    LINES,
    MATERIALS,
    PANORAMA,
    PENCIL,
    USUAL_QUALITIES,
    Project,
    Tone,
    Walk,
    WalkKey,
)
from altana.core.project import STILL as STILL_ROW
from altana.core.staging import Lookup, Staging
from altana.core.standing import standable
from altana.core.walk.sample import resolve, sample
from altana.demo.project import PROJECT, write_demo
from altana.importers.memory import leave_to_the_end
from altana.importers.table import read_model
from altana.jobs.children.pictures import drawn_round
from altana.jobs.film import FilmWork
from altana.jobs.film_encoding import Encoding
from altana.jobs.light import light_of
from altana.jobs.looking import Checker
from altana.jobs.models import open_project_models
from altana.jobs.picture import PictureWork
from altana.jobs.requests import Film, Part, Picture, Request, request_for
from altana.jobs.rows.shared import Rows, quality_of
from altana.jobs.run import Run
from altana.jobs.shotlist import rows_of, shot_request
from altana.render.encode import write_film
from altana.render.panorama import FACES, Place, face_size, face_view
from altana.render.quality import COARSE, FULL, STILL, Quality
from altana.render.renderer import Renderer
from altana.storage import cache
from altana.storage.project_file import read_project

ROOT = Path(__file__).parents[1]
DEMO = ROOT / "build" / "benchmark-demo"


def in_turn(runs: int, **things: Callable[[], object]) -> dict[str, float]:
    """Median seconds of each thing, run A B C A B C …, after one run that does not count."""
    times: dict[str, list[float]] = {name: [] for name in things}
    for number in range(runs + 1):
        for name, thing in things.items():
            started = time.perf_counter()
            thing()
            if number:
                times[name].append(time.perf_counter() - started)
    return {name: statistics.median(values) for name, values in times.items()}


def show(title: str, found: dict[str, float], base: str) -> None:
    """A table with ratios to one of the rows."""
    print(f"\n{title}")
    for name, seconds in found.items():
        print(f"  {name:<34} {seconds * 1000:9.1f} ms   {seconds / found[base]:6.2f} x {base}")


def demo() -> tuple[Project, Path]:
    """The demo, written once."""
    if not (DEMO / PROJECT).is_file():
        write_demo(DEMO)
    return read_project(DEMO / PROJECT), DEMO / PROJECT


def _vtk_picture(model: Model, eye: tuple[float, ...], aim: tuple[float, ...]) -> Callable[[], object] | None:
    try:
        import vtk
        from vtk.util.numpy_support import numpy_to_vtk, numpy_to_vtkIdTypeArray
    except ImportError:
        print("VTK is not installed; its row is left out.")
        return None
    points = vtk.vtkPoints()
    points.SetData(numpy_to_vtk(model.vertices, deep=True))
    cells = vtk.vtkCellArray()
    offsets = np.arange(0, 3 * len(model.faces) + 1, 3, dtype=np.int64)
    cells.SetData(
        numpy_to_vtkIdTypeArray(offsets, deep=True),
        numpy_to_vtkIdTypeArray(model.faces.ravel().astype(np.int64), deep=True),
    )
    data = vtk.vtkPolyData()
    data.SetPoints(points)
    data.SetPolys(cells)
    data.GetPointData().SetNormals(numpy_to_vtk(model.normals, deep=True))
    mapper = vtk.vtkPolyDataMapper()
    mapper.SetInputData(data)
    actor = vtk.vtkActor()
    actor.SetMapper(mapper)
    scene = vtk.vtkRenderer()
    scene.AddActor(actor)
    window = vtk.vtkRenderWindow()
    window.SetOffScreenRendering(1)
    window.SetSize(1280, 720)
    window.AddRenderer(scene)
    camera = scene.GetActiveCamera()
    camera.SetPosition(*eye)
    camera.SetFocalPoint(*aim)
    camera.SetViewUp(0, 0, 1)
    camera.SetViewAngle(45.7)
    camera.SetClippingRange(0.01, 2500)
    pixels = vtk.vtkUnsignedCharArray()

    def draw() -> None:
        camera.Modified()
        window.Render()
        window.GetRGBACharPixelData(0, 0, 1279, 719, 1, pixels)

    return draw


def pictures() -> None:
    """Bare draw : coarse : full : VTK with its default lighting, 1280 x 720."""
    project, path = demo()
    opened = open_project_models(project, path)
    renderer = Renderer(opened.model, light_of(opened, project.light))
    sky = sky_of(project.light)
    for name in ("Waiting hall to the water", "Forecourt"):
        camera = project.camera_named(name)
        view, small = (
            camera.view(1280, 720),
            camera.view(round(1280 / COARSE.divisor), round(720 / COARSE.divisor)),
        )
        things: dict[str, Callable[[], object]] = {
            "bare draw": lambda view=view: renderer.bare(view),
            "coarse while dragging": lambda small=small, c=camera: renderer.picture(
                small, sky, c.ev, COARSE, c.inside
            ),
            "full": lambda view=view, c=camera: renderer.picture(view, sky, c.ev, FULL, c.inside),
        }
        found = in_turn(7, **things)
        # Two OpenGL libraries do not share a process well, so the other one draws in a child, right after.
        with multiprocessing.get_context("spawn").Pool(1) as pool:
            plain = pool.apply(_vtk_seconds, (str(path), name))
        if plain:
            found["VTK plain"] = plain
        show(f"Pictures, {name}", found, "bare draw")
    renderer.close()


def _vtk_seconds(path: str, name: str) -> float:
    project = read_project(Path(path))
    camera = project.camera_named(name)
    draw = _vtk_picture(open_project_models(project, Path(path)).model, camera.eye, camera.aim)
    return in_turn(7, draw=draw)["draw"] if draw is not None else 0.0


def _bare_ifc(path: Path) -> None:
    file = ifcopenshell.open(str(path))
    settings = ifcopenshell.geom.settings()
    settings.set("use-world-coords", True)
    iterator = ifcopenshell.geom.iterator(
        settings, file, 1, exclude=["IfcOpeningElement"], geometry_library="hybrid-manifold-opencascade"
    )
    iterator.initialize()
    while iterator.next():
        iterator.get()


def imports() -> None:
    """Import : the bare parser of the same file : reopened from the cache.  As in the process that reads
    files, nothing is given back."""
    leave_to_the_end()
    demo()
    with tempfile.TemporaryDirectory() as folder:
        os.environ["ALTANA_CACHE"] = folder
        for suffix, bare in ((".ifc", _bare_ifc), (".glb", lambda p: trimesh.load(p, process=False))):
            path = DEMO / f"larkwater{suffix}"
            model, others = read_model(path)
            key = cache.model_key(path)
            cache.keep_model(path, key, model, others)
            found = in_turn(
                5,
                **{
                    "bare parser": lambda p=path, b=bare: b(p),
                    "import": lambda p=path: read_model(p),
                    "from the cache": lambda p=path: cache.load_model(p, cache.model_key(p)),
                },
            )
            show(f"Opening larkwater{suffix}", found, "bare parser")
            print(
                f"  from the cache {found['import'] / found['from the cache']:.1f} times faster than the first time"
            )


def sections() -> None:
    """A plan section of the demo, and of half a million triangles against trimesh."""
    project, path = demo()
    model = open_project_models(project, path).model
    plan = SortedTriangles(model.vertices, model.faces, (0.0, 0.0, 1.0))
    whole = trimesh.Trimesh(model.vertices, model.faces, process=False)
    show(
        f"Plan section of the demo, {len(model.faces)} triangles",
        in_turn(
            9,
            altana=lambda: plan.cut(1.2),
            trimesh=lambda: trimesh.intersections.mesh_plane(whole, (0, 0, 1), (0, 0, 1.2)),
        ),
        "altana",
    )
    copies = [model.vertices + np.float32((i * 40, 0, 0)) for i in range(6)]
    faces = np.concatenate([model.faces + np.int32(i * len(model.vertices)) for i in range(6)])
    large = trimesh.Trimesh(np.concatenate(copies), faces, process=False)
    sorted_large = SortedTriangles(np.concatenate(copies), faces, (0.0, 0.0, 1.0))
    show(
        f"Plan section of {len(faces)} triangles",
        in_turn(
            7,
            altana=lambda: sorted_large.cut(1.2),
            trimesh=lambda: trimesh.intersections.mesh_plane(large, (0, 0, 1), (0, 0, 1.2)),
        ),
        "altana",
    )


def checks() -> None:
    """The check of a camera at 640 x 360 against drawing its object numbers alone, and a bound against none
    in a picture."""
    project, path = demo()
    opened = open_project_models(project, path)
    renderer = Renderer(opened.model, light_of(opened, project.light))
    checker, lookup = Checker(opened.model, renderer), Lookup(opened.model)
    # What is found once for a model: bodies, edges, directions, rays.
    started = time.perf_counter()
    checker.check(project.cameras[0].view(), lookup.staging(project, project.cameras[0]), 64)
    print(f"\nKnowing the model, once: {(time.perf_counter() - started) * 1000:.0f} ms")
    single = []
    for camera in project.cameras:
        view, staging = camera.view(), lookup.staging(project, camera)
        small = camera.view(640, round(640 * camera.height_px / camera.width_px))
        things = {
            "check at 640": lambda view=view, staging=staging: checker.check(view, staging, 640),
            "object numbers alone": lambda small=small, staging=staging: renderer.facts(small, staging),
        }
        found = in_turn(3, **things)
        single.append(
            (found["check at 640"], found["check at 640"] / found["object numbers alone"], camera.name)
        )
    times = [item[0] * 1000 for item in single]
    print(
        f"Check of each of {len(single)} cameras: middle {statistics.median(times):.0f} ms, longest {max(times):.0f} ms ({max(single)[2]})"
    )
    print(f"  against its object numbers alone: middle {statistics.median(item[1] for item in single):.2f} x")
    started = time.perf_counter()
    for index in range(50):
        camera = project.cameras[index % len(project.cameras)]
        checker.check(camera.view(), lookup.staging(project, camera), 256)
    print(f"Check all, 50 cameras as the window looks at them: {time.perf_counter() - started:.1f} s")
    hall, sky = project.cameras[0], sky_of(project.light)
    things = {}
    for name, camera in (
        ("no bound", hall),
        ("near bound", replace(hall, near_m=9.0)),
        ("far bound", replace(hall, far_m=12.0)),
    ):
        view = camera.view(1280, 720)
        things[name] = lambda view=view: renderer.picture(view, sky, hall.ev, FULL, True)
    capped = replace(hall, near_m=9.0).view(1280, 720)
    things["near bound, capped"] = lambda: renderer.picture(
        capped, sky, hall.ev, FULL, True, None, Staging(cap=True)
    )
    show("A full picture of the hall, 1280 x 720", in_turn(7, **things), "no bound")


def window() -> None:
    """The longest silence of the window's event loop while a camera is dragged on the plan."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from PySide6.QtCore import QEvent, QEventLoop, QPointF, QSettings, Qt, QTimer
    from PySide6.QtGui import QMouseEvent
    from PySide6.QtWidgets import QApplication

    from altana.app.shell.window import MainWindow
    from altana.app.theme.style import apply_theme

    _, path = demo()
    application = QApplication([])
    apply_theme(application)
    with tempfile.TemporaryDirectory() as folder:
        shown = MainWindow(settings=QSettings(f"{folder}/s.ini", QSettings.Format.IniFormat))
        shown.resize(1280, 800)
        shown.show()
        shown.files.open_path(path)

        def live(seconds: float) -> None:
            loop = QEventLoop()
            QTimer.singleShot(int(seconds * 1000), loop.quit)
            loop.exec()

        live(8)
        ticks: list[float] = []
        pulse = QTimer()
        pulse.setInterval(2)
        pulse.timeout.connect(lambda: ticks.append(time.perf_counter()))
        arrived: list[str] = []
        shown.workspace.studio.picture.connect(
            lambda channel, revision, image, look: arrived.append(look) if channel == "frame" else None
        )
        plan, camera = shown.compose.plan, shown.workspace.state.active
        assert camera is not None
        at = plan.to_screen(*camera.eye[:2])

        def send(kind: QEvent.Type, point: QPointF, pressed: Qt.MouseButton) -> None:
            place = point.toPoint()
            event = QMouseEvent(
                kind,
                QPointF(place),
                QPointF(plan.mapToGlobal(place)),
                pressed,
                Qt.MouseButton.LeftButton,
                Qt.KeyboardModifier.NoModifier,
            )
            application.sendEvent(plan, event)

        send(QEvent.Type.MouseButtonPress, at, Qt.MouseButton.LeftButton)
        pulse.start()
        for number in range(150):
            send(
                QEvent.Type.MouseMove,
                at + QPointF(40 * np.sin(number / 12), 30 * np.sin(number / 9) - 20),
                Qt.MouseButton.NoButton,
            )
            live(0.016)
        pulse.stop()
        send(QEvent.Type.MouseButtonRelease, at, Qt.MouseButton.LeftButton)
        gaps = np.diff(ticks) * 1000
        print("\nDragging a camera on the plan, event loop")
        print(
            f"  longest silence {gaps.max():.1f} ms, 99 % within {np.percentile(gaps, 99):.1f} ms, {arrived.count('coarse')} pictures came meanwhile"
        )
        shown.workspace.bridge.document.mark_saved()
        shown.close()


def walks() -> None:
    """Sampling a walk of 60 places and 36 000 film frames : asking for its cameras one by one."""
    angle = np.linspace(0.0, 8.0 * np.pi, 60)
    keys = tuple(WalkKey((float(20 * np.cos(a) + a), float(20 * np.sin(a)), 1.6)) for a in angle)
    line = resolve(Walk("w", "w", keys, seconds=1200.0, rate="30", ease_in_s=2.0, ease_out_s=2.0), None)
    seconds = sample(line).seconds
    rate = Fraction(30)

    def one_by_one() -> None:
        for moment in seconds[::100]:
            line.at_seconds(np.array([moment]), rate)

    times = in_turn(1, whole=lambda: sample(line), one_by_one=one_by_one)
    print(
        f"walks: {len(seconds)} film frames sampled in {1000 * times['whole']:.0f} ms, one by one {100 * times['one_by_one'] / times['whole']:.0f} x (every 100th taken)"
    )


def films() -> None:
    """A film's whole time against drawing its frames alone and encoding them alone: 50 film frames at 640 x
    360."""
    project, path = demo()
    opened = open_project_models(project, path)
    light = light_of(opened, project.light)
    walk = replace(project.walks[0], width_px=640, height_px=360)
    for quality, seconds in (("proof", 2.0), ("review", 0.4)):
        request = request_for(project, (), (walk,), None, None, quality, "png", part=Part(6.0, 6.0 + seconds))
        (item,) = request.items
        assert isinstance(item, Film)
        renderer = Renderer(opened.model, light)
        made: dict[str, list[float]] = {"drawing alone": [], "encoding alone": [], "drawing and encoding": []}
        for number in range(4):
            with tempfile.TemporaryDirectory() as folder:
                out, frames = Path(folder), Path(folder) / "frames"
                frames.mkdir()
                work = FilmWork(
                    project,
                    quality,
                    item,
                    opened,
                    Lookup(opened.model),
                    renderer,
                    out,
                    lambda share, text: True,
                )
                work.line = resolve(walk, standable(opened.model))
                work.samples, work.light = sample(work.line), None
                times = []
                started = time.perf_counter()
                work._draw(frames, None)
                times.append(time.perf_counter() - started)
                started = time.perf_counter()
                write_film(
                    out / "a.mp4", work.read(frames, item.frames), item.film_rate, 640, 360, "mp4", quality
                )
                times.append(time.perf_counter() - started)
                for picture in frames.iterdir():
                    picture.unlink()
                started = time.perf_counter()
                encoding = Encoding(work, out / "b.mp4", frames)
                work._draw(frames, encoding)
                encoding.wait(lambda share: True)
                times.append(time.perf_counter() - started)
            if number:
                for name, value in zip(made, times, strict=True):
                    made[name].append(value)
        renderer.close()
        found = {name: statistics.median(values) for name, values in made.items()}
        larger = max(found, key=lambda name: found[name] if name != "drawing and encoding" else 0.0)
        show(f"film, {len(item.frames)} film frames at 640 x 360, {quality}", found, larger)


def shots() -> None:
    """A run of the shot list against its bare drawing: eight stills; then single large ones."""
    project, path = demo()
    opened = open_project_models(project, path)
    light = light_of(opened, project.light)
    cameras = [camera.id for camera in project.cameras[:8]]
    listed = change_shots(
        list_cameras(replace(project, shots=()), cameras),
        [f"shot-{n:02d}" for n in range(1, 9)],
        width_px=960,
    )
    request = shot_request(rows_of(listed, opened.model), listed)
    renderer, lookup = Renderer(opened.model, light), Lookup(opened.model)

    def bare() -> None:
        for item in request.items:
            assert isinstance(item, Picture)
            renderer.master(
                item.view(),
                sky_of(project.light),
                quality_of(USUAL_QUALITIES.of("review")),
                item.camera.inside,
                None,
                lookup.staging(listed, item.camera),
            )

    def run() -> None:
        with tempfile.TemporaryDirectory() as out:
            Run(request, opened, Path(out)).go()

    show(
        "shot list, eight stills 960 px wide, review",
        in_turn(2, bare_drawing=bare, whole_run=run),
        "bare_drawing",
    )
    hall = project.cameras[0]
    for name, width, quality in (
        ("still 1920 x 1080, review", 1920, "review"),
        ("still 7680 x 4320, proof", 7680, "proof"),
    ):
        wanted = change_shots(
            list_cameras(replace(project, shots=()), [hall.id]), ["shot-01"], width_px=width, quality=quality
        )
        one = shot_request(rows_of(wanted, opened.model), wanted)
        (item,) = one.items
        assert isinstance(item, Picture)

        def whole(one: Request = one) -> None:
            with tempfile.TemporaryDirectory() as out:
                Run(one, opened, Path(out)).go()

        def drawn(item: Picture = item, quality: str = quality, wanted: Project = wanted) -> None:
            renderer.master(
                item.view(),
                sky_of(project.light),
                quality_of(USUAL_QUALITIES.of(quality)),
                True,
                None,
                lookup.staging(wanted, hall),
            )

        show(name, in_turn(1, bare_drawing=drawn, whole_run=whole), "bare_drawing")
    row = replace(start_values(project, PANORAMA, hall.id), width_px=6000, quality="proof")
    wanted = add_shots(replace(project, shots=()), [row])
    one = shot_request(rows_of(wanted, opened.model), wanted)
    side = face_size(6000)

    def faces() -> None:
        for face in FACES:
            renderer.master(
                face_view(Place(hall.eye, hall.heading_deg), face, side),
                sky_of(project.light),
                quality_of(USUAL_QUALITIES.of("proof")),
                True,
            )

    def panorama() -> None:
        with tempfile.TemporaryDirectory() as out:
            Run(one, opened, Path(out)).go()

    show("panorama 6000 x 3000, proof", in_turn(1, six_faces=faces, whole_run=panorama), "six_faces")
    renderer.close()


def live() -> None:
    """What takes the Frame's place, against the Frame's own pictures; toning with a colour table against
    toning without."""
    project, path = demo()
    opened = open_project_models(project, path)
    renderer = Renderer(opened.model, light_of(opened, project.light))
    camera, sky = project.cameras[0], sky_of(project.light)
    view = camera.view(900, 506)
    small = camera.view(round(900 / COARSE.divisor), round(506 / COARSE.divisor))

    def round_of(width: int, quality: Quality) -> Callable[[], object]:
        return lambda: drawn_round(
            renderer, camera, sky, Staging(), width, replace(quality, divisor=1.0), lambda: True
        )

    show(
        "panorama from here, 512 px while moving and 1024 px at rest, against the Frame 900 x 506",
        in_turn(
            5,
            frame_moving=lambda: renderer.picture(small, sky, camera.ev, COARSE, True),
            round_moving=round_of(512, COARSE),
            frame_resting=lambda: renderer.picture(view, sky, camera.ev, FULL, True),
            round_resting=round_of(1024, FULL),
        ),
        "frame_moving",
    )
    work = PictureWork(Rows(project, opened, Lookup(opened.model), renderer, path.parent))
    looks: dict[str, Callable[[], object]] = {
        "frame_still": lambda: renderer.picture(view, sky, camera.ev, STILL, True)
    }
    for drawn in (MATERIALS, LINES, PENCIL):
        for word in ("proof", "review"):
            shot = replace(start_values(project, STILL_ROW, camera.id), rendition=drawn, quality=word)
            item = Picture(shot, camera, 900, 506, "")
            looks[f"{drawn}_{word}"] = lambda item=item: work.stills.look(item, lambda _: True)  # type: ignore[misc]
    show(
        "as it will be made, 900 x 506, against the Frame at rest (eight passes)",
        in_turn(3, **looks),
        "frame_still",
    )
    master = renderer.master(camera.view(960, 540), sky, STILL, True)
    assert master is not None
    steps = np.linspace(0.0, 1.0, 33, dtype=np.float32)
    grid = np.stack(np.meshgrid(steps, steps, steps, indexing="ij")[::-1], axis=3)
    curve = Tone(curve=((0.3, 0.25), (0.7, 0.8)))
    show(
        "toning 960 x 540",
        in_turn(
            5,
            plain=lambda: developed(master.light, camera.ev),
            with_curve=lambda: developed(master.light, camera.ev, curve),
            with_table=lambda: developed(master.light, camera.ev, table=ColourTable(grid)),
        ),
        "plain",
    )
    renderer.close()


def start() -> None:
    """From pressing Return to the end of a short command, against what Python and NumPy alone take to be
    there."""
    _, path = demo()
    altana = [sys.executable, "-m", "altana"]
    still = [
        "render",
        str(path),
        "--camera",
        "Waiting hall to the water",
        "--size",
        "160x90",
        "--quality",
        "proof",
        "--out",
    ]

    def told(*command: str) -> None:
        subprocess.run(command, check=True, capture_output=True)

    with tempfile.TemporaryDirectory() as folder:
        found = in_turn(
            5,
            bare=lambda: told(sys.executable, "-c", "import numpy, click, msgspec"),
            version=lambda: told(*altana, "--version"),
            inspect=lambda: told(*altana, "inspect", str(path)),
            still=lambda: told(*altana, *still, tempfile.mkdtemp(dir=folder)),
        )
    show("short commands", found, "bare")


PARTS = {
    "pictures": pictures,
    "import": imports,
    "sections": sections,
    "checks": checks,
    "walks": walks,
    "films": films,
    "shots": shots,
    "live": live,
    "window": window,
    "start": start,
}

if __name__ == "__main__":
    for part in sys.argv[1:] or PARTS:
        PARTS[part]()
