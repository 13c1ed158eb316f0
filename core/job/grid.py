"""The grid profile that a site asks for, and where its inverter answers."""

from __future__ import annotations

from dataclasses import dataclass

from core.base.form import Checked
from core.base.glossary import Host, Name, Port, UnitId


@dataclass(frozen=True, kw_only=True)
class GridPlan(Checked):
    """The grid profile that the site asks for, and where the inverter answers.

    by_hand: it has no open port, or none is used: every setting is made on its own display.
    """

    profile: Name | None
    host: Host
    port: Port
    unit_id: UnitId
    by_hand: bool = False
