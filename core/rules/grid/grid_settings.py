"""Whether the inverter holds the grid profile it was given."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from datetime import date

from core.base.glossary import FrequencyHz, Name, NominalV, Note, RatedAcW, SupplyV
from core.base.judgement import Judgement, holds, waiting, within
from core.base.messages import figure, say
from core.base.rule import rule
from core.figures.grid_profiles import known_profiles, point_kinds
from core.figures.grid_profiles import profile as known_profile
from core.job.grid import LETTER

FINGERPRINT_CHARS = 12
GENERIC_PACK = "generic-iec"
PERMIT_SOURCE = "network operator's permit"
READBACK_SOURCE = "grid profile; read back over the open register models"

PLATE_SOURCE = "device's registers against the plan and its nameplate"
# Ratings are written to whole watts and volts; a device of another size is further off than this.
RATED_SHARE_PCT = 1.0


@rule
def setting_agrees(*, point_id: Name, wanted: float | None, got: float | None) -> Judgement:
    """Does the setting read back from the inverter agree with the profile?

    A setting that the profile has and the inverter lacks, or the other way round, is a stop.
    Formula: wanted − tolerance ≤ got ≤ wanted + tolerance, that of the setting.
    Source: grid profile.
    """
    kind = point_kinds()[point_id]
    if wanted is None or got is None:
        return holds(
            "setting_agrees",
            wanted is got,
            READBACK_SOURCE,
            wanted=_or_none(wanted, kind.unit),
            got=_or_none(got, kind.unit),
        )
    low, high = wanted - kind.tolerance, wanted + kind.tolerance
    return within(
        "setting_agrees",
        got,
        low,
        high,
        kind.unit,
        READBACK_SOURCE,
        wanted=_or_none(wanted, kind.unit),
        got=_or_none(got, kind.unit),
    )


def _called(profile: str) -> str:
    """A profile as it is called; that of a letter has no name of its own here."""
    if profile in known_profiles():
        return known_profile(profile).name
    return say("letter", "some") if profile == LETTER else profile


def _or_none(value: float | None, unit: str) -> str:
    return "none" if value is None else figure(value, unit, 3)


@rule
def profile_here(*, profile: Name, zone: Name, rule_pack: Name) -> Judgement:
    """Is the grid profile made for the place where the house stands, and for its rule pack?

    zone: the site's time zone. The generic pack goes with every profile.
    Source: the profile's own region; the network operator's requirement wins.
    """
    chosen = known_profile(profile)
    facts = {"zone": zone, "pack": rule_pack}
    fits = {
        "zone": chosen.covers(zone),
        "pack": rule_pack in (*chosen.packs, GENERIC_PACK),
    }
    wrong = next((why for why, good in fits.items() if not good), "zone")
    return holds(
        "profile_here",
        all(fits.values()),
        chosen.edition,
        name=chosen.name,
        place=zone,
        why=say("profile_why", wrong, **facts),
    )


@rule
def profile_permitted(
    *, profile: Name, wanted: Name | None = None, operator: Name = "The network operator"
) -> Judgement:
    """Is it the profile of the code and variant that the network operator demands?

    Unsaid: watch.
    Source: network operator's permit.
    """
    return holds(
        "profile_permitted",
        profile == wanted,
        PERMIT_SOURCE,
        bad="watch" if wanted is None else "stop",
        name=_called(profile),
        operator=operator,
        wanted=_called(wanted) if wanted else "",
    )


@rule
def letter_permitted(
    *, operator: Name, reference: Name, permit_operator: Name, permit_reference: Name
) -> Judgement:
    """Is the letter that the profile was filled from the one of this house's permit?

    Source: network operator's permit.
    """
    fits = (operator, reference) == (permit_operator, permit_reference)
    return holds(
        "letter_permitted",
        fits,
        PERMIT_SOURCE,
        letter=f"{operator}, {reference}",
        permit=f"{permit_operator}, {permit_reference}",
    )


@rule
def setting_former(
    *, point_id: Name, wanted: float | None, got: float | None, until: date
) -> Judgement:
    """Was the setting right when it was made, by the profile as it was before it was mended?

    Always watch: it stands as it was asked for then; who sets it anew sets the present one.
    Source: grid profile, its former revision.
    """
    kind = point_kinds()[point_id]
    return holds(
        "setting_former",
        False,
        READBACK_SOURCE,
        bad="watch",
        wanted=_or_none(wanted, kind.unit),
        got=_or_none(got, kind.unit),
        until=until.isoformat(),
    )


@rule
def settings_profile(*, written: Name, planned: Name) -> Judgement:
    """Is what was written last the profile of the plan?

    Source: grid profile; the last writing counts, of whatever profile it was.
    """
    return holds(
        "settings_profile",
        written == planned,
        READBACK_SOURCE,
        name=_called(planned),
        was=_called(written),
    )


@rule
def profile_fits_supply(
    *, nominal_v: NominalV, supply_v: SupplyV, tolerance_pct: float = 15.0
) -> Judgement:
    """Is this profile made for the supply that was measured?

    Formula: nominal_v · (1 − tolerance_pct/100) ≤ supply_v ≤ nominal_v · (1 + tolerance_pct/100).
    Source: grid profile's nominal voltage.
    """
    low, high = (nominal_v * (1 + sign * tolerance_pct / 100) for sign in (-1, 1))
    return within("profile_fits_supply", supply_v, low, high, "V", "grid profile")


@rule
def profile_fits_hertz(
    *, nominal_hz: FrequencyHz, supply_hz: FrequencyHz, tolerance_hz: float = 2.0
) -> Judgement:
    """Is this profile made for the frequency that was measured?

    Formula: nominal_hz − tolerance_hz ≤ supply_hz ≤ nominal_hz + tolerance_hz.
    Source: grid profile's nominal frequency.
    """
    low, high = nominal_hz - tolerance_hz, nominal_hz + tolerance_hz
    return within("profile_fits_hertz", supply_hz, low, high, "Hz", "grid profile")


@rule
def device_planned(
    *,
    serial: Note,
    nameplate_serial: Note,
    rated_w: float | None,
    planned_w: RatedAcW,
    phases: int | None,
    planned_phases: int,
) -> Judgement:
    """Is the device that answers the one that was planned, and whose nameplate was read?

    nameplate_serial: empty while it was not read: waiting. rated_w, phases: None where its
    registers do not say.
    Source: device's registers against the plan and its nameplate.
    """
    against = plate_differs(
        serial=serial,
        nameplate_serial=nameplate_serial,
        rated_w=rated_w,
        planned_w=planned_w,
        phases=phases,
        planned_phases=planned_phases,
    )
    if not against and not nameplate_serial:
        return waiting("device_planned", "", PLATE_SOURCE, (say("needs", "nameplate_serial"),))
    return holds("device_planned", not against, PLATE_SOURCE, serial=serial, said=against)


def plate_differs(
    *,
    serial: str,
    nameplate_serial: str,
    rated_w: float | None,
    planned_w: float,
    phases: int | None,
    planned_phases: int,
) -> str:
    """In what a device that answers is not the planned one, in a sentence; empty: in nothing."""
    if nameplate_serial and serial != nameplate_serial:
        return say("device_planned", "serial", serial=serial or "none", plate=nameplate_serial)
    if phases is not None and phases != planned_phases:
        return say("device_planned", "phases", got=str(phases), planned=str(planned_phases))
    if rated_w is not None and abs(rated_w - planned_w) > planned_w * RATED_SHARE_PCT / 100:
        return say(
            "device_planned",
            "rated",
            got=figure(rated_w, "W", 0),
            planned=figure(planned_w, "W", 0),
        )
    return ""


@rule
def settings_unchanged(*, changed: tuple[str, ...], fingerprint: Note, before: Note) -> Judgement:
    """Does the inverter still hold what it held when its profile was written?

    changed: what differs, in words. fingerprint, before: marks of the settings now and then.
    Source: grid profile; read back over the open register models.
    """
    return holds(
        "settings_unchanged",
        not changed,
        READBACK_SOURCE,
        count=str(len(changed)),
        first=changed[0] if changed else "",
        fingerprint=fingerprint,
        before=before,
    )


def setting_fingerprint(points: Iterable[tuple[str, float]]) -> str:
    """A short mark of a set of settings: equal marks, equal settings."""
    text = "\n".join(f"{point_id}={value:.4f}" for point_id, value in sorted(points))
    return hashlib.sha256(text.encode()).hexdigest()[:FINGERPRINT_CHARS]
