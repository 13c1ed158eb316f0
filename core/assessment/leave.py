"""The shape of stage 10: labels, open points by who must act, signatures, the looks afterwards."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from typing import Literal

from core.assessment.permissions import PermissionId
from core.base.glossary import LabelId
from core.base.judgement import Judgement, Verdict
from core.job.leave import LookSource, SignForm, SignRole, SkyBasis

Actor = Literal["crew", "licensed", "tester", "office", "owner", "operator"]


@dataclass(frozen=True, kw_only=True)
class LabelState:
    """One label as it is to be printed. key: by what it is said to be stuck; own: in the crew's own
    words; without: why there is none of it; seen: whether it was said to be stuck; verdict:
    of it as it stands."""

    key: str
    id: LabelId
    title: str
    of: str
    where: str
    count: int
    text: str
    own: bool
    without: str
    letter_mm: int
    width_mm: float
    height_mm: float
    colours: str
    outdoors: bool
    source: str
    stuck: bool
    verdict: Verdict
    judgements: tuple[Judgement, ...]


@dataclass(frozen=True, kw_only=True)
class LabelSize:
    """Labels of one size, and how they lie on A4."""

    width_mm: float
    height_mm: float
    labels: int
    columns: int
    rows: int
    sheets: int


@dataclass(frozen=True, kw_only=True)
class PointLine:
    """One open point: number of it in the assessment's list, and what it holds up."""

    index: int
    holds: tuple[PermissionId, ...]


@dataclass(frozen=True, kw_only=True)
class PointGroup:
    """Open points of one who must act. holds: what all of them together hold up, in words."""

    actor: Actor
    title: str
    holds: str
    points: tuple[PointLine, ...]


@dataclass(frozen=True, kw_only=True)
class RoleState:
    """One signature that the record wants. name: who signed; current: of the job as it is now."""

    role: SignRole
    title: str
    about: str
    name: str
    licence: str
    at: datetime | None
    form: SignForm | None
    drawn: str
    note: str
    current: bool


@dataclass(frozen=True, kw_only=True)
class WatchLine:
    """A watch that whoever answers takes on. key: by which it is taken on; by: who did."""

    key: str
    where: str
    reason: str
    by: str


@dataclass(frozen=True, kw_only=True)
class SignState:
    """How far the record is signed. digest: of the job as it is, empty while nobody signed;
    signed: all of it, as it is now; changed: it was signed, and the job is another since."""

    verdict: Verdict
    line: str
    digest: str
    signed: bool
    changed: bool
    roles: tuple[RoleState, ...]
    watches: tuple[WatchLine, ...]
    judgements: tuple[Judgement, ...]


@dataclass(frozen=True, kw_only=True)
class LookDue:
    """A look that is due after the day. due: None while it does not run; late: it should have been
    made by now; seen: the day of the look that served it."""

    id: str
    title: str
    what: str
    due: date | None
    verdict: Verdict
    late: bool
    seen: date | None


@dataclass(frozen=True, kw_only=True)
class YieldPart:
    """What one part of the plant gave beside the others. share: of all; expected: its share as
    planned; kwh_per_kwp: by its own peak, where that is known."""

    part: str
    kwh: float
    share: float
    expected_share: float | None
    kwh_per_kwp: float | None
    verdict: Verdict


@dataclass(frozen=True, kw_only=True)
class YieldReason:
    """One reason why it may have given less, likeliest first, and what to read next."""

    id: str
    title: str
    because: str
    read_next: str
    points: float


@dataclass(frozen=True, kw_only=True)
class YieldLoss:
    """One loss of the model, by its name and source."""

    name: str
    pct: float
    source: str


@dataclass(frozen=True, kw_only=True)
class YieldState:
    """One look at the yield: read beside expected, its parts beside each other, and why it may be
    short. low_kwh, high_kwh: the honest band of what was due on these days."""

    id: str
    at: datetime
    by: str
    source: LookSource
    basis: SkyBasis
    share: float | None
    first_day: date
    last_day: date
    days_read: int
    read_kwh: float | None
    expected_kwh: float | None
    low_kwh: float | None
    high_kwh: float | None
    band_said: str
    verdict: Verdict
    judgements: tuple[Judgement, ...]
    parts: tuple[YieldPart, ...]
    reasons: tuple[YieldReason, ...]
    losses: tuple[YieldLoss, ...]
    faults: tuple[str, ...]
    note: str


@dataclass(frozen=True, kw_only=True)
class LeaveStage:
    """Stage 10: everything that ends the job, and what brings somebody back to it. parts: of which
    energy may be read. sizes: for stock of one size; sheets: of A4, all sizes together."""

    line: str
    judgements: tuple[Judgement, ...]
    labels: tuple[LabelState, ...]
    sizes: tuple[LabelSize, ...]
    sheets: int
    open: tuple[PointGroup, ...]
    signing: SignState
    looks_due: tuple[LookDue, ...]
    yields: tuple[YieldState, ...]
    parts: tuple[str, ...]
    drift: Judgement | None
