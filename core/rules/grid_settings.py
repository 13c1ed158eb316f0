"""Whether the inverter holds the grid profile it was given."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable

from core.glossary import Name, NominalV, SupplyV
from core.judgement import Judgement, holds, within
from core.profiles import point_kinds
from core.words import figure

FINGERPRINT_CHARS = 12
READBACK_SOURCE = "grid profile; read back over the open register models"

__all__ = ["profile_fits_supply", "setting_agrees"]


def setting_agrees(*, point_id: Name, wanted: float | None, got: float | None) -> Judgement:
    """Does the setting read back from the inverter agree with the profile?

    A setting that the profile has and the inverter lacks, or the other way round, is a stop.
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


def _or_none(value: float | None, unit: str) -> str:
    return "none" if value is None else figure(value, unit, 3)


def profile_fits_supply(
    *, nominal_v: NominalV, supply_v: SupplyV, tolerance_pct: float = 15.0
) -> Judgement:
    """Is this profile made for the supply that was measured?

    Source: grid profile's nominal voltage.
    """
    low, high = (nominal_v * (1 + sign * tolerance_pct / 100) for sign in (-1, 1))
    return within("profile_fits_supply", supply_v, low, high, "V", "grid profile")


def setting_fingerprint(points: Iterable[tuple[str, float]]) -> str:
    """A short mark of a set of settings: equal marks, equal settings."""
    text = "\n".join(f"{point_id}={value:.4f}" for point_id, value in sorted(points))
    return hashlib.sha256(text.encode()).hexdigest()[:FINGERPRINT_CHARS]
