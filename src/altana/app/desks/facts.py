"""The line of facts under the Frame."""

from __future__ import annotations

from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel

from altana.app.theme.widgets import label
from altana.core.project import Camera

#: Edge stretch above this is said in bold; the usual limit of a calm picture (an 18 mm lens at 16:9).
STRETCH_LIMIT = 1.53


class Facts(QFrame):
    """Size, angles of view, edge stretch, lean and the camera's intent; they change as the camera moves."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("band")
        self.setFixedHeight(30)
        row = QHBoxLayout(self)
        row.setContentsMargins(18, 0, 18, 0)
        row.setSpacing(22)
        row.addStretch(1)
        self._labels: list[QLabel] = []
        for tip in (
            "Picture size",
            "Angles of view, across and up",
            "How much the worst corner is drawn out",
            "Lean of verticals at the frame's edge",
        ):
            made = label("")
            made.setToolTip(tip)
            self._labels.append(made)
            row.addWidget(made)
        row.addStretch(1)

    def show_camera(self, camera: Camera | None) -> None:
        """Show a camera's figures."""
        texts = [""] * 4
        if camera is not None:
            view = camera.view()
            across, high = view.angles_of_view()
            stretch, lean = view.edge_stretch(), view.lean_deg()
            over = stretch > STRETCH_LIMIT
            texts = [
                f"<b>{camera.width_px} × {camera.height_px}</b>",
                f"view <b>{across:.1f}° × {high:.1f}°</b>",
                f"edge stretch <b>×{stretch:.2f}</b>" + (" <b>! strong</b>" if over else ""),
                "lean <b>0.0° · true</b>" if abs(lean) < 5e-4 and abs(camera.roll_deg) < 1e-9 else f"lean <b>{lean:.1f}°</b>",
            ]
        for shown, text in zip(self._labels, texts, strict=True):
            shown.setText(text)
