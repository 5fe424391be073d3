"""The page about Altana: its version, and the licences of what it is made with."""

from __future__ import annotations

import importlib.metadata

from PySide6.QtWidgets import QDialog, QHeaderView, QTreeWidget, QTreeWidgetItem, QVBoxLayout, QWidget

from altana.app.theme.widgets import button, label
from altana.app.theme.words import tr
from altana.version import version_words

#: What ships with Altana and is no package.
SHIPPED = (
    (tr("Lato (fonts)"), "", tr("SIL Open Font License 1.1")),
    (tr("GeoNames (towns and time zones)"), "", tr("CC BY 4.0")),
    (
        tr("FFmpeg with x264 and x265, inside the package av (films)"),
        "",
        tr("GPL 2 or later; a program of its own beside Altana's code"),
    ),
)
LONGEST = 60


class AboutPage(QDialog):
    """Lists packages as they are installed."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("About Altana"))
        self.resize(620, 520)
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 18, 22, 16)
        column.setSpacing(10)
        column.addWidget(label(tr("Altana {version_words}", version_words=version_words()), "title"))
        licence = label(
            tr("Apache License 2.0. Altana asks nothing over a network; what it is made with:"), "quiet"
        )
        licence.setWordWrap(True)
        column.addWidget(licence)
        self.parts = QTreeWidget()
        self.parts.setAccessibleName(tr("Licences"))
        self.parts.setHeaderLabels([tr("Part"), tr("Version"), tr("Licence")])
        self.parts.setRootIsDecorated(False)
        self.parts.header().setSectionResizeMode(0, QHeaderView.ResizeMode.ResizeToContents)
        for row in (*SHIPPED, *packages()):
            self.parts.addTopLevelItem(QTreeWidgetItem(list(row)))
        column.addWidget(self.parts, 1)
        column.addWidget(button(tr("Close"), "", tr("Close this page (Escape)"), self.accept))


def packages() -> list[tuple[str, str, str]]:
    """The packages that Altana needs, as installed: name, version, licence."""
    wanted = {"altana"}
    for text in importlib.metadata.requires("altana") or []:
        wanted.add(text.split(";")[0].split("[")[0].split("=")[0].split(">")[0].strip().lower())
    rows = []
    for part in importlib.metadata.distributions():
        name = str(part.metadata["Name"])
        if name.lower() in wanted and name.lower() != "altana":
            rows.append((name, part.version, _licence(part.metadata)))
    return sorted(set(rows), key=lambda row: row[0].lower())


def _licence(told: importlib.metadata.PackageMetadata) -> str:
    """The short name of a licence, from whichever field says it."""
    fields = told.json
    groups = [
        text.rpartition("::")[2].strip()
        for text in fields.get("classifier", [])
        if text.startswith("License ::")
    ]
    named = [
        str(fields[name]).splitlines()[0] for name in ("license_expression", "license") if fields.get(name)
    ]
    text = (named or [", ".join(groups) or tr("not said")])[0]
    return text[:LONGEST]
