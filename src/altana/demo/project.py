"""The demo project: cameras inside and out, a walk up the stair, and views around the tower."""

from __future__ import annotations

import math
from dataclasses import replace
from pathlib import Path

from altana.core.camera.pose import direction_to
from altana.core.camera.wall_cut import WallCut
from altana.core.conventions import SEATED_M, STANDING_M, Vec3
from altana.core.edits.cameras import add_camera, set_camera
from altana.core.edits.formats import add_format, choose_format
from altana.core.edits.left_out import leave_out
from altana.core.edits.planned import plan_shot
from altana.core.edits.settings import set_many
from altana.core.edits.shots import add_shots, list_cameras, start_values
from altana.core.edits.variants import set_ladder
from altana.core.edits.walks import add_walk
from altana.core.light.study import Study, add_study
from altana.core.naming import size_for_print
from altana.core.project import (
    FILM,
    KEYED,
    LINES,
    PANORAMA,
    PENCIL,
    STILL,
    TRANSPARENT,
    Camera,
    Light,
    ModelRef,
    Project,
    Shot,
    Style,
    Tone,
    Turntable,
    Walk,
    WalkKey,
)
from altana.core.styles import style_named
from altana.demo.larkwater import LANDING_M, terminal
from altana.demo.site import GALLERY_M, LOOKOUT_M, QUAY_M
from altana.storage.files import make_folder
from altana.storage.project_file import write_project

MODEL_GLB, MODEL_IFC, DRAWING, PROJECT = (
    "larkwater.glb",
    "larkwater.ifc",
    "larkwater-site.dxf",
    "larkwater.altana",
)
#: The turntable's worth of views: around the tower's middle, at this radius.
AROUND, AROUND_RADIUS_M, AROUND_COUNT = (1.0, 8.0), 52.0, 8


def _looking(eye: Vec3, aim: Vec3, **values: object) -> Camera:
    heading, tilt, distance = direction_to(eye, aim)
    camera = Camera("", "", eye, heading, tilt, aim_m=distance)
    return replace(camera, **values)  # type: ignore[arg-type]


def _cameras() -> list[Camera]:
    return [*_inside(), *_outside()]


def _inside() -> list[Camera]:
    stand = STANDING_M
    cafe = GALLERY_M + SEATED_M
    inside = {"inside": True, "focal_mm": 24.0}
    return [
        _looking(
            (7.0, 1.3, stand),
            (7.0, 12.0, stand),
            name="Waiting hall to the water",
            ev=10.9,
            **inside,
            intent="The lake belongs to everybody who waits.",
        ),
        _looking((13.2, 16.6, stand), (4.0, 6.0, stand), name="Hall from the quay doors", ev=10.9, **inside),
        replace(
            _looking((0.75, 9.3, stand), (2.0, 12.0, stand), name="Ticket office", ev=7.4, **inside),
            focal_mm=18.0,
            intent="Small, but with a view of everyone who comes in.",
        ),
        replace(
            _looking((1.1, 16.9, cafe), (3.4, 8.0, cafe), name="Gallery, seated", ev=10.6, **inside),
            focal_mm=28.0,
        ),
        _looking(
            (1.3, 2.1, LANDING_M + stand),
            (6.0, 9.0, LANDING_M + stand),
            name="Stair landing",
            ev=10.4,
            **inside,
        ),
        replace(
            _looking(
                (-8.4, 7.4, LOOKOUT_M + stand),
                (-4.0, 13.0, LOOKOUT_M + stand),
                name="Lookout",
                ev=12.2,
                **inside,
            ),
            focal_mm=24.0,
        ),
    ]


def _outside() -> list[Camera]:
    quay = QUAY_M + STANDING_M
    return [
        _looking(
            (12.0, -21.0, quay), (2.0, 4.0, quay), name="Forecourt", focal_mm=28.0, ev=13.4, rise_mm=4.2
        ),
        replace(
            _looking(
                (1.2, -10.5, quay), (-6.5, 9.5, 10.2), name="Tower from the forecourt", focal_mm=24.0, ev=13.5
            ),
            width_px=1080,
            height_px=1350,
            format_name="Tall 4:5",
            intent="The tower is what one sees from the town.",
        ),
        _looking(
            (-12.5, 24.8, quay), (6.0, 20.0, quay), name="Quay, morning", focal_mm=28.0, ev=13.4, rise_mm=2.6
        ),
        _looking(
            (26.0, 26.0, quay),
            (8.0, 17.0, quay),
            name="Glass front from the quay",
            focal_mm=28.0,
            ev=13.4,
            rise_mm=2.6,
        ),
    ]


def _around() -> list[Camera]:
    views = []
    for number in range(AROUND_COUNT):
        angle = 2.0 * math.pi * number / AROUND_COUNT + math.radians(18.0)
        eye = (
            AROUND[0] + AROUND_RADIUS_M * math.sin(angle),
            AROUND[1] + AROUND_RADIUS_M * math.cos(angle),
            13.0,
        )
        views.append(
            _looking(
                eye,
                (AROUND[0], AROUND[1], 9.2),
                name=f"Around the terminal {number + 1}",
                focal_mm=32.0,
                ev=13.4,
            )
        )
    return views


def _cut_away() -> list[Camera]:
    """Cameras that see past walls: from behind the ticket office's front, and through the hall's glass at an
    angle."""
    office_front, glass_inside = 2.195, 18.065
    office = replace(
        _looking(
            (3.52, 10.8, STANDING_M),
            (0.02, 10.8, STANDING_M),
            name="Ticket office, from behind its front",
            focal_mm=35.0,
            ev=5.6,
        ),
        inside=True,
        near_m=3.52 - office_front,
        near_at=(office_front, 10.8, STANDING_M),
        intent="All of the shelves, which no lens inside can hold.",
    )
    glass = WallCut(
        (9.83, glass_inside, 1.5), 180.0, 4.169, 9.829, 1.499, 5.679, depth_m=0.35, name="Glass front frame"
    )
    past = replace(
        _looking(
            (16.0, 27.0, 1.5), (4.53, 10.62, 1.5), name="Hall past the glass front", focal_mm=24.0, ev=12.2
        ),
        wall_cuts=(glass,),
        intent="The hall as the ferry sees it, without reflections.",
    )
    return [office, past]


def _walk() -> Walk:
    """In through the quay doors, across the hall, up the stair by the landing and along the gallery."""
    eye = STANDING_M
    up = GALLERY_M + eye
    places = (
        ((8.8, 16.6, eye), 205.0),
        ((6.2, 13.2, eye), 192.0),
        ((5.4, 9.0, eye), 192.0),
        ((4.1, 6.6, eye), 200.0),
        ((3.0, 5.6, eye), 205.0),
        ((3.0, 3.0, LANDING_M + eye), 242.0),
        ((2.2, 2.0, LANDING_M + eye), 278.0),
        ((1.3, 2.9, LANDING_M + eye), 316.0),
        ((1.3, 5.0, up), 355.0),
        ((2.2, 6.6, up), 372.0),
        ((2.1, 8.8, up), 380.0),
        ((2.3, 12.0, up), 386.0),
        ((2.6, 15.0, up), 395.0),
    )
    keys = tuple(WalkKey(place, heading % 360.0, 0.0, 24.0, 10.7) for place, heading in places)
    return Walk("", "Up the stair to the gallery", keys, seconds=24.0, rate="25", looking=KEYED)


def _round() -> Walk:
    """Once round the terminal, over the trees."""
    table = Turntable(
        (AROUND[0], AROUND[1], 9.2), AROUND_RADIUS_M, 13.0, start_deg=200.0, focal_mm=32.0, ev=13.4
    )
    return Walk("", "Round the terminal", (), seconds=9.6, rate="25", turntable=table)


def _kept(project: Project) -> Project:
    """Formats, tries, marks and planned shots, as they gather on a project that is worked on."""
    hall = project.camera_named("Waiting hall to the water").id
    for name, width, height in (("Square 1:1", 1080, 1080), ("Tall 9:16", 1080, 1920)):
        project = add_format(project, hall, name, width, height)
    project = choose_format(project, hall, 0)
    project = set_camera(project, hall, note="Morning light; the benches lead to the lake.", done=True)
    project = set_many(project, [project.camera_named("Glass front from the quay").id], locked=True)
    around = [camera.id for camera in project.cameras if camera.name.startswith("Around the terminal")]
    project = set_many(project, around, group="Turntable stills")
    lookout = project.camera_named("Lookout").id
    project = set_ladder(project, lookout, "lens")
    quay = project.camera_named("Quay, morning").id
    project = leave_out(project, [quay], "categories", "Vessel")
    for intent in (
        "Arriving by ferry: the terminal seen from the water",
        "A child's view of the ticket counter",
    ):
        project, _ = plan_shot(project, intent)
    return _listed(replace(project, own_heights_m=(1.5, 1.65)))


#: The lamps of the hall, against the sun of the day.
DUSK_EV = 6.0


def _listed(project: Project) -> Project:
    """The shot list: stills in three formats, a print, drawings, a transparent picture, panoramas, turntable
    and walk."""

    def camera(name: str) -> str:
        return project.camera_named(name).id

    hall, tower = camera("Waiting hall to the water"), camera("Tower from the forecourt")
    walk, round_ = (
        project.walk_named(name).id for name in ("Up the stair to the gallery", "Round the terminal")
    )

    rows = [
        *_listed_stills(project),
        start_values(project, PANORAMA, hall),
        replace(
            start_values(project, PANORAMA, camera("Gallery, seated")),
            stereo_m=0.064,
            width_px=2048,
            pattern="{order}-{camera}-stereo",
        ),
    ]
    films = [start_values(project, FILM, round_), replace(start_values(project, FILM, walk), strip_every=25)]
    # The two cameras that were put in the list while they were composed come first.
    listed = add_shots(list_cameras(project, [hall, tower]), rows)
    return add_shots(add_study(listed, camera("Forecourt"), Study(9.0, 17.0, 4.0)), films)


def _listed_stills(project: Project) -> list[Shot]:
    """Two further formats, a print, drawings, a transparent picture, and the hall at dusk."""

    def still(name: str, **values: object) -> Shot:
        subject = project.camera_named(name).id
        return replace(start_values(project, STILL, subject), **values)  # type: ignore[arg-type]

    hall = "Waiting hall to the water"
    return [
        still(hall, format_index=1),
        still(hall, format_index=2),
        still(
            "Glass front from the quay",
            file="tif",
            dpi=600.0,
            width_px=size_for_print(150.0, 600.0),
            pattern="{order}-{camera}-print",
        ),
        still(
            "Forecourt",
            rendition=LINES,
            folder="drawings",
            style=Style(hidden=False),
            keep_master=False,
            pattern="{order}-{camera}-lines",
        ),
        still(
            "Stair landing",
            rendition=PENCIL,
            style=style_named("Soft pencil"),
            folder="drawings",
            keep_master=False,
            pattern="{order}-{camera}-pencil",
        ),
        still("Quay, morning", background=TRANSPARENT, file="png16", pattern="{order}-{camera}-cut-out"),
        # Half an hour after sunset, with the hall's lamps lit.
        still(
            hall,
            hour=21.8,
            lamps=True,
            tone=Tone(exposure_ev=DUSK_EV, glow=0.15),
            quality="final",
            samples=24,
            folder="stills/dusk",
            pattern="{order}-{camera}-dusk",
        ),
    ]


def demo_project(model: str = MODEL_GLB) -> Project:
    """The project without its files."""
    project = Project(
        name="Larkwater ferry terminal",
        models=(ModelRef("model-01", model), ModelRef("model-02", DRAWING)),
        light=Light(latitude_deg=47.5, longitude_deg=9.4, utc_offset_h=2.0, date="2026-06-21", hour=10.2),
    )
    for camera in (*_cameras(), *_around(), *_cut_away()):
        project, _ = add_camera(project, camera)
    project, _ = add_walk(project, _walk())
    project, _ = add_walk(project, _round())
    return _kept(project)


def write_demo(folder: Path) -> Path:
    """Write both model files and the project; the project's path.  Raises UserError."""
    # Loaded here only: the window asks this module for names at every start.
    from altana.demo.write_dxf import write_dxf
    from altana.demo.write_glb import write_glb
    from altana.demo.write_ifc import write_ifc

    make_folder(folder)
    elements = terminal()
    write_glb(folder / MODEL_GLB, elements)
    write_ifc(folder / MODEL_IFC, elements)
    write_dxf(folder / DRAWING)
    write_project(folder / PROJECT, demo_project())
    return folder / PROJECT
