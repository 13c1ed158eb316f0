"""A photovoltaic module as its sheet gives it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from core.base.errors import Problem, problem
from core.base.glossary import (
    AlphaIscPctPerK,
    BetaVmpPctPerK,
    BetaVocPctPerK,
    BypassSections,
    CellsInSeries,
    GammaPmaxPctPerK,
    IdealityN,
    ImpA,
    IscA,
    MaxSeriesFuseA,
    MaxSystemV,
    ModuleSideMm,
    NoctC,
    PmaxW,
    VmpV,
    VocV,
)
from core.equipment.sheet import Sheet

MM2_PER_M2 = 1e6


@dataclass(frozen=True, kw_only=True)
class Module(Sheet):
    """One module's sheet at STC. A half-cut module of 108 cells has 54 cells in series.

    serials_kept: its warranty asks for the serial of each module by its place.
    """

    pmax_w: PmaxW
    voc_v: VocV
    vmp_v: VmpV
    isc_a: IscA
    imp_a: ImpA
    beta_voc_pct_per_k: BetaVocPctPerK
    alpha_isc_pct_per_k: AlphaIscPctPerK
    gamma_pmax_pct_per_k: GammaPmaxPctPerK
    noct_c: NoctC
    cells_in_series: CellsInSeries
    max_system_v: MaxSystemV
    max_series_fuse_a: MaxSeriesFuseA | None = None
    beta_vmp_pct_per_k: BetaVmpPctPerK | None = None
    ideality_n: IdealityN | None = None
    bypass_sections: BypassSections = 3
    bifacial: bool = False
    long_mm: ModuleSideMm | None = None
    short_mm: ModuleSideMm | None = None
    serials_kept: bool = False

    @property
    def area_m2(self) -> float | None:
        """Its area; None where the sheet gives no sides."""
        if self.long_mm is None or self.short_mm is None:
            return None
        return self.long_mm * self.short_mm / MM2_PER_M2

    def contradictions(self) -> Iterator[Problem]:
        if self.vmp_v >= self.voc_v:
            allowed = f"below the open-circuit voltage, {self.voc_v:g} V"
            yield problem("$.vmp_v", self.vmp_v, allowed)
        if self.imp_a >= self.isc_a:
            allowed = f"below the short-circuit current, {self.isc_a:g} A"
            yield problem("$.imp_a", self.imp_a, allowed)
