"""Shelf endpoints: equipment sheets, rule packs, grid profiles, to choose from."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpRequest
from ninja import Router

from core import shelf
from core.jobfile import MOST_BYTES
from core.packs import known_packs, pack
from core.profiles import known_profiles, profile
from server.jobs.api import ERRORS

router = Router(tags=["shelf"])


@dataclass(frozen=True, kw_only=True)
class Choice:
    """One thing to choose, with what tells it apart."""

    id: str
    label: str
    detail: str


@dataclass(frozen=True, kw_only=True)
class ShelfView:
    """Everything that a job can be made of."""

    modules: tuple[Choice, ...]
    inverters: tuple[Choice, ...]
    packs: tuple[Choice, ...]
    profiles: tuple[Choice, ...]
    most_file_bytes: int


@router.get("", response={200: ShelfView, **ERRORS}, operation_id="get_shelf")
def get_shelf(request: HttpRequest) -> ShelfView:
    return ShelfView(
        modules=tuple(
            Choice(
                id=m.id,
                label=m.label,
                detail=f"{m.pmax_w:g} W, {m.voc_v:g} V open circuit",
            )
            for m in shelf.modules()
        ),
        inverters=tuple(
            Choice(
                id=i.id,
                label=i.label,
                detail=f"{i.rated_ac_w / 1000:g} kW, {len(i.trackers)} trackers, "
                f"{i.dc.max_dc_v:g} V",
            )
            for i in shelf.inverters()
        ),
        packs=tuple(
            Choice(id=p.id, label=p.name, detail=p.edition) for p in map(pack, known_packs())
        ),
        profiles=tuple(
            Choice(id=p.id, label=p.name, detail=p.edition) for p in map(profile, known_profiles())
        ),
        most_file_bytes=MOST_BYTES,
    )
