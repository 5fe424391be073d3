"""Viewpoints and answers as BCF 2.1 and 3.0 (buildingSMART's published formats), written by the library of
that name.

A perspective camera with its vertical field of view and, from 3.0 on, its proportion; near and far bound and
wall cuts as clipping planes, whose direction points into what is not seen; what is left out by IFC GUID.
"""

from __future__ import annotations

import datetime
import math
import re
import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from bcf.v2 import model as two
from bcf.v2.bcfxml import BcfXml as Bcf2
from bcf.v2.topic import TopicHandler as Topic2
from bcf.v2.visinfo import VisualizationInfoHandler as Visual2
from bcf.v3 import model as three
from bcf.v3.bcfxml import BcfXml as Bcf3
from bcf.v3.topic import TopicHandler as Topic3
from bcf.v3.visinfo import VisualizationInfoHandler as Visual3
from xsdata.models.datatype import XmlDateTime

from altana.core.conventions import Floats, Vec3
from altana.core.project import Camera, Comment, Remark

VERSIONS = ("2.1", "3.0")
#: What 2.1 allows a field of view to be, degrees.
NARROWEST_21_DEG, WIDEST_21_DEG = 45.0, 60.0
#: An IFC GUID as files have it.
GUID = re.compile(r"[0-9A-Za-z_$]{22}")
_OURS = uuid.UUID("5d3e6c0a-5a0f-5f0e-9d5e-2b1c61a5c0a1")


@dataclass(frozen=True, slots=True)
class Sending:
    """One topic: a camera with its picture (PNG), what it does not show, and the remark that it answers, if
    it answers one."""

    camera: Camera
    picture: bytes
    hidden: tuple[str, ...] = ()
    remark: Remark | None = None


def own_id(*parts: str) -> str:
    """A GUID that follows from what it names: the same thing sent twice is the same topic."""
    return str(uuid.uuid5(_OURS, "/".join(parts)))


def unheld_in_bcf(cameras: Sequence[Camera], version: str) -> list[str]:
    """What the format does not hold of these cameras, in sentences, before anything is written."""
    sentences = []

    def names(bounded: Sequence[Camera]) -> str:
        return ", ".join(item.name for item in bounded[:4]) + (
            f" and {len(bounded) - 4} more" if len(bounded) > 4 else ""
        )

    shifted = [item for item in cameras if item.rise_mm or item.cross_mm]
    if shifted:
        sentences.append(
            f"BCF has no shifted lenses: the picture beside it is right, the viewpoint looks along the axis: {names(shifted)}."
        )
    cut = [item for item in cameras if item.cuts]
    if cut:
        sentences.append(
            f"BCF's planes have no ends, so a wall cut cuts all that lies before its plane: {names(cut)}."
        )
    if version == "2.1":
        outside = [item for item in cameras if not NARROWEST_21_DEG <= _up_deg(item) <= WIDEST_21_DEG]
        if outside:
            sentences.append(
                f"BCF 2.1 allows 45° to 60° up, and these are written as they are, which most readers take; 3.0 holds them: {names(outside)}."
            )
        sentences.append("BCF 2.1 does not hold a view's proportion; the picture beside it tells it.")
    return sentences


def _up_deg(camera: Camera) -> float:
    _, _, bottom, top = camera.view().edges()
    return math.degrees(2.0 * math.atan((top - bottom) / 2.0))


def write_bcf(
    path: Path,
    project: str,
    author: str,
    sent: Sequence[Sending],
    offset: Vec3,
    version: str,
    now: datetime.datetime,
) -> None:
    """Write topics.  offset : metres, what the model's file has been moved by.  now : when they are said."""
    when = XmlDateTime.from_datetime(now.replace(microsecond=0, tzinfo=datetime.UTC))
    who = author or "Altana"
    if version == "2.1":
        _write_two(path, project, who, sent, offset, when)
    else:
        _write_three(path, project, who, sent, offset, when)


@dataclass(frozen=True, slots=True)
class _Words:
    """What a topic says."""

    topic: str
    title: str
    description: str | None
    author: str
    date: XmlDateTime
    status: str
    comments: tuple[Comment, ...]
    viewpoint: str


def _words(item: Sending, project: str, who: str, when: XmlDateTime) -> _Words:
    camera, remark = item.camera, item.remark
    if remark is None:
        topic = own_id(project, camera.id or camera.name)
        comments = (Comment(who, str(when), camera.note),) if camera.note.strip() else ()
        title = camera.intent.strip() or camera.name
        return _Words(topic, title, camera.name, who, when, "Open", comments, own_id(topic, "viewpoint"))
    answer = Comment(who, str(when), remark.answer or f"Shown by “{camera.name}”.")
    return _Words(
        remark.id,
        remark.title,
        remark.words or None,
        remark.author or who,
        _date(remark.date) or when,
        "Closed" if remark.answered else "Open",
        (*remark.comments, answer),
        own_id(remark.id, "answer", camera.id or camera.name),
    )


def _date(text: str) -> XmlDateTime | None:
    try:
        return XmlDateTime.from_string(text)
    except ValueError:
        return None


def _planes(camera: Camera) -> list[tuple[Floats, Floats]]:
    """A place on each plane, and the way into what is not seen."""
    ahead, eye = camera.pose.forward, np.asarray(camera.eye, float)
    planes = []
    if camera.near is not None:
        planes.append((eye + ahead * camera.near, -ahead))
    if camera.far is not None:
        planes.append((eye + ahead * camera.far, ahead))
    for cut in camera.cuts:
        planes.append((np.asarray(cut.place, float) + cut.normal * cut.offset_m, -cut.normal))
    return planes


def _numbers(values: Floats) -> dict[str, float]:
    return dict(zip("xyz", (round(float(value), 9) for value in values), strict=True))


def _seen(camera: Camera, offset: Vec3) -> tuple[dict[str, float], dict[str, float], dict[str, float]]:
    _, up, ahead = camera.pose.axes()
    return _numbers(np.asarray(camera.eye) + offset), _numbers(ahead), _numbers(up)


def _guids(item: Sending) -> list[str]:
    return [guid for guid in item.hidden if GUID.fullmatch(guid)]


def _comment_id(topic: str, number: int, said: Comment) -> str:
    return own_id(topic, str(number), said.author, said.date, said.text)


# ---------------------------------------------------------------------- 2.1


def _write_two(
    path: Path, project: str, who: str, sent: Sequence[Sending], offset: Vec3, when: XmlDateTime
) -> None:
    file = Bcf2.create_new(project)
    file.version = two.Version(version_id="2.1", detailed_version="2.1")
    if file.project is not None:
        file.project.project_id = own_id(project)
    for item in sent:
        words = _words(item, project, who, when)
        topic = two.Topic(
            guid=words.topic, title=words.title, description=words.description, creation_author=words.author,
            creation_date=words.date, topic_type="Remark" if item.remark else "View", topic_status=words.status,
        )  # fmt: skip
        comments = [
            two.Comment(
                guid=_comment_id(words.topic, number, comment), date=_date(comment.date) or when, author=comment.author or who, comment=comment.text or "–",
                viewpoint=two.CommentViewpoint(guid=words.viewpoint) if number == len(words.comments) - 1 else None,
            )
            for number, comment in enumerate(words.comments)
        ]  # fmt: skip
        point = two.ViewPoint(
            guid=words.viewpoint, viewpoint=f"{words.viewpoint}.bcfv", snapshot=f"{words.viewpoint}.png"
        )
        markup = two.Markup(topic=topic, comment=comments, viewpoints=[point])
        document = Topic2(topic_dir=Path(words.topic))  # type: ignore[arg-type]
        document.markup = markup
        document.viewpoints[f"{words.viewpoint}.bcfv"] = Visual2(
            _visual_two(item, words.viewpoint, offset), item.picture
        )
        file.topics[words.topic] = document
    file.save(path)


def _visual_two(item: Sending, guid: str, offset: Vec3) -> Any:
    eye, ahead, up = _seen(item.camera, offset)
    hidden = [two.Component(ifc_guid=one) for one in _guids(item)]
    components = two.Components(
        visibility=two.ComponentVisibility(
            default_visibility=True,
            exceptions=two.ComponentVisibilityExceptions(component=hidden) if hidden else None,
        )
    )
    planes = [
        two.ClippingPlane(
            location=two.Point(**_numbers(place + offset)), direction=two.Direction(**_numbers(way))
        )
        for place, way in _planes(item.camera)
    ]
    return two.VisualizationInfo(
        guid=guid,
        components=components,
        perspective_camera=two.PerspectiveCamera(
            camera_view_point=two.Point(**eye),
            camera_direction=two.Direction(**ahead),
            camera_up_vector=two.Direction(**up),
            field_of_view=round(_up_deg(item.camera), 9),
        ),
        clipping_planes=two.VisualizationInfoClippingPlanes(clipping_plane=planes) if planes else None,
    )


# ---------------------------------------------------------------------- 3.0


def _write_three(
    path: Path, project: str, who: str, sent: Sequence[Sending], offset: Vec3, when: XmlDateTime
) -> None:
    file = Bcf3.create_new(project)
    if file.project is not None:
        file.project.project_id = own_id(project)
    file.extensions = three.Extensions(
        topic_types=three.ExtensionsTopicTypes(topic_type=["Remark", "View"]),
        topic_statuses=three.ExtensionsTopicStatuses(topic_status=["Open", "Closed"]),
        users=three.ExtensionsUsers(user=sorted({who, *(comment.author for item in sent if item.remark for comment in item.remark.comments if comment.author)})),
    )  # fmt: skip
    for item in sent:
        words = _words(item, project, who, when)
        point = three.ViewPoint(
            guid=words.viewpoint, viewpoint=f"{words.viewpoint}.bcfv", snapshot=f"{words.viewpoint}.png"
        )
        comments = [
            three.Comment(
                guid=_comment_id(words.topic, number, comment), date=_date(comment.date) or when, author=comment.author or who, comment=comment.text or "–",
                viewpoint=three.CommentViewpoint(guid=words.viewpoint) if number == len(words.comments) - 1 else None,
            )
            for number, comment in enumerate(words.comments)
        ]  # fmt: skip
        topic = three.Topic(
            guid=words.topic, title=words.title, description=words.description, creation_author=words.author,
            creation_date=words.date, topic_type="Remark" if item.remark else "View", topic_status=words.status,
            comments=three.TopicComments(comment=comments) if comments else None, viewpoints=three.TopicViewpoints(view_point=[point]),
        )  # fmt: skip
        document = Topic3(topic_dir=Path(words.topic))  # type: ignore[arg-type]
        document.markup = three.Markup(topic=topic)
        document.viewpoints[f"{words.viewpoint}.bcfv"] = Visual3(
            _visual_three(item, words.viewpoint, offset), item.picture
        )
        file.topics[words.topic] = document
    file.save(path)


def _visual_three(item: Sending, guid: str, offset: Vec3) -> Any:
    eye, ahead, up = _seen(item.camera, offset)
    hidden = [three.Component(ifc_guid=one) for one in _guids(item)]
    left, right, bottom, top = item.camera.view().edges()
    planes = [
        three.ClippingPlane(
            location=three.Point(**_numbers(place + offset)), direction=three.Direction(**_numbers(way))
        )
        for place, way in _planes(item.camera)
    ]
    return three.VisualizationInfo(
        guid=guid,
        components=three.Components(
            visibility=three.ComponentVisibility(
                default_visibility=True,
                exceptions=three.ComponentVisibilityExceptions(component=hidden) if hidden else None,
            )
        ),
        perspective_camera=three.PerspectiveCamera(
            camera_view_point=three.Point(**eye),
            camera_direction=three.Direction(**ahead),
            camera_up_vector=three.Direction(**up),
            field_of_view=round(_up_deg(item.camera), 9),
            aspect_ratio=round((right - left) / (top - bottom), 9),
        ),
        clipping_planes=three.VisualizationInfoClippingPlanes(clipping_plane=planes) if planes else None,
    )
