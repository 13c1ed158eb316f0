"""What is kept of a job for good: everything read on it, and everything written to its inverter.

Append-only: a correction is a new reading that supersedes.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated, Literal

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import Host, Identity, Name, Note, Port, UnitId
from core.base.quantity import Items, Quantity, Text
from core.base.signs import unwritten
from core.figures.grid_profiles import point_kinds
from core.job.reading_kinds import KINDS, Basis, ReadingKind, SubjectOf
from core.job.reading_values import Answer, Measured, Said, Value

EvidenceForm = Literal["image/jpeg", "image/png", "application/pdf"]
Outcome = Literal[
    "begun",
    "read_back",
    "unreachable",
    "silent",
    "closed",
    "garbage",
    "refused",
    "wrong_device",
    "other_device",
]

# The moments of a loss-of-supply test, in their order.
LOSS_MOMENTS = ("opened", "stopped", "closed", "returned")
# What is looked over before the tests, and the half-waves on which a residual device is tried.
LOOKED_OVER = ("covers", "entries", "apart", "labels")
# What is tried beyond the switches once all is connected.
FUNCTIONAL = ("inverter", "controls")
HALF_WAVES = ("0°", "180°")
# What stands for the whole job where a reading is of no single plane or string.
SITE, INVERTER, EARTH = "site", "inverter", "earth"


# Goods by their lines, labels by their words: what there is of them follows from the whole plan.
OF_ANY: tuple[SubjectOf, ...] = ("anything", "label")
DeviceName = Annotated[str, Text("device", 0, 60)]
Fingerprint = Annotated[str, Text("fingerprint", 0, 16)]
FORM_ALLOWED = {
    "measured": "a number",
    "answer": "true for the good answer, false for the other",
    "said": "a text",
}


@dataclass(frozen=True, kw_only=True)
class Reading(Checked):
    """One thing read, for good. taken_at: when it was measured; kept_at: when written down.

    subject: the plane, string, conductor pair or setting that was read. value: a figure, an
    answer or a text, as its kind has it. supersedes: the reading that this one corrects.
    fingerprint: of what it was read of; retest: what it supersedes was not misread, it was made
    anew. learner: whoever took it is still learning; it counts once somebody countersigned it, by
    a reading of the same value that supersedes it. device: on what it was noted, where that had no
    way to the server then; kept_at is when it came in. unseen: whoever took it had not seen what it
    supersedes, another's correction of the same reading: neither counts until one is chosen.
    """

    id: Identity
    kind: ReadingKind
    subject: Name
    value: Value
    basis: Basis
    taken_at: datetime
    kept_at: datetime
    by: Name
    instrument: Note = ""
    note: Note = ""
    supersedes: Identity | None = None
    fingerprint: Fingerprint = ""
    retest: bool = False
    learner: bool = False
    device: DeviceName = ""
    unseen: bool = False

    def contradictions(self) -> Iterator[Problem]:
        spec = KINDS[self.kind]
        if self.value.form != spec.form:
            yield problem("$.value", self.value.plain(), FORM_ALLOWED[spec.form])
        if isinstance(self.value, Measured):
            if spec.quantity and (found := spec.quantity.problem("$.value", self.value.number)):
                yield found
            if self.value.beyond and not spec.ranged:
                yield problem("$.value", self.value.plain(), "a figure within the tester's range")
        if isinstance(self.value, Said) and (wrong := unwritten(self.value.text)) is not None:
            yield problem("$.value", ascii(self.value.text)[:60], "signs that can be read", wrong)
        if isinstance(self.value, Said) and Said.from_plain(self.value.text) is None:
            yield problem("$.value", self.value.text, f"1 to {Said.MOST_CHARS} characters")
        if self.basis not in spec.bases:
            yield problem("$.basis", self.basis, "measured; only irradiance may be clear_sky")
        if self.unseen and self.supersedes is None:
            yield problem("$.unseen", self.unseen, "true only of what supersedes a reading")

    @property
    def number(self) -> float:
        """The figure that was read. Raises TypeError for what is read as no figure."""
        if not isinstance(self.value, Measured):
            raise TypeError(f"{self.kind} is read as {self.value.form}, not as a figure")
        return self.value.number

    @property
    def is_good(self) -> bool:
        """Whether a question with two answers got the good one."""
        return isinstance(self.value, Answer) and self.value.good

    @property
    def sign(self) -> int:
        """An answer as the rules take it: 1 the good one, -1 the other."""
        return 1 if self.is_good else -1

    @property
    def text(self) -> str:
        """The text that was read; nothing for what is read as no text."""
        return self.value.text if isinstance(self.value, Said) else ""


@dataclass(frozen=True, kw_only=True)
class Evidence(Checked):
    """One picture or document kept as evidence of a step, for good.

    step: the key of what is read, or the id of a stage's line. sha256: of the stored bytes, by
    which the picture itself is found. located: whether it still says where it was taken.
    """

    id: Identity
    step: Annotated[str, Text("step", 1, 120)]
    name: Name
    form: EvidenceForm
    size_bytes: Annotated[int, Quantity("size", "bytes", 1, 20_000_000)]
    sha256: Annotated[str, Text("SHA-256", 64, 64)]
    kept_at: datetime
    by: Name
    note: Note = ""
    located: bool = False


@dataclass(frozen=True, kw_only=True)
class DeviceLabel(Checked):
    """What the device says of itself."""

    maker: Note
    model: Note
    serial: Note
    version: Note


@dataclass(frozen=True, kw_only=True)
class DevicePlate(Checked):
    """What the device's registers say of its rating.

    phases: 1, 2 for split phase, 3. models: numbers of its register models in their order.
    speaks: which of them carry settings.
    """

    rated_w: float | None
    nominal_v: float | None
    phases: int | None
    models: Annotated[tuple[int, ...], Items("register models", 0, 60)]
    speaks: Literal["newer", "older", "none"]


@dataclass(frozen=True, kw_only=True)
class SettingValue(Checked):
    """One setting as the device gave it back."""

    id: Name
    value: float


SettingIds = Annotated[tuple[Name, ...], Items("settings", 0, 80)]


@dataclass(frozen=True, kw_only=True)
class SettingsWritten(Checked):
    """One attempt to give the inverter its profile, for good: who, when, what came back.

    only_read: nothing was written, the inverter was looked at. carried: settings for which it has
    registers; the others are set by hand. sent, refused: what was written and what of it the
    inverter would not take. read: settings that were read afterwards; one of them that is not in
    `readback` the inverter does not hold. A writing that began is kept before its first register is
    touched, with the outcome *begun*; what became of it names it in `begun`.
    """

    id: Identity
    at: datetime
    by: Name
    profile: Name
    host: Host
    port: Port
    unit_id: UnitId
    outcome: Outcome
    detail: Note
    device: DeviceLabel | None
    readback: Annotated[tuple[SettingValue, ...], Items("settings read back", 0, 80)]
    only_read: bool = False
    plate: DevicePlate | None = None
    carried: SettingIds = ()
    sent: SettingIds = ()
    refused: SettingIds = ()
    read: SettingIds = ()
    begun: Identity | None = None

    def contradictions(self) -> Iterator[Problem]:
        for field in ("carried", "sent", "refused", "read"):
            for index, setting in enumerate(getattr(self, field)):
                if setting not in point_kinds():
                    yield problem(f"$.{field}[{index}]", setting, "a known setting")
        for index, one in enumerate(self.readback):
            if one.id not in point_kinds():
                yield problem(f"$.readback[{index}].id", one.id, "a known setting")


def reading_problems(
    readings: tuple[Reading, ...], subjects: Mapping[SubjectOf, frozenset[str]]
) -> Iterator[Problem]:
    """What is wrong between the readings of a job: doubles, unknown subjects, corrections."""
    earlier: dict[str, Reading] = {}
    superseded: set[str] = set()
    for index, reading in enumerate(readings):
        path = f"$.readings[{index}]"
        if reading.id in earlier:
            yield problem(f"{path}.id", reading.id, "each identity once")
        if (of := KINDS[reading.kind].of) not in OF_ANY and reading.subject not in subjects[of]:
            allowed = " · ".join(sorted(subjects[of]))
            yield problem(f"{path}.subject", reading.subject, allowed)
        if reading.supersedes is not None:
            target = earlier.get(reading.supersedes)
            same = target and (target.kind, target.subject) == (
                reading.kind,
                reading.subject,
            )
            if not same or reading.supersedes in superseded:
                allowed = "an earlier reading of the same thing that is not superseded yet"
                yield problem(f"{path}.supersedes", reading.supersedes, allowed)
            superseded.add(reading.supersedes)
        earlier[reading.id] = reading


def superseded_ids(readings: tuple[Reading, ...]) -> frozenset[str]:
    """Identities of the readings that a later one corrects."""
    return frozenset(r.supersedes for r in readings if r.supersedes is not None)
