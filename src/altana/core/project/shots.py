"""Rows of the shot list: how they are drawn, toned and made."""

from __future__ import annotations

from dataclasses import dataclass

from altana.core.conventions import Vec2
from altana.core.project.staged import NOTHING_LEFT_OUT, LeftOut


@dataclass(frozen=True, slots=True)
class Tone:
    """How linear light becomes a picture; all start values leave it as the Frame shows it.

    ``exposure_ev`` : +1 doubles the light.  ``rolloff`` : how early highlights bend, 1 as in the Frame, 0
    straight to white. ``contrast``, ``saturation``, ``vignette``, ``glow``, ``sharpen`` : shares, 0 for none.
    ``white_k`` : the colour temperature that comes out white.  ``curve`` : (in, out) of a tone curve on
    displayed values, 0 to 1.  ``table`` : a colour table in the project's folder, put over the rest to a
    share of ``table_share``.
    """

    exposure_ev: float = 0.0
    rolloff: float = 1.0
    contrast: float = 0.0
    curve: tuple[Vec2, ...] = ()
    white_k: float = 6500.0
    saturation: float = 0.0
    vignette: float = 0.0
    glow: float = 0.0
    sharpen: float = 0.0
    table: str = ""
    table_share: float = 1.0


NO_TONE = Tone()
MATERIALS, WHITE_CARD, LINES, PENCIL = "materials", "white card", "lines", "pencil"
RENDITIONS = (MATERIALS, WHITE_CARD, LINES, PENCIL)
SKY, PLAIN, PICTURE, PAPER, TRANSPARENT = "sky", "plain", "picture", "paper white", "transparent"
BACKGROUNDS = (SKY, PLAIN, PICTURE, PAPER, TRANSPARENT)
#: What lies below the horizon where the model ends: what stands behind goes on, or it is set apart.
AS_BEHIND = "as behind"
GROUNDS = (AS_BEHIND, PLAIN, PAPER)
PAPER_WHITE = "#fbfaf6"
STILL, FILM, PANORAMA = "still", "film", "panorama"


@dataclass(frozen=True, slots=True)
class Style:
    """How lines are drawn: widths in pixels at 1080 px height for outlines and for creases, ink and paper as
    sRGB text, ``hidden`` lines dashed, ``roughness`` of pencil lines (0 to 1) and of hatching by tone, and
    the seed of the hand."""

    name: str = "Ink"
    outline_px: float = 2.2
    crease_px: float = 1.0
    ink: str = "#24211c"
    paper: str = PAPER_WHITE
    hidden: bool = False
    roughness: float = 0.5
    hatching: float = 0.6
    seed: int = 1


@dataclass(frozen=True, slots=True)
class Shot:
    """One row of the shot list: a camera in one of its formats, a walk or turntable, or a panorama from a
    camera's place.

    ``subject`` is the id of the camera or the walk; ``region`` (left, top, right, bottom in shares of the
    frame) makes a part of the picture only.  Sizes: the format's own times ``scale`` per cent, or
    ``width_px`` where it is set (height follows).  ``folder`` and ``pattern`` name the file, ``kind`` says
    what it is.  ``hour`` is the sun's, None the project's.  ``tone`` is the row's own, None where the
    project's holds.
    """

    id: str
    kind: str = STILL
    subject: str = ""
    format_index: int = 0
    on: bool = True
    rendition: str = MATERIALS
    style: Style = Style()
    quality: str = "review"
    background: str = SKY
    background_colour: str = PAPER_WHITE
    background_file: str = ""
    ground: str = AS_BEHIND
    ground_colour: str = "#c9c4b8"
    hour: float | None = None
    #: Date, sky and lamps of the row's own; its hour stands above, as it did before rows had these.
    date: str = ""
    sky: str = ""
    lamps: bool | None = None
    #: Final pictures: samples a pixel (0: what the word stands for), minutes to stop after (0: none), or as
    #: many as it takes until hardly any grain is left.
    samples: int = 0
    minutes: float = 0.0
    until_clean: bool = False
    folder: str = ""
    pattern: str = "{order}-{camera}-{format}"
    file: str = "png"
    dpi: float = 0.0
    scale: float = 100.0
    width_px: int = 0
    region: tuple[float, float, float, float] | None = None
    left_out: LeftOut = NOTHING_LEFT_OUT
    tone: Tone | None = None
    keep_master: bool = False
    #: Stills: a file with several layers for compositing beside the picture.
    passes: bool = False
    #: Panoramas: two pictures, one above the other, seen from eyes so far apart (metres); the six faces as
    #: files too.
    stereo_m: float = 0.0
    faces: bool = False
    #: Panoramas: the heading of their middle, None where the camera's holds.
    front_deg: float | None = None
    #: Films: every n-th film frame, and a contact strip of every n-th one made.
    step: int = 1
    strip_every: int = 0
    note: str = ""


@dataclass(frozen=True, slots=True)
class Making:
    """The figures behind a word of quality: passes (each a whole drawing with the sun and the pixels a little
    elsewhere) of a picture or panorama of the shot list, passes of a film frame or of a still made straight
    from its camera, and the side of the sun's shadow map, pixels.  ``samples`` and ``film_samples``: where
    they are not 0, light is followed to its end along so many paths a pixel instead (path tracing).
    ``light_rays``: so many rays look for the light of each place that a still or panorama drawn in passes
    shows; 0 leaves it in the light of the light map."""

    passes: int
    film_passes: int
    shadow_px: int = 2048
    samples: int = 0
    film_samples: int = 0
    light_rays: int = 0


@dataclass(frozen=True, slots=True)
class Qualities:
    """What proof, review and final stand for."""

    proof: Making = Making(3, 1)
    review: Making = Making(8, 8, light_rays=32)
    final: Making = Making(32, 32, 4096, 64, 24)

    def of(self, word: str) -> Making:
        """The figures of a word.  Raises AttributeError for another."""
        figures: Making = getattr(self, word)
        return figures


QUALITY_WORDS = ("proof", "review", "final")
USUAL_QUALITIES = Qualities()
