"""The shape of stage 9: the grid profile, what the inverter holds of it, how it behaves."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from core.base.judgement import Judgement
from core.job.readings import DeviceLabel, DevicePlate, Outcome

# How far a setting came on its way to the inverter: by hand it takes no way; "": nothing was
# written yet.
Sent = Literal["", "by_hand", "sent", "refused", "not_sent"]


@dataclass(frozen=True, kw_only=True)
class PointState:
    """One setting: what the profile wants, what the inverter gave back, whether they agree.

    where: under which headings devices have it. got_text: empty while it was not read.
    """

    id: str
    title: str
    unit: str
    wanted: float | None
    got: float | None
    wanted_text: str
    got_text: str
    by_hand: bool
    where: str
    sent: Sent
    judgement: Judgement


@dataclass(frozen=True, kw_only=True)
class TripStep:
    """One step of the protection, for the envelope picture."""

    quantity: str
    side: str
    level: float
    time_s: float
    got_level: float | None
    got_time_s: float | None


@dataclass(frozen=True, kw_only=True)
class ResponsePoint:
    """A corner of a response curve: volts or hertz, and percent of the rating."""

    at: float
    pct: float


@dataclass(frozen=True, kw_only=True)
class Response:
    """One response curve: corners of the profile and of the inverter, each empty where it is off.

    x: volts or hertz; y: percent of the rated power, reactive power positive when supplied.
    read: whether the inverter was asked for it.
    """

    name: str
    title: str
    unit: str
    y_title: str
    wanted: tuple[ResponsePoint, ...]
    got: tuple[ResponsePoint, ...]
    read: bool


@dataclass(frozen=True, kw_only=True)
class Attempt:
    """One writing of the profile, or one look at what the inverter holds.

    sent, refused, unread: titles of settings, so that a writing that broke off says what is and
    what is not set.
    """

    id: str
    at: datetime
    by: str
    profile: str
    address: str
    outcome: Outcome
    said: str
    only_read: bool
    device: DeviceLabel | None
    plate: DevicePlate | None
    fingerprint: str | None
    sent: tuple[str, ...]
    refused: tuple[str, ...]
    not_sent: tuple[str, ...]
    unread: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class LossMoment:
    """One moment of the loss-of-supply test; due_at: until when, or from when, it is expected."""

    moment: str
    title: str
    key: str
    at: datetime | None
    due_at: datetime | None
    due_text: str
    is_next: bool


@dataclass(frozen=True, kw_only=True)
class GridStage:
    """Stage 9: the grid profile, and whether the inverter holds it.

    by_hand: every setting is made on the inverter's display. fingerprint: of all that is held,
    read back and by hand, once nothing is missing.
    """

    profile: str | None
    profile_name: str
    profile_edition: str
    profile_note: str
    nominal_v: float | None
    nominal_hz: float | None
    by_hand: bool
    points: tuple[PointState, ...]
    trips: tuple[TripStep, ...]
    responses: tuple[Response, ...]
    attempts: tuple[Attempt, ...]
    loss: tuple[LossMoment, ...]
    fingerprint: str | None
    judgements: tuple[Judgement, ...]
