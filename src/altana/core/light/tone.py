"""From linear light to a picture: exposure, white balance, highlights, contrast, curve, saturation, vignette,
glow, a colour table.

With its start values this is exactly what the shader ``develop.frag`` does: light times gain, a curve with a
long shoulder, y = x (1 + x/200) / (1 + 0.86 x) of x = 1.6 x light, then sRGB (IEC 61966-2-1).  White balance
is the ratio of black-body colours on the Planckian locus (Kim et al.'s cubic fit of its chromaticity) in
linear sRGB.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import cast

import numpy as np
import scipy

from altana.core.conventions import Floats, Floats32, Vec2
from altana.core.light.tables import ColourTable
from altana.core.project import NO_TONE, Tone

#: The brightest value a sensor of ISO 100 records is 1.2 x 2^EV candelas per square metre.
SENSOR = 1.2
BOOST, SHOULDER, WHITE = 1.6, 0.86, 200.0
LUMINANCE = np.array([0.2126, 0.7152, 0.0722], np.float32)
GLOW_SHARE = 0.012
#: Middle grey on the display, to which a picture's middle is proposed to go.
MIDDLE = 0.18
_XYZ_TO_SRGB = np.array([[3.2406, -1.5372, -0.4986], [-0.9689, 1.8758, 0.0415], [0.0557, -0.2040, 1.0570]])


def gain(ev: float) -> float:
    """What light in cd/m2 is multiplied by at an exposure."""
    return float(1.0 / (SENSOR * 2.0**ev))


def encoded(linear: Floats | Floats32) -> Floats32:
    """Linear 0 to 1 as sRGB 0 to 1."""
    low = np.clip(cast(Floats32, linear), 0.0, 1.0)
    curve: Floats32 = np.where(
        low <= 0.0031308, low * 12.92, 1.055 * np.maximum(low, 1e-5) ** np.float32(1.0 / 2.4) - 0.055
    )
    return curve.astype(np.float32)


def decoded(display: Floats | Floats32) -> Floats32:
    """sRGB 0 to 1 as linear 0 to 1."""
    value = np.clip(cast(Floats32, display), 0.0, 1.0)
    linear: Floats32 = np.where(value <= 0.04045, value / 12.92, ((value + 0.055) / 1.055) ** 2.4)
    return linear.astype(np.float32)


def developed(
    light: Floats32,
    ev: float,
    tone: Tone = NO_TONE,
    alpha: Floats32 | None = None,
    table: ColourTable | None = None,
    around: bool = False,
) -> Floats32:
    """Light, (height, width, 3) float32 in cd/m2, as displayed sRGB values 0 to 1 of the same shape.

    alpha : (height, width) coverage; glow and sharpening then keep to what is covered.  table : the tone's
    colour table.
    around : a panorama (stereo: one above the other), whose right edge goes on at its left, and which has no
    corners to darken.
    """
    x = light * np.float32(gain(ev) * 2.0**tone.exposure_ev)
    if tone.white_k != NO_TONE.white_k:
        x = x * white_balance(tone.white_k)
    if tone.glow > 0.0:
        x = x + np.float32(tone.glow) * _glow(x, white_level(tone), around)
    if tone.vignette > 0.0 and not around:
        x = x * _vignette(x.shape[0], x.shape[1], tone.vignette)[..., None]
    x = np.maximum(x, 0.0) * np.float32(BOOST)
    y = x * (1.0 + x / np.float32(WHITE)) / (1.0 + x * np.float32(SHOULDER * tone.rolloff))
    y = np.clip(y, 0.0, 1.0)
    if tone.saturation:
        grey = (y @ LUMINANCE)[..., None]
        y = np.clip(grey + (y - grey) * np.float32(1.0 + tone.saturation), 0.0, 1.0)
    shown = encoded(y.astype(np.float32))
    if tone.contrast:
        # An S through black, middle and white; its slope in the middle is 1 + contrast.
        s = shown + np.float32(tone.contrast) * (shown - 0.5) * 4.0 * shown * (1.0 - shown)
        shown = np.clip(s, 0.0, 1.0)
    if tone.curve:
        shown = _curved(shown, tone)
    if table is not None:
        shown = table.applied(shown, tone.table_share)
    if tone.sharpen > 0.0:
        shown = _sharpened(shown, tone.sharpen, alpha, around)
    return shown.astype(np.float32)


def white_balance(kelvin: float) -> Floats32:
    """(3,) factors that make light of this temperature come out as white, at equal luminance."""
    white, seen = _locus(6500.0), _locus(kelvin)
    factor = white / seen
    balanced: Floats32 = (
        factor / float((seen / seen.sum() * LUMINANCE * factor).sum() / (seen / seen.sum() * LUMINANCE).sum())
    ).astype(np.float32)
    return balanced


def _locus(kelvin: float) -> Floats:
    """(3,) linear sRGB of a black body."""
    t = 1000.0 / kelvin
    x = (
        -0.2661239 * t**3 - 0.2343589 * t**2 + 0.8776956 * t + 0.179910
        if kelvin <= 4000
        else -3.0258469 * t**3 + 2.1070379 * t**2 + 0.2226347 * t + 0.240390
    )
    if kelvin <= 2222:
        y = -1.1063814 * x**3 - 1.34811020 * x**2 + 2.18555832 * x - 0.20219683
    elif kelvin <= 4000:
        y = -0.9549476 * x**3 - 1.37418593 * x**2 + 2.09137015 * x - 0.16748867
    else:
        y = 3.0817580 * x**3 - 5.87338670 * x**2 + 3.75112997 * x - 0.37001483
    colour: Floats = np.maximum(_XYZ_TO_SRGB @ np.array([x / y, 1.0, (1.0 - x - y) / y]), 1e-3)
    return colour


def white_level(tone: Tone) -> float:
    """The exposed light that comes out as white: where u (1 + u/200) = 1 + 0.86 rolloff u of u = 1.6 x
    light."""
    half = (1.0 - SHOULDER * tone.rolloff) * WHITE / 2.0
    return float((np.sqrt(half * half + WHITE) - half) / BOOST)


def _glow(x: Floats32, white: float, around: bool) -> Floats32:
    """What is brighter than white shines over; a sunlit wall that is only bright does not."""
    bright = np.maximum(x - np.float32(white), 0.0)
    return _softened(bright, max(1.0, GLOW_SHARE * x.shape[1]), around)


def _softened(values: Floats32, over_px: float, around: bool) -> Floats32:
    across = scipy.ndimage.gaussian_filter1d(values, over_px, axis=1, mode="wrap" if around else "reflect")
    soft: Floats32 = scipy.ndimage.gaussian_filter1d(across, over_px, axis=0)
    return soft


def _vignette(high: int, wide: int, share: float) -> Floats32:
    y, x = np.mgrid[0:high, 0:wide].astype(np.float32)
    away = ((x + 0.5) / wide * 2.0 - 1.0) ** 2 + ((y + 0.5) / high * 2.0 - 1.0) ** 2
    fall: Floats32 = (1.0 - np.float32(share) * np.clip(away / 2.0, 0.0, 1.0) ** 1.5).astype(np.float32)
    return fall


def curve_table(points: Sequence[Vec2]) -> Floats:
    """(1025,) what brightnesses evenly from 0 to 1 become under a curve through these points, and through
    black and white where none of them lies there: monotone cubic pieces (Fritsch and Carlson), without
    overshooting."""
    points_held = {0.0: 0.0, **({} if points and points[-1][0] >= 1.0 else {1.0: 1.0}), **dict(points)}
    places = sorted(points_held)
    table: Floats = np.clip(
        scipy.interpolate.PchipInterpolator(places, [points_held[place] for place in places])(
            np.linspace(0.0, 1.0, 1025)
        ),
        0.0,
        1.0,
    )
    return table


def _curved(shown: Floats32, tone: Tone) -> Floats32:
    # Straight between the table's places; numpy.interp would search for each pixel.
    table = curve_table(tone.curve).astype(np.float32)
    place = np.clip(shown, 0.0, 1.0) * np.float32(len(table) - 1)
    low = np.minimum(place.astype(np.int32), len(table) - 2)
    curve: Floats32 = table[low] + (table[low + 1] - table[low]) * (place - low)
    return curve.astype(np.float32)


def _sharpened(shown: Floats32, share: float, alpha: Floats32 | None, around: bool) -> Floats32:
    detail = shown - _softened(shown, 0.8, around)
    if alpha is not None:
        detail = detail * (alpha[..., None] >= 0.999)
    sharp: Floats32 = np.clip(shown + np.float32(share) * detail, 0.0, 1.0).astype(np.float32)
    return sharp


def proposed_ev(light: Floats32, alpha: Floats32 | None = None) -> float:
    """The exposure at which the middle of a picture (the mean of its logarithm, without its brightest
    hundredth) comes out as middle grey: an EV, lower is brighter."""
    grey = light @ LUMINANCE
    known = grey > 1e-3 if alpha is None else (grey > 1e-3) & (alpha > 0.5)
    values = np.sort(grey[known])
    if not len(values):
        return 10.0
    inner = values[: max(1, int(len(values) * 0.99))]
    middle = float(np.exp(np.log(inner).mean()))
    # The curve makes 0.18 of x = MIDDLE / (1.6 - 0.18 x 0.86 x 1.6), as far as its shoulder is away.
    wanted = MIDDLE / (BOOST - MIDDLE * SHOULDER * BOOST)
    return float(np.log2(middle / (SENSOR * wanted)))


def clipped(shown: Floats32) -> tuple[float, float]:
    """Shares of a displayed picture that are black in every channel, and white in any."""
    return float((shown.max(axis=2) <= 0.5 / 255).mean()), float((shown.max(axis=2) >= 254.5 / 255).mean())


def histogram(shown: Floats32, bins: int = 128) -> Floats:
    """(3, bins) shares of displayed values, for red, green and blue."""
    counts = [
        np.histogram(shown[..., channel], bins, (0.0, 1.0))[0] / shown[..., channel].size
        for channel in range(3)
    ]
    return np.stack(counts).astype(float)
