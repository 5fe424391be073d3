"""What is written into picture files beside the picture: titles, the camera, and what makes a panorama turn.

XMP is ISO 16684-1 (RDF/XML in a packet).  The panorama properties are those of the published photo sphere schema, which
phones and web viewers read.  Nothing depends on the clock: equal pictures are equal files.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from xml.etree import ElementTree
from xml.sax.saxutils import quoteattr

CAMERA_NS = "urn:altana:camera:1.0"
PANORAMA_NS = "http://ns.google.com/photos/1.0/panorama/"
RDF_NS = "http://www.w3.org/1999/02/22-rdf-syntax-ns#"
_PACKET_ID = "W5M0MpCehiHzreSzNTczkc9d"


@dataclass(frozen=True, slots=True)
class PanoramaTags:
    """Size of the whole 2:1 picture in pixels, heading of its middle, and the view that a viewer begins with, degrees."""

    width_px: int
    height_px: int
    heading_deg: float
    initial_heading_deg: float = 0.0
    initial_angle_deg: float = 75.0

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
    fields: list[str] = [f"xmp:CreatorTool={quoteattr('Altana')}"]
    if camera_json:
        fields.append(f"altana:Camera={quoteattr(camera_json)}")
    if panorama is not None:
        fields += [f"GPano:{name}={quoteattr(value)}" for name, value in panorama.properties().items()]
    inner = f'<dc:title><rdf:Alt><rdf:li xml:lang="x-default">{_escaped(title)}</rdf:li></rdf:Alt></dc:title>'
    joined = "\n   ".join(fields)
    text = (
        f'<?xpacket begin="\ufeff" id="{_PACKET_ID}"?>\n'
        '<x:xmpmeta xmlns:x="adobe:ns:meta/">\n <rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">\n'
        '  <rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:xmp="http://ns.adobe.com/xap/1.0/"\n'
        f'   xmlns:altana="{CAMERA_NS}" xmlns:GPano="{PANORAMA_NS}"\n   {joined}>{inner}</rdf:Description>\n'
        ' </rdf:RDF>\n</x:xmpmeta>\n<?xpacket end="r"?>'
    )
    return text.encode()


def _escaped(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")


def read_xmp(packet: bytes) -> dict[str, str]:
    """Properties of an XMP packet as ``prefix:name``; empty where it cannot be read.  Entities are not expanded."""
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
    prefixes = {CAMERA_NS: "altana", PANORAMA_NS: "GPano"}
    found: dict[str, str] = {}
    for description in root.iter(f"{{{RDF_NS}}}Description"):
        # Properties are written as attributes or as elements; both are read.
        for name, value in (
            *description.attrib.items(),
            *((child.tag, child.text or "") for child in description),
        ):
            space, _, local = str(name).removeprefix("{").partition("}")
            if space in prefixes:
                found[f"{prefixes[space]}:{local}"] = value
    return found
