"""What leaves with the job: who is called, how labels read, who signed, what was seen later."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime
from typing import Annotated, Literal

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import (
    Identity,
    InspectionMonths,
    LabelId,
    LabelSpacingM,
    Name,
    Note,
    ReadFromM,
)
from core.base.quantity import Items, Quantity, Text

SignRole = Literal["did", "answers", "accepts"]
SIGN_ROLES: tuple[SignRole, ...] = ("did", "answers", "accepts")
SignForm = Literal["typed", "drawn", "absent"]
LookSource = Literal["typed", "device", "portal"]
SkyBasis = Literal["clear_sky", "level", "plane"]
PLANT = "plant"
# A signature that was drawn: lines of points in a field of 1000 by 400.
DRAWN = re.compile(
    r"^(M\d{1,4} \d{1,3}( L\d{1,4} \d{1,3})*)( M\d{1,4} \d{1,3}( L\d{1,4} \d{1,3})*)*$"
)
MOST_DAYS = 31
STEPS_A_DAY = (24, 96)

LabelWords = Annotated[str, Text("words of the label", 1, 200)]
Digest = Annotated[str, Text("SHA-256", 64, 64)]
Kwh = Annotated[float, Quantity("energy of a day", "kWh", -10_000, 100_000)]
Share = Annotated[float, Quantity("share of a clear sky", "", 0.01, 1.2)]
MeanAirC = Annotated[float, Quantity("mean air of the days", "°C", -60, 60)]
OnPlane = Annotated[float, Quantity("irradiance on the plane", "W/m²", 0, 1600)]
Part = Annotated[str, Text("part of the plant", 1, 70)]


@dataclass(frozen=True, kw_only=True)
class OwnLabel(Checked):
    """A label that the crew words, or leaves out: of which kind, at what. without: why there is
    none of it; text: empty for the pack's own words."""

    id: LabelId
    of: Name
    text: Annotated[str, Text("words of the label", 0, 200)] = ""
    without: Note = ""
    distance_m: ReadFromM | None = None


@dataclass(frozen=True, kw_only=True)
class Place(Checked):
    """Where something hangs, in the words that a label and the owner's pages say."""

    of: Name
    said: Name


@dataclass(frozen=True, kw_only=True)
class LeavePlan(Checked):
    """What the job leaves behind, as far as a person says it.

    customer: who accepts; call_name, call_number: whom the owner calls. inspection_months,
    label_spacing_m: where another than the pack's. supply_place: where the supply point is.
    """

    customer: Note = ""
    call_name: Note = ""
    call_number: Note = ""
    inspection_months: InspectionMonths | None = None
    label_spacing_m: LabelSpacingM | None = None
    labels: Annotated[tuple[OwnLabel, ...], Items("labels of one's own", 0, 400)] = ()
    places: Annotated[tuple[Place, ...], Items("places", 0, 200)] = ()
    owner_note: Annotated[str, Text("note for the owner", 0, 600)] = ""

    def contradictions(self) -> Iterator[Problem]:
        for field, names in (
            ("labels", [f"{one.id} {one.of}" for one in self.labels]),
            ("places", [one.of for one in self.places]),
        ):
            for index, name in enumerate(names):
                if name in names[:index]:
                    yield problem(f"$.{field}[{index}]", name, "each once")

    def place_of(self, name: str) -> str:
        """Where something hangs; its name where nobody said."""
        return next((one.said for one in self.places if one.of == name), name)

    def own_label(self, label_id: str, of: str) -> OwnLabel | None:
        """What the crew says of a label, if anything."""
        wanted = (label_id, of)
        return next((one for one in self.labels if (one.id, one.of) == wanted), None)


NOTHING_LEFT = LeavePlan()


@dataclass(frozen=True, kw_only=True)
class Signature(Checked):
    """One signature, for good: who, as what, of which state of the job.

    of: the job's digest as it was signed. by: who was signed in; name: who signed. drawn: the
    lines of a drawn one. took_on: open points, each a watch, that were taken on by name. note: why
    nobody accepts, where nobody does. from_file: it was made elsewhere, and signs nothing here.
    """

    id: Identity
    at: datetime
    by: Name
    role: SignRole
    name: Name
    licence: Note = ""
    licence_until: date | None = None
    form: SignForm = "typed"
    drawn: Annotated[str, Text("drawn signature", 0, 20_000)] = ""
    of: Digest
    took_on: Annotated[tuple[Annotated[str, Text("open point", 1, 300)], ...],
                       Items("watches taken on", 0, 500)] = ()  # fmt: skip
    note: Note = ""
    from_file: bool = False

    def contradictions(self) -> Iterator[Problem]:
        if self.form == "drawn" and not DRAWN.match(self.drawn):
            yield problem("$.drawn", self.drawn[:40] or "nothing", "lines drawn on the screen")
        if self.form != "drawn" and self.drawn:
            yield problem("$.drawn", "lines", "none, where it was typed")
        if self.form == "absent" and (self.role != "accepts" or not self.note.strip()):
            allowed = "only the customer may be absent, with the reason"
            yield problem("$.form", self.form, allowed)


@dataclass(frozen=True, kw_only=True)
class DayEnergy(Checked):
    """What a part of the plant gave on a day: the plant, a string as ``string A``, a unit."""

    day: date
    part: Part
    kwh: Kwh


@dataclass(frozen=True, kw_only=True)
class DayLight(Checked):
    """What fell on a plane on a local day, step by step through it."""

    day: date
    plane: Name
    w_per_m2: Annotated[tuple[OnPlane, ...], Items("steps of the day", 24, 96)]


@dataclass(frozen=True, kw_only=True)
class YieldLook(Checked):
    """One look at what the plant gave on some days, for good.

    source: from where the energy is. basis: of the light on the planes, a clear sky times `share`
    or measured on level ground or on the plane. whole: its energy is of all the days together;
    counter_kwh: what the device's own counter showed. faults: what was wrong in a file, and what
    was done about it. sha256: of the file, where there was one.
    """

    id: Identity
    at: datetime
    by: Name
    source: LookSource
    first_day: date
    days: Annotated[int, Quantity("days", "", 1, MOST_DAYS)]
    energy: Annotated[tuple[DayEnergy, ...], Items("energies", 1, 15_000)]
    basis: SkyBasis = "clear_sky"
    share: Share | None = None
    light: Annotated[tuple[DayLight, ...], Items("days of light", 0, 700)] = ()
    t_air_c: MeanAirC | None = None
    whole: bool = False
    counter_kwh: Annotated[float, Quantity("counter", "kWh", 0, 100_000_000)] | None = None
    faults: Annotated[tuple[Note, ...], Items("faults of the file", 0, 60)] = ()
    sha256: Annotated[str, Text("SHA-256", 0, 64)] = ""
    note: Note = ""

    def contradictions(self) -> Iterator[Problem]:
        seen = set()
        for index, one in enumerate(self.energy):
            path = f"$.energy[{index}]"
            if not 0 <= (one.day - self.first_day).days < self.days:
                yield problem(f"{path}.day", one.day.isoformat(), "one of the days looked at")
            if (one.day, one.part) in seen:
                yield problem(path, f"{one.day} {one.part}", "each part once on a day")
            seen.add((one.day, one.part))
        for index, light in enumerate(self.light):
            if len(light.w_per_m2) not in STEPS_A_DAY:
                allowed = "24 hours or 96 quarters"
                yield problem(f"$.light[{index}].w_per_m2", len(light.w_per_m2), allowed)
