"""Changes to what is framed from one place: a camera's formats, their sizes and edges."""

from __future__ import annotations

from dataclasses import replace

from altana.core.edits.cameras import change_camera, checked
from altana.core.errors import Refused
from altana.core.project import Camera, Format, Project

#: Formats named by where the picture goes, width before height in pixels.
DESTINATIONS: tuple[tuple[str, int, int], ...] = (
    ("Screen 16:9", 1920, 1080),
    ("Screen, small", 1280, 720),
    ("Screen 1440p", 2560, 1440),
    ("Screen 4K", 3840, 2160),
    ("Square 1:1", 1080, 1080),
    ("Tall 4:5", 1080, 1350),
    ("Tall 9:16", 1080, 1920),
    ("Wide 2:1", 2000, 1000),
    ("Wide 2.39:1", 2390, 1000),
    ("Photo 3:2", 2160, 1440),
    ("Print A4 300 dpi", 3508, 2480),
    ("Print A3 300 dpi", 4961, 3508),
)
#: Sizes of films.
FILM_SIZES: tuple[tuple[str, int, int], ...] = (
    ("Film, small", 1280, 720),
    ("Film HD", 1920, 1080),
    ("Film 1440p", 2560, 1440),
    ("Film 4K", 3840, 2160),
    ("Cinema 2K", 2048, 1080),
    ("Cinema 4K", 4096, 2160),
    ("Social, square", 1080, 1080),
    ("Social, tall 4:5", 1080, 1350),
    ("Social, tall 9:16", 1080, 1920),
)
#: The longer side of a small test, pixels.
TEST_PX = 640


def in_use(camera: Camera, chosen: Format, index: int) -> Camera:
    """The camera with a format put into its own fields."""
    return replace(
        camera,
        format_name=chosen.name,
        width_px=chosen.width_px,
        height_px=chosen.height_px,
        keep_sensor_height=chosen.keep_sensor_height,
        sensor_width_mm=chosen.sensor_width_mm,
        rise_mm=chosen.rise_mm,
        cross_mm=chosen.cross_mm,
        guides=chosen.guides,
        formats=camera.all_formats,
        format_index=index,
    )


def add_format(project: Project, camera_id: str, name: str, width_px: int, height_px: int) -> Project:
    """Another format of the camera, in use from now on; sensor, shift and guides start as in the one
    before."""

    def change(camera: Camera) -> Camera:
        new_format = replace(camera.format, name=name, width_px=width_px, height_px=height_px)
        formats = (*camera.all_formats, new_format)
        return checked(in_use(replace(camera, formats=formats), new_format, len(formats) - 1))

    return change_camera(project, camera_id, change)


def choose_format(project: Project, camera_id: str, index: int) -> Project:
    """Use another format of the camera; what was changed in the one before is kept there.

    Raises Refused when there is no such format.
    """

    def change(camera: Camera) -> Camera:
        formats = camera.all_formats
        if not 0 <= index < len(formats):
            raise Refused(f"The camera has {len(formats)} formats.")
        return in_use(camera, formats[index], index)

    return change_camera(project, camera_id, change)


def remove_format(project: Project, camera_id: str, index: int) -> Project:
    """Without this format.  Raises Refused for the last one."""

    def change(camera: Camera) -> Camera:
        formats = camera.all_formats
        if len(formats) < 2 or not 0 <= index < len(formats):
            raise Refused("A camera keeps at least one format.")
        left = formats[:index] + formats[index + 1 :]
        following = min(camera.format_index - (index < camera.format_index), len(left) - 1)
        return checked(replace(in_use(camera, left[following], following), formats=left))

    return change_camera(project, camera_id, change)


def resized(camera: Camera, width_px: int, height_px: int, show_more: bool = False, name: str = "") -> Camera:
    """The camera at another size.

    The view across is kept (the sensor's width stays); with ``show_more`` things keep their size in pixels
    and the picture shows more, or less, on all sides.
    """
    sensor = camera.sensor_width_mm * width_px / camera.width_px if show_more else camera.sensor_width_mm
    return checked(
        replace(
            camera,
            width_px=width_px,
            height_px=height_px,
            sensor_width_mm=sensor,
            format_name=name or camera.format_name,
        )
    )


def swapped(camera: Camera) -> Camera:
    """Wide becomes high and back, keeping the longer side's angle of view within the same sensor."""
    return checked(
        replace(camera, width_px=camera.height_px, height_px=camera.width_px, format_name="Own size")
    )


def edge_moved(camera: Camera, side: str, by_px: int) -> Camera:
    """One edge of the frame moved outwards (positive) by pixels, the eye and everything seen staying.

    side : "left", "right", "top" or "bottom".  The sensor grows with the frame and the middle's shift becomes
    rise or cross.  Raises Refused when nothing would be left.
    """
    if camera.keep_sensor_height:
        raise Refused("An edge is moved on a sensor whose width is kept.")
    per_px = camera.sensor_width_mm / camera.width_px
    shift = by_px * per_px / 2
    if side in ("left", "right"):
        return checked(
            replace(
                camera,
                width_px=camera.width_px + by_px,
                sensor_width_mm=camera.sensor_width_mm + by_px * per_px,
                cross_mm=camera.cross_mm + (shift if side == "right" else -shift),
                format_name="Own size",
            )
        )
    if side not in ("top", "bottom"):
        raise Refused("An edge is left, right, top or bottom.")
    return checked(
        replace(
            camera,
            height_px=camera.height_px + by_px,
            rise_mm=camera.rise_mm + (shift if side == "top" else -shift),
            format_name="Own size",
        )
    )


def size_for(width_px: int, height_px: int, **given: float) -> tuple[int, int]:
    """Two of ``width``, ``height`` and ``proportion`` (width over height) are given and the third follows.

    Raises Refused unless exactly two are given, or with a proportion that is not positive.
    """
    if len(given) != 2 or set(given) - {"width", "height", "proportion"}:
        raise Refused("Give two of width, height and proportion.")
    if given.get("proportion", 1.0) <= 0:
        raise Refused("A proportion is more than 0.")
    if "proportion" not in given:
        return round(given["width"]), round(given["height"])
    if "width" in given:
        return round(given["width"]), max(1, round(given["width"] / given["proportion"]))
    return max(1, round(given["height"] * given["proportion"])), round(given["height"])


def fitting(
    width_px: int, height_px: int, within: tuple[float, float], even: bool = False
) -> tuple[int, int]:
    """The largest size of the same proportion that fits into another; with even sides, as films need them."""
    scale = min(within[0] / width_px, within[1] / height_px)
    step = 2 if even else 1
    width, height = (max(16, step * round(side * scale / step)) for side in (width_px, height_px))
    return width, height


def parse_proportion(text: str) -> float:
    """``16:9``, ``2.39:1``, ``4/5`` or ``1.85`` as width over height.  Raises Refused."""
    parts = text.replace("/", ":").replace("×", ":").replace(",", ".").split(":")
    try:
        numbers = [float(part) for part in parts]
        proportion = numbers[0] / numbers[1] if len(numbers) == 2 else numbers[0]
    except (ValueError, ZeroDivisionError, IndexError) as error:
        raise Refused(f"“{text}” is not a proportion; write 16:9 or 2.39:1.") from error
    if len(parts) > 2 or not 0.02 <= proportion <= 50.0:
        raise Refused(f"“{text}” is not a proportion; write 16:9 or 2.39:1.")
    return proportion


def proportion_text(width_px: int, height_px: int) -> str:
    """A proportion as people call it: 16:9, 4:5, 2.39:1."""
    for a, b in ((16, 9), (9, 16), (1, 1), (4, 5), (5, 4), (3, 2), (2, 3), (4, 3), (3, 4), (2, 1), (1, 2)):
        if abs(width_px * b - height_px * a) <= max(a, b) / 2:
            return f"{a}:{b}"
    ratio = width_px / height_px
    return f"{ratio:.2f}:1" if ratio >= 1 else f"1:{1 / ratio:.2f}"
