"""A camera that sees a building as a plan does: straight down from far above, north of the model up, hardly
any perspective.

What it shows are pictures like any other: plans with shadows are its shade study, in every quality, as stills
and as a film of the day.
"""

from __future__ import annotations

import math

from altana.core.conventions import EV_OUTSIDE, FULL_FRAME_WIDTH_MM
from altana.core.edits.cameras import add_camera
from altana.core.geometry.drawing import PlanDrawing, building_extent
from altana.core.model import Model, Storey
from altana.core.project import Camera, Project
from altana.core.ranges import FOCAL_MM

#: With this lens what stands ten metres high at the rim of sixty metres leans out by 20 cm.
PLAN_FOCAL_MM = 900.0
#: Room for shadows round the building: half as much as it is high, within these, metres.
LEAST_AROUND_M, MOST_AROUND_M = 6.0, 20.0
#: Where a storey's plan is cut, above its floor.
CUT_ABOVE_M = 1.2
LONGEST_PX = 1600
#: Seen from above there is no bright sky in the picture.
BRIGHTER_EV = 0.5
#: What a camera sees is a little more than the building with its shadows.
ROOM = 1.04
FROM_ABOVE, GROUP = "From above", "Plans"


def camera_above(model: Model, drawing: PlanDrawing, storey: Storey | None = None) -> Camera:
    """The camera over a building, or over one of its storeys, cut there.  drawing : a plan of the model, for
    where the building is."""
    low_z, high_z = (float(value) for value in model.bounds[:, 2])
    if any(item.closed for item in drawing.outlines):
        around = min(max((high_z - low_z) / 2, LEAST_AROUND_M), MOST_AROUND_M)
        low, high = building_extent(drawing, around)
    else:
        # Nothing is cut: a thing that is no building, seen as a whole.
        (x0, y0, _), (x1, y1, _) = model.bounds.tolist()
        low, high = (x0, y0), (x1, y1)
    wide, long = (max(b - a, 1.0) * ROOM for a, b in zip(low, high, strict=True))
    share = LONGEST_PX / max(wide, long)
    width, height = (max(16, round(side * share / 2) * 2) for side in (wide, long))
    seen = high_z if storey is None else storey.elevation_m + CUT_ABOVE_M
    # The picture's width fits the sensor's; what is long fits by that.
    across = max(wide, long * width / height)
    away = across * PLAN_FOCAL_MM / FULL_FRAME_WIDTH_MM
    return Camera(
        "",
        FROM_ABOVE if storey is None else f"Plan, {storey.name}",
        ((low[0] + high[0]) / 2, (low[1] + high[1]) / 2, seen + away),
        tilt_deg=-90.0,
        focal_mm=min(PLAN_FOCAL_MM, FOCAL_MM.high),
        width_px=width,
        height_px=height,
        ev=EV_OUTSIDE - BRIGHTER_EV,
        group=GROUP,
        near_m=None if storey is None else away,
        cap=storey is not None,
        aim_m=math.ceil(away),
        format_name="Plan",
        guides=(),
    )


def with_camera(project: Project, camera: Camera) -> tuple[Project, str]:
    """The project with this camera, and its id; one of the same name that sees from above stays as it is.
    Raises Refused."""
    if project.camera(camera.id) is not None:
        return project, camera.id
    for item in project.cameras:
        if item.name == camera.name and item.tilt_deg == camera.tilt_deg:
            return project, item.id
    return add_camera(project, camera)
