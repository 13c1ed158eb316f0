"""What the catalogue shows, for whoever shows it."""

from __future__ import annotations

from core.figures.overrides import figures_of
from core.figures.rule_packs import RulePack
from server.catalogue.schemas import PackView


def pack_view(rules: RulePack) -> PackView:
    """A rule pack with every figure."""
    return PackView(
        id=rules.id,
        name=rules.name,
        edition=rules.edition,
        counts_from=rules.counts_from,
        counts_until=rules.counts_until,
        based_on=rules.based_on,
        note=rules.note,
        figures=figures_of(rules),
        tables=rules.tables,
    )
