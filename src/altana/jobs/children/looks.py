"""How the window's pictures are drawn, small, coarse, full and at rest."""

from __future__ import annotations

import os
from dataclasses import replace

from altana.render.quality import COARSE, FULL, SMALL, STILL, Quality

#: How often a picture at rest in the window is drawn over itself; fewer where drawing is slow.
PASSES_SETTING = "ALTANA_FRAME_PASSES"


def looks() -> dict[str, Quality]:
    """How small, coarse, full and resting pictures of the window are drawn."""
    setting = os.environ.get(PASSES_SETTING, "")
    passes = min(max(int(setting), 1), 64) if setting.isdigit() else STILL.passes
    return {"small": SMALL, "coarse": COARSE, "full": FULL, "still": replace(STILL, passes=passes)}


LOOKS = looks()
