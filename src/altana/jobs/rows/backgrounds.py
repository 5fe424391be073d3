"""What stands behind a picture that is drawn without a sky, and its ground."""

from __future__ import annotations

import numpy as np
from PIL import Image

from altana.core.camera.view import View
from altana.core.conventions import Floats32
from altana.core.errors import UserError
from altana.core.light.sky import Sky
from altana.core.project import AS_BEHIND, PAPER, PAPER_WHITE, PICTURE, PLAIN, SKY, Light, Shot
from altana.importers.pictures import opened_picture
from altana.jobs.behind import below_horizon, horizon_row, sky_light
from altana.jobs.rows.shared import Rows
from altana.render.drawing import colour_of
from altana.storage.project_file import beside

LARGEST_PICTURE = 12_000


class Backgrounds:
    """Backgrounds of the rows of one project."""

    def __init__(self, rows: Rows) -> None:
        self.rows = rows

    def of(self, view: View, shot: Shot, ev: float, light: Light, sky: Sky | None = None) -> Floats32:
        """What stands behind a picture drawn without a sky, displayed values: sky, paper, a colour or a
        picture fitted to the horizon; below the horizon the ground, where it is set apart.  light : the
        picture's; sky : its sky, where that is known."""
        high, wide = view.height_px, view.width_px
        if shot.background == SKY:
            picture = self.rows.developed(
                shot, sky_light(view, sky or self.rows.sky(light, lambda _: True)), ev
            )
        elif shot.background == PICTURE:
            picture = self._picture_behind(view, shot)
        else:
            colour = PAPER_WHITE if shot.background == PAPER else shot.background_colour
            picture = np.broadcast_to(colour_of(colour), (high, wide, 3)).astype(np.float32)
        if shot.ground == AS_BEHIND:
            return picture
        share = below_horizon(view)[..., None]
        mixed: Floats32 = (picture + (colour_of(ground_colour(shot)) - picture) * share).astype(np.float32)
        return mixed

    def on_ground(
        self, view: View, shot: Shot, shown: Floats32, alpha: Floats32
    ) -> tuple[Floats32, Floats32]:
        """A transparent picture on the ground that was set for it: displayed values and coverage."""
        if shot.ground == AS_BEHIND:
            return shown, alpha
        covered = alpha + (1.0 - alpha) * below_horizon(view)
        ground = colour_of(ground_colour(shot))
        mixed = (shown * alpha[..., None] + ground * (covered - alpha)[..., None]) / np.maximum(
            covered, np.float32(1e-6)
        )[..., None]
        return mixed.astype(np.float32), covered.astype(np.float32)

    def _picture_behind(self, view: View, shot: Shot) -> Floats32:
        """A picture as wide as the frame, its middle row on the horizon; its edge rows go on above and
        below."""
        path = beside(self.rows.base, shot.background_file, "background picture")
        wide, high = view.width_px, view.height_px
        try:
            with opened_picture(path) as image:
                if max(image.size) > LARGEST_PICTURE:
                    raise UserError(
                        f"{path.name} is larger than {LARGEST_PICTURE} px a side. Make it smaller."
                    )
                whole = image.convert("RGB")
                tall = max(1, round(whole.height * wide / whole.width))
                pixels = np.asarray(whole.resize((wide, tall), Image.Resampling.LANCZOS), np.float32) / 255.0
        except (OSError, Image.DecompressionBombError, ValueError) as error:
            raise UserError(f"{path.name} cannot be read as a picture. Choose another background.") from error
        rows = np.clip(np.arange(high) - round(horizon_row(view)) + tall // 2, 0, tall - 1)
        return pixels[rows]


def ground_colour(shot: Shot) -> str:
    """The colour of the ground that is set apart."""
    return shot.ground_colour if shot.ground == PLAIN else PAPER_WHITE
