"""Masters, styles, files and panoramas: what the shot list's rows are drawn with."""

from __future__ import annotations

import io
import struct
import zlib
from dataclasses import replace

import numpy as np
import OpenEXR
import pytest
import tifffile
from PIL import Image

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.geometry.edges import edges_of
from altana.core.light.sky import sky_of
from altana.core.light.tone import developed
from altana.core.model import Model
from altana.core.project import Light, Style
from altana.render.drawing import (
    colour_of,
    hatched,
    ink_of,
    line_drawing,
    marks_of,
    paper_grain,
    pencil_drawing,
    strokes_of,
)
from altana.render.hand import drawn_by_hand
from altana.render.metadata import CAMERA_NS, PANORAMA_NS, PanoramaTags, read_xmp, xmp_packet
from altana.render.outputs import DrawnAs
from altana.render.panorama import (
    FACES,
    Place,
    directions,
    face_size,
    face_view,
    pixel_of,
    slices_of,
    square_of,
    stitched,
)
from altana.render.pictures import Labels, picture_bytes
from altana.render.quality import Quality
from altana.render.renderer import Renderer
from tests.conftest import model_of

FOUR = Quality(passes=4)
VIEW = View(Pose((3.0, 0.6, 1.6), 0.0), Lens(24.0), 160, 90)


@pytest.fixture(scope="module")
def drawn(room: Model):  # type: ignore[no-untyped-def]
    renderer = Renderer(room)
    yield renderer
    renderer.close()


# ---------------------------------------------------------------------- masters


@pytest.mark.parametrize("passes", [1, 4])
def test_a_developed_master_is_the_frames_picture(drawn: Renderer, passes: int) -> None:
    sky = sky_of(Light())
    quality = Quality(passes=passes, divisor=2.5)
    picture = drawn.picture(VIEW, sky, 8.0, quality, True)
    master = drawn.master(VIEW, sky, quality, True, ev=8.0)
    assert picture is not None and master is not None and master.alpha is None
    shown = developed(master.light, 8.0) * 255.0
    # The shader rounds with a grain of half a step.
    assert np.abs(shown - picture).max() <= 1.6
    # Light is what it is, whatever the exposure: only edges against bright things weigh a little differently.
    other = drawn.master(VIEW, sky, quality, True, ev=11.0)
    assert other is not None
    assert np.median(np.abs(other.light - master.light) / np.maximum(master.light, 1.0)) < 2e-3


@pytest.fixture(scope="module")
def post() -> Model:
    """A post before the open sky, and a floor."""
    from altana.core.model import Material
    from tests.conftest import box_between

    wood = Material("Wood", (0.6, 0.3, 0.1, 1.0))
    return model_of(
        ("Post", box_between((2.9, 3.0, 0.0), (3.137, 3.2, 2.513)), wood),
        ("Slab", box_between((-4, -4, -0.3), (10, 6.0, 0.0)), wood),
    )


def test_coverage_lies_where_the_model_is_and_goes_over_evenly_at_edges(post: Model) -> None:
    renderer = Renderer(post)
    try:
        master = renderer.master(VIEW, sky_of(Light()), Quality(passes=16), drawn=DrawnAs(sky=False))
        white = renderer.master(VIEW, sky_of(Light()), FOUR, drawn=DrawnAs(white=True))
        facts = renderer.facts(VIEW)
    finally:
        renderer.close()
    assert master is not None and master.alpha is not None and white is not None
    inside = facts.object_index >= 0
    # Away from edges coverage is whole or none.
    core = np.zeros_like(inside)
    core[1:-1, 1:-1] = (
        inside[1:-1, 1:-1] & inside[:-2, 1:-1] & inside[2:, 1:-1] & inside[1:-1, :-2] & inside[1:-1, 2:]
    )
    assert (master.alpha[core] > 0.999).all()
    out = np.zeros_like(inside)
    outer = ~inside
    out[1:-1, 1:-1] = (
        outer[1:-1, 1:-1] & outer[:-2, 1:-1] & outer[2:, 1:-1] & outer[1:-1, :-2] & outer[1:-1, 2:]
    )
    assert (master.alpha[out] < 0.001).all()
    between = (master.alpha > 0.02) & (master.alpha < 0.98)
    assert between.any()
    # Half-covered pixels hold the colour of what covers them, not of the sky behind it: wood is redder than
    # blue.
    edge = master.light[between]
    assert (edge[:, 0] > edge[:, 2]).mean() > 0.95
    # White card is grey where wood was brown.
    card = white.light[core]
    wood = master.light[core]
    assert np.median(card[:, 0] / card[:, 2]) < 0.6 * np.median(wood[:, 0] / wood[:, 2])


def test_over_five_backgrounds_there_is_no_fringe(post: Model) -> None:
    renderer = Renderer(post)
    try:
        master = renderer.master(VIEW, sky_of(Light()), Quality(passes=16), drawn=DrawnAs(sky=False))
    finally:
        renderer.close()
    assert master is not None and master.alpha is not None
    shown = developed(master.light, 13.0, alpha=master.alpha)
    data = picture_bytes("png", shown, master.alpha, Labels("x"))
    with Image.open(io.BytesIO(data)) as image:
        assert image.mode == "RGBA"
        pixels = image.copy()
    for colour in ("#000000", "#ffffff", "#3a7bd5", "#b4452f", "#7d7d7d"):
        ground = np.broadcast_to(colour_of(colour), shown.shape)
        wanted = (shown * master.alpha[..., None] + ground * (1.0 - master.alpha[..., None])) * 255.0
        page = Image.new("RGB", pixels.size, colour)
        page.paste(pixels, mask=pixels.getchannel("A"))
        assert np.abs(np.asarray(page).astype(float) - wanted).max() < 2.0


# ---------------------------------------------------------------------- lines and pencil


def test_lines_lie_on_the_edges_of_the_room(drawn: Renderer) -> None:
    view = replace(VIEW, lens=Lens(14.0), width_px=320, height_px=180)
    fine = replace(view, width_px=640, height_px=360)
    marks = marks_of(fine, drawn.facts(fine))
    # The far wall's four corners, from formulas.
    corners = fine.project(np.array([(x, 4.0, z) for x in (0.0, 6.0) for z in (0.0, 3.0)]))[:, :2]
    left, right, bottom, top = (
        corners[:, 0].min(),
        corners[:, 0].max(),
        corners[:, 1].max(),
        corners[:, 1].min(),
    )
    lines = marks.outline | marks.crease
    rows = np.flatnonzero(lines[:, int((left + right) / 2)])
    assert min(abs(row - top) for row in rows) <= 1.5
    assert min(abs(row - bottom) for row in rows) <= 1.5
    # The middle of a wall is empty.
    assert not lines[
        int((top + bottom) / 2) - 20 : int((top + bottom) / 2) + 20,
        int((left + right) / 2) - 40 : int((left + right) / 2) + 40,
    ].any()
    ink = ink_of(marks, Style())
    assert ink.shape == (180, 320)
    shown, _ = line_drawing(view, drawn.facts, Style(ink="#000000", paper="#ffffff"), None)
    assert shown.max() == pytest.approx(1.0)
    assert shown.min() < 0.75
    thick = ink_of(marks, Style(outline_px=8.0, crease_px=8.0))
    assert thick.sum() > 1.5 * ink.sum()


def test_strokes_are_told_apart_as_seen_and_hidden(room: Model, drawn: Renderer) -> None:
    outside = View(Pose((3.0, -6.0, 1.6), 0.0), Lens(24.0), 320, 180)
    strokes = strokes_of(outside, edges_of(room), drawn.facts(outside))
    assert strokes.hidden.any() and (~strokes.hidden).any()
    # From outside, the edges of the inner face of the far wall are behind the near one.
    length = np.hypot(*(strokes.ends[:, 1] - strokes.ends[:, 0]).T)
    assert length[~strokes.hidden].sum() > 0
    style = Style(hidden=True)
    with_hidden, _ = line_drawing(outside, drawn.facts, style, edges_of(room))
    without, _ = line_drawing(outside, drawn.facts, replace(style, hidden=False), None)
    assert with_hidden.mean() < without.mean()


def test_pencil_stands_still_and_keeps_its_hand(room: Model, drawn: Renderer) -> None:
    edges, light = edges_of(room), np.full((90, 160), 0.3, np.float32)
    first, ink = pencil_drawing(VIEW, drawn.facts, Style(), edges, light)
    again, _ = pencil_drawing(VIEW, drawn.facts, Style(), edges, light)
    assert (first == again).all()
    other, _ = pencil_drawing(VIEW, drawn.facts, Style(seed=2), edges, light)
    assert np.abs(other - first).mean() > 0.002
    assert 0.0 <= ink.min() and ink.max() <= 1.0
    # Dark places are hatched more than bright ones, and not at all without hatching.
    grain = paper_grain(200, 200, 1)
    dark, bright = (
        hatched(np.full((200, 200), tone, np.float32), Style(), grain).mean() for tone in (0.1, 0.9)
    )
    assert dark > 0.1 > bright
    assert hatched(np.full((200, 200), 0.1, np.float32), Style(hatching=0.0), grain).max() == 0.0


def test_a_hand_wavers_overshoots_and_is_the_edges_own() -> None:
    ends = np.array([[[10.0, 50.0], [210.0, 50.0]], [[30.0, 20.0], [30.0, 120.0]], [[5.0, 5.0], [5.5, 5.0]]])
    edge = np.array([7, 8, 9])
    lines = drawn_by_hand(ends, edge, Style(), 1080)
    # What is too short is left out; the others are gone over twice, darker the first time.
    assert len(lines.grey) == 4 and lines.first.tolist() == [True, False, True, False]
    assert (lines.grey[0::2] >= 175).all() and (lines.grey[1::2] < 140).all()
    first = lines.points[lines.begin[0] : lines.begin[1]]
    assert 0.4 <= 10.0 - first[0, 0] <= 9.0 and 0.4 <= first[-1, 0] - 210.0 <= 9.0
    assert 0.2 < np.std(first[:, 1]) < 2.5 and abs(np.mean(first[:, 1]) - 50.0) < 3.0
    # Seen with another edge before it or from a little nearer, an edge is drawn in the same way.
    alone = drawn_by_hand(ends[1:2], edge[1:2], Style(), 1080)
    assert (alone.points == lines.points[lines.begin[2] :]).all()
    nearer = drawn_by_hand(ends[:1] * 1.001, edge[:1], Style(), 1080)
    assert np.abs(nearer.points[: len(first)] - first).max() < 0.3
    assert np.abs(drawn_by_hand(ends, edge, Style(seed=3), 1080).points - lines.points).max() > 0.3
    ruled = drawn_by_hand(ends[:1], edge[:1], Style(roughness=0.0), 1080)
    assert (ruled.points[:, 1] == 50.0).all() and ruled.points[0, 0] == 10.0
    # Its throws are spread as they should be.
    many = drawn_by_hand(np.repeat(ends[:1], 4000, axis=0), np.arange(4000), Style(), 1080)
    aside = (many.points[:, 1] - 50.0) / np.hypot(0.9, 0.8) / Style().roughness
    assert abs(aside.mean()) < 0.03 and aside.std() == pytest.approx(1.0, abs=0.03)
    assert np.abs(np.histogram(many.grey[0::2], 7, (175, 245))[0] - 4000 / 7).max() < 100


# ---------------------------------------------------------------------- files


SHOWN = np.random.default_rng(1).uniform(0, 1, (20, 30, 3)).astype(np.float32)
ALPHA = np.linspace(0, 1, 600, dtype=np.float32).reshape(20, 30)
PACKET = xmp_packet("Hall & <stair>", '{"camera": {"name": "Hall \\"1\\""}}', PanoramaTags(4000, 2000, 372.5))


def test_jpeg_dpi_exif_and_xmp() -> None:
    data = picture_bytes("jpg", SHOWN, None, Labels("Hall", 300.0, PACKET))
    with Image.open(io.BytesIO(data)) as image:
        assert image.size == (30, 20)
        assert image.info["dpi"] == (300, 300)
        assert image.getexif()[0x0131] == "Altana"
        assert read_xmp(image.info["xmp"])["altana:Camera"] == '{"camera": {"name": "Hall \\"1\\""}}'


def test_png_with_8_bits() -> None:
    data = picture_bytes("png", SHOWN, ALPHA, Labels("Hall", 600.0, PACKET))
    with Image.open(io.BytesIO(data)) as image:
        image.load()
        assert image.mode == "RGBA"
        assert image.info["dpi"] == (pytest.approx(600, abs=0.02), pytest.approx(600, abs=0.02))
        assert b"sRGB" in data and "altana:Camera" in read_xmp(image.info["XML:com.adobe.xmp"].encode())
        assert np.abs(np.asarray(image)[..., :3] / 255.0 - SHOWN).max() < 1.1 / 255


def test_png_with_16_bits_is_read_back_to_the_last_bit() -> None:
    for alpha, channels in ((None, 3), (ALPHA, 4)):
        data = picture_bytes("png16", SHOWN, alpha, Labels("Hall", 300.0, PACKET))
        # Read chunk by chunk, by the format's own rules.
        assert data[:8] == b"\x89PNG\r\n\x1a\n"
        chunks, at = {}, 8
        while at < len(data):
            length, name = struct.unpack(">I4s", data[at : at + 8])
            body = data[at + 8 : at + 8 + length]
            assert struct.unpack(">I", data[at + 8 + length : at + 12 + length])[0] == zlib.crc32(name + body)
            chunks[name] = body
            at += 12 + length
        wide, high, depth, kind = struct.unpack(">IIBB", chunks[b"IHDR"][:10])
        assert (wide, high, depth, kind) == (30, 20, 16, 2 if channels == 3 else 6)
        rows = np.frombuffer(zlib.decompress(chunks[b"IDAT"]), np.uint8).reshape(20, -1)
        assert (rows[:, 0] == 2).all()
        whole = np.cumsum(rows[:, 1:].astype(np.uint64), axis=0).astype(np.uint8)
        values = whole.view(">u2").reshape(20, 30, channels)
        assert (values[..., :3] == np.rint(SHOWN * 65535).astype(np.uint16)).all()
        assert struct.unpack(">IIB", chunks[b"pHYs"]) == (11811, 11811, 1)
        with Image.open(io.BytesIO(data)) as image:
            image.load()
            assert image.size == (30, 20)


def test_tiff_with_16_bits_for_print() -> None:
    data = picture_bytes("tif", SHOWN, ALPHA, Labels("Hall", 600.0, PACKET))
    with tifffile.TiffFile(io.BytesIO(data)) as file:
        page = file.pages[0]
        assert page.shape == (20, 30, 4)
        assert page.dtype == np.uint16
        assert page.tags["XResolution"].value == (600, 1)
        assert page.tags["ResolutionUnit"].value == 2
        assert "altana:Camera" in read_xmp(bytes(page.tags[700].value))
        assert (page.asarray()[..., :3] == np.rint(SHOWN * 65535).astype(np.uint16)).all()


def test_exr_holds_light_multiplied_by_coverage(tmp_path) -> None:  # type: ignore[no-untyped-def]
    path = tmp_path / "a.exr"
    path.write_bytes(picture_bytes("exr", SHOWN, ALPHA, Labels("Hall", 0.0, PACKET), SHOWN * 900.0))
    with OpenEXR.File(str(path)) as file:
        pixels = file.channels()["RGBA"].pixels
        assert np.allclose(np.asarray(pixels)[..., 3], ALPHA, atol=1e-3)
        light = np.asarray(pixels, np.float32)[..., :3]
        assert np.allclose(light, SHOWN * 900.0 * ALPHA[..., None], rtol=2e-3, atol=0.5)
        assert "altana:Camera" in read_xmp(file.header()["xmp"].encode())


def test_panorama_tags_are_those_that_are_published() -> None:
    text = PACKET.decode()
    assert f'xmlns:GPano="{PANORAMA_NS}"' in text and f'xmlns:altana="{CAMERA_NS}"' in text
    tags = read_xmp(PACKET)
    wanted = {
        "ProjectionType": "equirectangular",
        "UsePanoramaViewer": "True",
        "FullPanoWidthPixels": "4000",
        "FullPanoHeightPixels": "2000",
        "CroppedAreaImageWidthPixels": "4000",
        "CroppedAreaImageHeightPixels": "2000",
        "CroppedAreaLeftPixels": "0",
        "CroppedAreaTopPixels": "0",
        "PoseHeadingDegrees": "12.500",
    }
    assert {f"GPano:{name}": value for name, value in wanted.items()}.items() <= tags.items()
    assert "Hall &amp; &lt;stair&gt;" in text
    for hostile in (
        b"",
        b"<x:xmpmeta>",
        b'<!DOCTYPE x [<!ENTITY a "b">]><x:xmpmeta></x:xmpmeta>',
        b"\xff\xfe\x00" * 40,
    ):
        assert read_xmp(hostile) == {}


# ---------------------------------------------------------------------- panoramas


def test_directions_and_pixels_are_each_others_inverse() -> None:
    along = directions(720, 360, slice(0, 360), 33.0)
    at = pixel_of(along.reshape(-1, 3), 720, 360, 33.0).reshape(360, 720, 2)
    y, x = np.mgrid[0:360, 0:720]
    assert np.allclose(at[..., 0], x + 0.5, rtol=0.0, atol=1e-6)
    assert np.allclose(at[..., 1], y + 0.5, rtol=0.0, atol=1e-6)
    # The middle looks along the heading, a quarter to the right of it 90 degrees further.
    assert pixel_of(np.array([[np.sin(np.radians(33)), np.cos(np.radians(33)), 0.0]]), 6000, 3000, 33.0)[
        0
    ] == pytest.approx((3000, 1500))
    assert pixel_of(np.array([[np.sin(np.radians(123)), np.cos(np.radians(123)), 0.0]]), 6000, 3000, 33.0)[
        0, 0
    ] == pytest.approx(4500)


@pytest.mark.slow
def test_marks_at_known_directions_come_out_within_half_a_pixel_at_6000() -> None:
    """Faces carry smooth bumps at known directions; their centres of gravity are found in the stitched
    panorama."""
    place, side = Place((0, 0, 0), 20.0), face_size(6000)
    rng = np.random.default_rng(4)
    marks = [
        *zip(rng.uniform(-180, 180, 5).tolist(), rng.uniform(-75, 75, 5).tolist(), strict=True),
        (45.0, 0.0),
        (65.0, 0.0),
        (20.0, 45.0),
    ]
    turn, rise = np.radians(np.array(marks)).T
    along = np.stack([np.cos(rise) * np.sin(turn), np.cos(rise) * np.cos(turn), np.sin(rise)], axis=1)
    faces = {}
    for name in FACES:
        view = face_view(place, name, side)
        face = np.zeros((view.height_px, view.width_px, 1), np.float32)
        for px, py, depth in view.project(along):
            if not (depth > 0.1 and -9 < px < view.width_px + 9 and -9 < py < view.height_px + 9):
                continue
            x0, y0 = int(px), int(py)
            rows, columns = np.mgrid[
                max(0, y0 - 12) : min(view.height_px, y0 + 13), max(0, x0 - 12) : min(view.width_px, x0 + 13)
            ]
            face[rows, columns, 0] += np.exp(-((columns + 0.5 - px) ** 2 + (rows + 0.5 - py) ** 2) / 8.0)
        faces[name] = face
    picture = stitched(faces, place, side, (6000, 3000))
    assert picture is not None
    for (x, y), up in zip(pixel_of(along, 6000, 3000, 20.0), rise, strict=True):
        reach = int(14 / np.cos(up))
        columns = np.arange(int(x) - reach, int(x) + reach + 1)
        rows = np.arange(int(y) - 14, int(y) + 15)
        weight = picture[np.ix_(rows, columns % 6000)][..., 0] * (
            picture[np.ix_(rows, columns % 6000)][..., 0] > 0.3
        )
        assert weight.sum() > 5.0
        assert abs(np.average(columns + 0.5 - x, weights=weight.sum(axis=0))) < 0.5
        assert abs(np.average(rows + 0.5 - y, weights=weight.sum(axis=1))) < 0.5


def test_borders_of_faces_do_not_show(drawn: Renderer) -> None:
    place, side = Place((3.0, 1.4, 1.6), 0.0), face_size(800)
    faces = {}
    for name in FACES:
        master = drawn.master(face_view(place, name, side), sky_of(Light()), FOUR, True)
        assert master is not None
        faces[name] = developed(master.light, 6.0)
    picture = stitched(faces, place, side, (800, 400))
    assert picture is not None
    # Across the border between front and right (a quarter of the way round from the middle), and beside it
    # inside a face.
    row = slice(150, 250)
    across = np.abs(picture[row, 500] - picture[row, 499]).mean()
    beside = np.mean(
        [np.abs(picture[row, column] - picture[row, column - 1]).mean() for column in (490, 494, 506, 510)]
    )
    assert across < 1.5 * beside + 0.004
    assert square_of(faces["up"], side).shape == (side, side, 3)
    # It closes.
    ends = np.abs(picture[row, 0] - picture[row, -1]).mean()
    assert ends < 1.5 * beside + 0.01


def test_slices_for_two_eyes_cover_every_pixel_once_and_stand_apart() -> None:
    place, size = Place((1.0, 2.0, 1.6), 40.0), (256, 128)
    whole = np.zeros((128, 256, 3), np.float32)
    slices = slices_of(place, 0.032, size)
    for piece in slices:
        piece.add(
            whole, np.ones((piece.view.height_px, piece.view.width_px, 3), np.float32), place.heading_deg
        )
    assert np.allclose(whole, 1.0, rtol=0.0, atol=1e-4)
    level = [piece for piece in slices if piece.tilt_deg == 0.0]
    for piece in level[::7]:
        aside = np.asarray(piece.view.pose.eye) - place.eye
        assert np.linalg.norm(aside) == pytest.approx(0.032)
        # Square to where it looks, to the right.
        assert aside @ piece.view.pose.forward == pytest.approx(0.0, abs=1e-9)
        assert aside @ piece.view.pose.axes()[0] > 0
