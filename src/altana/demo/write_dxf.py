"""The demo's site drawing as DXF in millimetres: the boundary, building grid, trees and paths as a surveyor
hands them over."""

from __future__ import annotations

import io
from pathlib import Path

from ezdxf import units
from ezdxf._options import options
from ezdxf.filemanagement import new as new_document

from altana.demo.site import HALL, TOWER
from altana.storage.files import write_atomically

#: The hall's column grid: letters run east, numbers north.
GRID_X = (0.0, 4.5, 9.0, 14.0, 20.0)
GRID_Y = (0.0, 5.4, 9.0, 12.6, 18.0)
BOUNDARY = ((-34.0, -24.0), (34.0, -24.0), (38.0, 19.5), (-34.0, 19.5))
TREES = ((-12.0, -10.0), (-4.0, -14.0), (6.0, -14.0), (16.0, -10.0), (24.0, 2.0), (25.0, 12.0))
WAY = ((2.0, -24.0), (4.0, -12.0), (7.0, -2.0), (7.0, 9.0), (8.5, 17.0), (9.5, 21.5))


def write_dxf(path: Path) -> None:
    """Write the drawing; the same description always gives the same bytes."""
    # Dates and the file's own ids would make every drawing another file.
    options.write_fixed_meta_data_for_testing = True
    document = new_document("R2010", units=units.MM)
    space = document.modelspace()
    for name in ("Boundary", "Grid", "Trees", "Way in"):
        document.layers.add(name)

    def mm(place: tuple[float, float]) -> tuple[float, float]:
        return place[0] * 1000.0, place[1] * 1000.0

    space.add_lwpolyline([mm(p) for p in BOUNDARY], close=True, dxfattribs={"layer": "Boundary"})
    for x in GRID_X:
        space.add_line(mm((x, -2.5)), mm((x, 20.0)), dxfattribs={"layer": "Grid"})
        space.add_circle(mm((x, -3.2)), 700.0, dxfattribs={"layer": "Grid"})
    for y in GRID_Y:
        space.add_line(mm((-2.5, y)), mm((21.5, y)), dxfattribs={"layer": "Grid"})
        space.add_circle(mm((-3.2, y)), 700.0, dxfattribs={"layer": "Grid"})
    for place in TREES:
        space.add_circle(mm(place), 2600.0, dxfattribs={"layer": "Trees"})
    space.add_spline([(*mm(p), 0.0) for p in WAY], dxfattribs={"layer": "Way in"})
    for x0, y0, x1, y1 in (HALL, TOWER):
        space.add_line(mm((x0, y0)), mm((x1, y1)), dxfattribs={"layer": "Grid"})
    # The library adds the classes of what is drawn from a set, whose order is another in every process.
    for name in sorted(document.entitydb.dxf_types_in_use()):
        document.classes.add_class(name)
    text = io.StringIO()
    document.write(text)
    write_atomically(path, text.getvalue().encode())
