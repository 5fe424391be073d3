"""The check of one camera as a whole, what in it is trouble, and what mends it."""

from __future__ import annotations

from dataclasses import dataclass

from altana.core.checks.composition import Composition
from altana.core.checks.cut_faces import CutFaces
from altana.core.checks.gaps import NO_GAPS, Gaps
from altana.core.checks.perspective import Perspective
from altana.core.checks.verticals import NO_VERTICALS, Verticals
from altana.core.lens import stretch_grade
from altana.core.project import Camera, Limits

NO_CUT = CutFaces()
UPRIGHT = Perspective(2, 0.0, "")


@dataclass(frozen=True, slots=True)
class RemovedObject:
    """An object that the far bound takes out of a picture, its share of the frame there, and the far
    distances, in metres, from which it begins to be back and is back as a whole."""

    object_id: str
    name: str
    share: float
    back_at_m: float
    whole_at_m: float = 0.0


@dataclass(frozen=True, slots=True)
class FarLoss:
    """What a far bound leaves out: objects gone from the picture, the share of the model's triangles wholly
    beyond it, and the share of the drawing time that it saved, as measured."""

    removed: tuple[RemovedObject, ...] = ()
    model_share: float = 0.0
    time_saved: float = 0.0


NO_LOSS = FarLoss()


@dataclass(frozen=True, slots=True)
class CameraCheck:
    """Everything found about one camera's picture."""

    composition: Composition
    cut: CutFaces = NO_CUT
    verticals: Verticals = NO_VERTICALS
    perspective: Perspective = UPRIGHT
    gaps: Gaps = NO_GAPS
    far: FarLoss = NO_LOSS


@dataclass(frozen=True, slots=True)
class Trouble:
    """Something wrong in a picture: a code, a few words for a badge, one sentence, and the codes of what
    mends it."""

    code: str
    words: str
    sentence: str
    mends: tuple[str, ...] = ()


#: What each mend is called on a button.
MENDS = {
    "plumb": "Plumb",
    "cap": "Cap the cut",
    "leave-out": "Leave the objects out",
    "clear": "Move the bound clear",
    "wall-cut": "Make it a wall cut",
    "panel": "Panel across the gaps",
    "ground": "Ground to the horizon",
    "far-off": "Show all beyond",
    "far-back": "Move the far bound back",
    "calmer-lens": "Calmer lens",
    "eye-height": "Onto the floor",
    "go": "Go there",
}


def troubles(
    camera: Camera, checks: CameraCheck | None, limits: Limits, standing: str = ""
) -> tuple[Trouble, ...]:
    """What a client would see before we do, worst first.

    standing : what is wrong with where the eye stands, in a sentence; checks : None before the picture was
    looked at.
    """
    troubles: list[Trouble] = []
    if standing:
        troubles.append(
            Trouble(
                "standing", standing[:1].lower() + standing[1:].rstrip("."), standing, ("eye-height", "go")
            )
        )
    if checks is not None:
        troubles += _cuts(camera, checks, limits) + _gaps(checks, limits)
        worst = checks.verticals.worst_px
        if worst > limits.vertical_px and not camera.looks_down:
            sentence = f"Vertical edges deviate by up to {worst:.1f} px from vertical."
            troubles.append(Trouble("verticals", f"verticals {worst:.0f} px off", sentence, ("plumb",)))
        if checks.far.removed:
            lost = checks.far.removed[0]
            sentence = f"The far bound takes {len(checks.far.removed)} objects out of the picture; {lost.name} is back at {lost.back_at_m:.1f} m."
            if checks.gaps.background > limits.gap_share:
                troubles.append(
                    Trouble(
                        "far",
                        f"far bound cuts {checks.gaps.background * 100:.1f} %",
                        sentence,
                        ("far-back", "far-off"),
                    )
                )
    view = camera.view()
    if stretch_grade(view, limits) == 2:
        stretch = view.edge_stretch()
        troubles.append(
            Trouble(
                "stretch",
                f"edge stretch ×{stretch:.2f}",
                f"The corners are drawn out ×{stretch:.2f}.",
                ("calmer-lens",),
            )
        )
    return tuple(troubles)


def _cuts(camera: Camera, checks: CameraCheck, limits: Limits) -> list[Trouble]:
    if checks.cut.share < limits.cut_share or camera.cap:
        return []
    names = ", ".join(name for _, name in checks.cut.opened[:3])
    more = f" and {len(checks.cut.opened) - 3} more" if len(checks.cut.opened) > 3 else ""
    sentence = f"{checks.cut.share * 100:.1f} % of the frame shows cut faces of {names}{more}."
    mends = ("cap", "leave-out", "clear", "wall-cut") if camera.near is not None else ("cap", "leave-out")
    return [Trouble("cut", f"{checks.cut.share * 100:.1f} % cut faces", sentence, mends)]


def _gaps(checks: CameraCheck, limits: Limits) -> list[Trouble]:
    gaps = []
    if checks.gaps.out > limits.gap_share:
        sentence = f"{checks.gaps.out * 100:.1f} % of the frame looks out through holes that are not glazed."
        gaps.append(Trouble("gap", f"{checks.gaps.out * 100:.1f} % through a gap", sentence, ("panel",)))
    if checks.gaps.ground_ends > limits.gap_share:
        sentence = f"The ground ends in view: {checks.gaps.ground_ends * 100:.1f} % of the frame below the horizon is empty."
        gaps.append(Trouble("ground", "ground ends in view", sentence, ("ground",)))
    return gaps
