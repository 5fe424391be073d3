"""The stand-in host and phone, and tags put back into panoramas."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from altana.core.errors import UserError
from altana.jobs.panoramas import host_says, mend_in_place, mendable, mended, recorded_motion, seen_by_phone
from altana.render.metadata import PanoramaTags, read_xmp, xmp_packet


def panorama(
    path: Path, size: tuple[int, int] = (1024, 512), tags: PanoramaTags | None = None, kind: str = "JPEG"
) -> Path:
    image = Image.fromarray(np.random.default_rng(1).integers(0, 255, (size[1], size[0], 3)).astype(np.uint8))
    image.save(path, kind, **({"xmp": xmp_packet("x", '{"a": 1}', tags)} if tags is not None else {}))
    return path


def test_the_host_says_whether_and_why(tmp_path: Path) -> None:
    good = host_says(panorama(tmp_path / "a.jpg", tags=PanoramaTags(1024, 512, 33.0)))
    assert good.taken
    assert good.reasons == ("Taken as a panorama of 1024 × 512 px; its middle looks to 33°.",)
    for name, size, tags, kind, why in (
        ("plain.jpg", (1024, 512), None, "JPEG", "no panorama tags"),
        ("smaller.jpg", (1024, 512), PanoramaTags(2048, 1024, 0.0), "JPEG", "another size"),
        ("square.jpg", (1024, 1024), PanoramaTags(1024, 1024, 0.0), "JPEG", "as a stereo pair is"),
        ("a.png", (1024, 512), None, "PNG", "hosts take JPEG"),
        ("tiny.jpg", (256, 128), PanoramaTags(256, 128, 0.0), "JPEG", "narrower than 512"),
    ):
        said = host_says(panorama(tmp_path / name, size, tags, kind))
        assert not said.taken
        assert any(why in reason for reason in said.reasons), said.reasons
    (tmp_path / "x.jpg").write_bytes(b"no picture")
    with pytest.raises(UserError, match="cannot be read"):
        host_says(tmp_path / "x.jpg")


def test_tags_are_put_back_and_kept_in_smaller_copies(tmp_path: Path) -> None:
    edited = panorama(tmp_path / "edited.png", kind="PNG")
    out = mended(edited, tmp_path / "mended.jpg", heading_deg=120.0)
    assert host_says(out).taken
    small = mended(out, tmp_path / "small.jpg", 600)
    assert host_says(small).taken
    with Image.open(small) as image:
        assert image.size == (600, 300)
        tags = read_xmp(image.info["xmp"])
    assert (tags["GPano:PoseHeadingDegrees"], tags["GPano:FullPanoWidthPixels"]) == ("120.000", "600")
    kept = mended(
        panorama(tmp_path / "own.jpg", tags=PanoramaTags(1024, 512, 5.0)), tmp_path / "own-again.jpg"
    )
    with Image.open(kept) as image:
        assert read_xmp(image.info["xmp"])["altana:Camera"] == '{"a": 1}'
    with pytest.raises(UserError, match="not 2:1"):
        mended(panorama(tmp_path / "flat.jpg", (800, 600)), tmp_path / "no.jpg")
    assert not (tmp_path / "no.jpg").exists()


def test_a_stereo_pair_is_taken_and_tags_are_mended_in_the_file_itself(tmp_path: Path) -> None:
    pair = panorama(tmp_path / "pair.jpg", (1024, 1024), PanoramaTags(1024, 512, 12.0, stereo=True))
    said = host_says(pair)
    assert said.taken and said.reasons == (
        "Taken as a stereo panorama, one eye above the other, each of 1024 × 512 px; its middle looks to 12°.",
    )
    assert not mendable(pair)
    # Made smaller elsewhere, and saved without tags.
    for name, size in (("small.jpg", (600, 300)), ("small-pair.jpg", (600, 600))):
        edited = panorama(tmp_path / name, size)
        with Image.open(edited) as image:
            before = np.asarray(image).copy()
        assert not host_says(edited).taken and mendable(edited)
        assert mend_in_place(edited) == edited
        assert host_says(edited).taken and not mendable(edited)
        with Image.open(edited) as image:
            assert (np.asarray(image) == before).all()
        # Mended twice is mended once: the packet before is replaced.
        once = edited.read_bytes()
        mend_in_place(edited)
        assert edited.read_bytes() == once
    flat = panorama(tmp_path / "flat.jpg", (800, 600))
    assert not mendable(flat)
    with pytest.raises(UserError, match="no JPEG of a panorama"):
        mend_in_place(flat)
    torn = tmp_path / "torn.jpg"
    torn.write_bytes(pair.read_bytes()[:3] + b"\xe0\xff\xff")
    with pytest.raises(UserError, match="cannot be read"):
        mend_in_place(torn)


def test_the_phone_turns_the_picture_as_it_is_turned() -> None:
    assert seen_by_phone(0.0, 90.0) == (0.0, 0.0)
    # Turned to the left (alpha grows), the page looks to the left; tipped back, up.
    assert seen_by_phone(90.0, 120.0) == (270.0, 30.0)
    assert seen_by_phone(350.0, 0.0) == (10.0, -89.0)
    motion = recorded_motion()
    assert (motion == recorded_motion()).all()
    heading = np.unwrap(np.radians([seen_by_phone(alpha, beta)[0] for _, alpha, beta in motion]))
    assert np.degrees(heading[-1] - heading[0]) == pytest.approx(360.0, abs=3.0)
    assert np.abs(np.diff(motion[:, 2])).max() < 2.0
