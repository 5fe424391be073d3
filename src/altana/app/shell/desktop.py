"""What the desktop is told: that all is made, and which project was opened last."""

from __future__ import annotations

import logging
import os
from datetime import UTC, datetime
from pathlib import Path

import platformdirs
from lxml import etree
from PySide6.QtDBus import QDBusConnection, QDBusMessage

from altana.core.errors import UserError
from altana.storage.files import write_atomically

log = logging.getLogger(__name__)

SERVICE, PLACE = "org.freedesktop.portal.Desktop", "/org/freedesktop/portal/desktop"
INTERFACE = "org.freedesktop.portal.Notification"
MIME = "application/x-altana-project"
BOOKMARK = "http://www.freedesktop.org/standards/desktop-bookmarks"
SHARED = "http://www.freedesktop.org/standards/shared-mime-info"
LARGEST_BYTES, MOST = 8_000_000, 500


def notify(title: str, text: str) -> bool:
    """Show a notification through the desktop's portal; False where there is no session to tell."""
    bus = QDBusConnection.sessionBus()
    if not bus.isConnected():
        return False
    message = QDBusMessage.createMethodCall(SERVICE, PLACE, INTERFACE, "AddNotification")
    message.setArguments(["altana-made", {"title": title, "body": text, "priority": "normal"}])
    return bool(bus.send(message))


def recent_file() -> Path:
    """The desktop's own list of documents opened lately."""
    return Path(os.environ.get("XDG_DATA_HOME") or platformdirs.user_data_path()) / "recently-used.xbel"


def remember_recent(path: Path) -> None:
    """Put a project first into the desktop's list of recent documents; a list that cannot be read or written
    is left alone."""
    place = recent_file()
    try:
        if place.is_file() and place.stat().st_size > LARGEST_BYTES:
            return
        parser = etree.XMLParser(resolve_entities=False, no_network=True, load_dtd=False)
        root = (
            etree.fromstring(place.read_bytes(), parser)
            if place.is_file()
            else etree.Element("xbel", {"version": "1.0"}, nsmap={"bookmark": BOOKMARK, "mime": SHARED})
        )
        address = path.resolve().as_uri()
        now = datetime.now(UTC).isoformat(timespec="seconds").replace("+00:00", "Z")
        old = [item for item in root.iterfind("bookmark") if item.get("href") == address]
        added = old[0].get("added", now) if old else now
        for item in old:
            root.remove(item)
        root.append(_bookmark(address, added, now))
        for item in root.findall("bookmark")[:-MOST]:
            root.remove(item)
        place.parent.mkdir(parents=True, exist_ok=True)
        write_atomically(place, etree.tostring(root, xml_declaration=True, encoding="UTF-8"))
    except (OSError, ValueError, etree.LxmlError, UserError) as error:
        # A convenience of the desktop must never keep anyone from opening a project.
        log.info("the desktop's list of recent documents was left alone: %s", error)


def _bookmark(address: str, added: str, now: str) -> etree._Element:
    item = etree.Element("bookmark", {"href": address, "added": added, "modified": now, "visited": now})
    data = etree.SubElement(etree.SubElement(item, "info"), "metadata", {"owner": "http://freedesktop.org"})
    etree.SubElement(data, f"{{{SHARED}}}mime-type", {"type": MIME})
    programs = etree.SubElement(data, f"{{{BOOKMARK}}}applications")
    etree.SubElement(
        programs,
        f"{{{BOOKMARK}}}application",
        {"name": "Altana", "exec": "'altana open %f'", "modified": now, "count": "1"},
    )
    return item
