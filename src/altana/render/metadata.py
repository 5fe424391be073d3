"""What is written into picture files beside the picture: titles, the camera, and what makes a panorama turn.

XMP is ISO 16684-1 (RDF/XML in a packet).  The panorama properties are those of the published photo sphere
schema, which phones and web viewers read.  Nothing depends on the clock: equal pictures are equal files.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from xml.etree import ElementTree

CAMERA_NS = "urn:altana:camera:1.0"
PANORAMA_NS = "http://ns.google.com/photos/1.0/panorama/"
#: The published schema of spherical films; its word for a pair of eyes is used for pictures as well.
SPHERICAL_NS = "http://ns.google.com/videos/1.0/spherical/"
#: One eye above the other, the left one on top.
OVER_UNDER = "top-bottom"
RDF_NS = "http://www.w3.org/1999/02/22-rdf-syntax-ns#"
_XMP_HEAD = b"http://ns.adobe.com/xap/1.0/\0"
_PACKET_ID = "W5M0MpCehiHzreSzNTczkc9d"


@dataclass(frozen=True, slots=True)
class PanoramaTags:
    """Size of the whole 2:1 picture in pixels (of one eye, where it is a pair one above the other), heading
    of its middle, and the view that a viewer begins with, degrees."""

    width_px: int
    height_px: int
    heading_deg: float
    initial_heading_deg: float = 0.0
    initial_angle_deg: float = 75.0
    stereo: bool = False

    def properties(self) -> dict[str, str]:
        """The published properties, by name."""
        return {
            "UsePanoramaViewer": "True",
            "ProjectionType": "equirectangular",
            "CroppedAreaImageWidthPixels": str(self.width_px),
            "CroppedAreaImageHeightPixels": str(self.height_px),
            "FullPanoWidthPixels": str(self.width_px),
            "FullPanoHeightPixels": str(self.height_px),
            "CroppedAreaLeftPixels": "0",
            "CroppedAreaTopPixels": "0",
            "PoseHeadingDegrees": f"{self.heading_deg % 360.0:.3f}",
            "PosePitchDegrees": "0.0",
            "PoseRollDegrees": "0.0",
            "InitialViewHeadingDegrees": str(round(self.initial_heading_deg) % 360),
            "InitialViewPitchDegrees": "0",
            "InitialViewRollDegrees": "0",
            "InitialHorizontalFOVDegrees": f"{self.initial_angle_deg:.1f}",
        }


def xmp_packet(title: str, camera_json: str = "", panorama: PanoramaTags | None = None) -> bytes:
    """An XMP packet.  camera_json : the camera and what it belongs to, as JSON text."""
    # It brings all that fetches pages, which nothing here does.
    from xml.sax.saxutils import quoteattr

    fields: list[str] = [f"xmp:CreatorTool={quoteattr('Altana')}"]
    if camera_json:
        fields.append(f"altana:Camera={quoteattr(camera_json)}")
    if panorama is not None:
        fields += [f"GPano:{name}={quoteattr(value)}" for name, value in panorama.properties().items()]
        if panorama.stereo:
            fields.append(f"GSpherical:StereoMode={quoteattr(OVER_UNDER)}")
    inner = f'<dc:title><rdf:Alt><rdf:li xml:lang="x-default">{_escaped(title)}</rdf:li></rdf:Alt></dc:title>'
    joined = "\n   ".join(fields)
    pair = f' xmlns:GSpherical="{SPHERICAL_NS}"' if panorama is not None and panorama.stereo else ""
    text = (
        f'<?xpacket begin="\ufeff" id="{_PACKET_ID}"?>\n'
        '<x:xmpmeta xmlns:x="adobe:ns:meta/">\n <rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">\n'
        '  <rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:xmp="http://ns.adobe.com/xap/1.0/"\n'
        f'   xmlns:altana="{CAMERA_NS}" xmlns:GPano="{PANORAMA_NS}"{pair}\n   {joined}>{inner}</rdf:Description>\n'
        ' </rdf:RDF>\n</x:xmpmeta>\n<?xpacket end="r"?>'
    )
    return text.encode()


def jpeg_with_xmp(data: bytes, packet: bytes) -> bytes:
    """A JPEG with this XMP packet in the place of any before; its picture is not touched.

    Segments as ISO/IEC 10918-1 annex B has them.  Raises ValueError for what is no JPEG, or a packet over 64
    kB.
    """
    if data[:2] != b"\xff\xd8" or len(packet) + len(_XMP_HEAD) + 2 > 0xFFFF:
        raise ValueError("no JPEG that a packet could be put into")
    segment = b"\xff\xe1" + (len(packet) + len(_XMP_HEAD) + 2).to_bytes(2, "big") + _XMP_HEAD + packet
    kept, at = [], 2
    while data[at : at + 1] == b"\xff" and 0xE0 <= data[at + 1] <= 0xEF:
        end = at + 2 + int.from_bytes(data[at + 2 : at + 4], "big")
        if end > len(data):
            raise ValueError("a JPEG that is cut short")
        if not data[at + 4 : end].startswith(_XMP_HEAD):
            kept.append(data[at:end])
        at = end
    # What tells a reader that it is a JPEG stays in front.
    first = kept[:1] if kept and kept[0][1] == 0xE0 else []
    return b"\xff\xd8" + b"".join(first) + segment + b"".join(kept[len(first) :]) + data[at:]


def _escaped(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")


def read_xmp(packet: bytes) -> dict[str, str]:
    """Properties of an XMP packet as ``prefix:name``; empty where it cannot be read.  Entities are not
    expanded."""
    text = packet.decode("utf-8", "replace")
    if "<!DOCTYPE" in text or "<!ENTITY" in text:
        return {}
    match = re.search(r"<(?:\w+:)?RDF.*</(?:\w+:)?RDF>", text, re.DOTALL)
    if match is None:
        return {}
    try:
        root = ElementTree.fromstring(
            text[text.index("<x:xmpmeta") : text.index("</x:xmpmeta>") + 12]
            if "<x:xmpmeta" in text
            else match[0]
        )
    except (ElementTree.ParseError, ValueError):
        return {}
    prefixes = {CAMERA_NS: "altana", PANORAMA_NS: "GPano", SPHERICAL_NS: "GSpherical"}
    tags: dict[str, str] = {}
    for description in root.iter(f"{{{RDF_NS}}}Description"):
        # Properties are written as attributes or as elements; both are read.
        for name, value in (
            *description.attrib.items(),
            *((child.tag, child.text or "") for child in description),
        ):
            space, _, local = str(name).removeprefix("{").partition("}")
            if space in prefixes:
                tags[f"{prefixes[space]}:{local}"] = value
    return tags
