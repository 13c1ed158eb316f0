"""Shelf endpoints: equipment sheets, rule packs, grid profiles."""

from __future__ import annotations

import json
from collections.abc import Iterable, Iterator
from dataclasses import asdict
from datetime import UTC, datetime
from typing import Annotated

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import Query, Router

from core.base.errors import Refused
from core.base.limits import MOST_PICTURE_BYTES, MOST_SHELF_BYTES, MOST_WEATHER_BYTES
from core.edits.fields import typed_value
from core.equipment.catalogue import KINDS, Kind, title
from core.equipment.catalogue_csv import Progress, Reading, as_csv, columns, flat, template
from core.equipment.catalogue_json import as_json
from core.equipment.library import Library
from core.equipment.sheet import Sheet
from core.figures.grid_profiles import known_profiles, point_kinds, profile
from core.figures.overrides import OwnPack, effective_pack, typed_override
from core.figures.rule_packs import known_packs, pack
from core.files.weather import Climate, read_climate
from server.catalogue import actions
from server.catalogue.labels import label_view
from server.catalogue.schemas import (
    Cell,
    Choice,
    ClimateNear,
    ColumnsView,
    KindLine,
    LabelView,
    LibraryView,
    PackIn,
    PackView,
    ProfileLine,
    SettingLine,
    SheetIn,
    SheetLine,
    SheetList,
    SheetView,
    ShelfView,
    WithdrawIn,
    sheet_line,
)
from server.catalogue.stored import shelf_of
from server.catalogue.views import climates_near, pack_view, sheet_list
from server.people.current import person_of
from server.platform.http import body_up_to, download
from server.platform.problems import KEPT

router = Router(tags=["shelf"])
SHOWN_LINES = 12
Latitude = Annotated[float, Query(ge=-90, le=90)]
Longitude = Annotated[float, Query(ge=-180, le=180)]


@router.get("", response=ShelfView, operation_id="get_shelf")
def get_shelf(request: HttpRequest) -> ShelfView:
    shelf = shelf_of(person_of(request))
    shipped = [Choice(id=p.id, label=p.name, detail=p.edition) for p in map(pack, known_packs())]
    own = [Choice(id=p.id, label=p.name, detail=p.edition) for p in shelf.own_packs().values()]
    return ShelfView(
        kinds=tuple(KindLine(kind=one, title=title(one), count=shelf.count(one)) for one in KINDS),
        packs=(*shipped, *own),
        profiles=tuple(
            ProfileLine(id=p.id, label=p.name, detail=p.edition, points=p.points)
            for p in map(profile, known_profiles())
        ),
        settings=tuple(
            SettingLine(id=k.id, title=k.title, unit=k.unit, allowed=k.quantity.allowed)
            for k in point_kinds().values()
        ),
        most_file_bytes=MOST_SHELF_BYTES,
    )


@router.get("/packs/{pack_id}", response=PackView, operation_id="get_pack")
def get_pack(request: HttpRequest, pack_id: str) -> PackView:
    own = shelf_of(person_of(request)).own_pack(pack_id)
    return pack_view(effective_pack(pack_id, own, ()))


@router.post("/packs", response=PackView, operation_id="keep_pack")
def keep_pack(request: HttpRequest, body: PackIn) -> PackView:
    base = pack(body.based_on)
    figures = tuple(
        typed_override(base, one.path, one.entered, one.reason, f"$.figures[{index}]")
        for index, one in enumerate(body.figures)
    )
    made = typed_value(
        OwnPack,
        body,
        id=body.id.strip(),
        checked_on=f"{datetime.now(UTC):%Y-%m-%d}",
        figures=figures,
    )
    actions.keep_pack(person_of(request), made)
    return pack_view(effective_pack(made.id, made, ()))


@router.post("/climate", response=Climate, operation_id="read_climate")
def climate(request: HttpRequest, file_name: str) -> Climate:
    raw = body_up_to(request, MOST_WEATHER_BYTES, "a weather file")
    return actions.keep_climate(person_of(request), raw, read_climate(raw, file_name))


@router.get("/climates", response=list[ClimateNear], operation_id="list_climates")
def list_climates(
    request: HttpRequest, latitude_deg: Latitude, longitude_deg: Longitude
) -> list[ClimateNear]:
    return climates_near(person_of(request), latitude_deg, longitude_deg)


@router.get("/{kind}", response=SheetList, operation_id="list_sheets")
def list_sheets(request: HttpRequest, kind: Kind, find: str = "") -> SheetList:
    return sheet_list(shelf_of(person_of(request)), kind, find.lower().split())


@router.get("/{kind}/columns", response=ColumnsView, operation_id="get_columns")
def get_columns(request: HttpRequest, kind: Kind) -> ColumnsView:
    return ColumnsView(columns=columns(kind))


@router.get("/{kind}/template", operation_id="get_template")
def get_template(request: HttpRequest, kind: Kind) -> HttpResponse:
    return download(template(kind).encode(), "text/csv", f"{kind}-template.csv")


@router.get("/{kind}/file", operation_id="get_shelf_file")
def get_shelf_file(request: HttpRequest, kind: Kind, form: str = "json") -> HttpResponse:
    every = list(shelf_of(person_of(request)).standing(kind).values())
    if form == "csv":
        names = [column.name for column in columns(kind)]
        return download(as_csv(names, every).encode(), "text/csv", f"{kind}.csv")
    return download(as_json(kind, every).encode(), "application/json", f"{kind}.json")


@router.get("/{kind}/sheets/{sheet_id}", response=SheetView, operation_id="get_sheet")
def get_sheet(request: HttpRequest, kind: Kind, sheet_id: str) -> SheetView:
    shelf = shelf_of(person_of(request))
    sheet = shelf.one(kind, sheet_id, Sheet, "$.id")
    return SheetView(
        line=sheet_line(sheet),
        cells=tuple(Cell(name=name, text=text) for name, text in flat(sheet).items()),
        revisions=shelf.revisions(kind, sheet_id),
    )


@router.post("/{kind}", response=SheetLine, operation_id="keep_sheet")
def keep_sheet(request: HttpRequest, kind: Kind, body: SheetIn) -> SheetLine:
    cells = {cell.name: cell.text for cell in body.cells}
    sheet = actions.keep_sheet(person_of(request), kind, cells, as_given=body.as_given)
    return sheet_line(sheet)


@router.post("/{kind}/withdraw", response=SheetList, operation_id="withdraw_sheet")
def withdraw_sheet(request: HttpRequest, kind: Kind, body: WithdrawIn) -> SheetList:
    actions.withdraw(person_of(request), kind, body.id)
    return list_sheets(request, kind)


@router.post("/{kind}/file", operation_id="take_in_sheets")
def take_in_sheets(
    request: HttpRequest, kind: Kind, as_given: bool = False
) -> StreamingHttpResponse:
    """Reads a CSV or JSON file; answers with a line of JSON for each step, as it goes."""
    raw = body_up_to(request, MOST_SHELF_BYTES, "a shelf file")
    steps = actions.take_in(person_of(request), kind, raw, as_given=as_given)
    return StreamingHttpResponse(_told(steps), content_type="application/x-ndjson")


@router.get(
    "/{kind}/library/{entry_id}",
    response=LibraryView,
    operation_id="get_library_entry",
)
def get_library_entry(request: HttpRequest, kind: Kind, entry_id: int) -> LibraryView:
    row = shelf_of(person_of(request)).library_entry(kind, entry_id)
    cells = tuple(Cell(name=name, text=text) for name, text in row.cells.items())
    return LibraryView(name=row.name, cells=cells)


@router.post("/{kind}/label", response=LabelView, operation_id="read_label")
def post_label(request: HttpRequest, kind: Kind) -> LabelView:
    raw = body_up_to(request, MOST_PICTURE_BYTES, "a picture")
    return label_view(shelf_of(person_of(request)), kind, raw)


def _told(steps: Iterable[Progress | Reading | Library]) -> Iterator[str]:
    try:
        for step in steps:
            if isinstance(step, Progress):
                yield _line({"checked": step.checked, "rows": step.rows})
            elif isinstance(step, Library):
                yield _line({"entries": len(step.entries), "left_out": step.left_out[:SHOWN_LINES]})
            else:
                yield _line({"kept": len(step.sheets), "doubled_rows": step.doubled_rows})
    except Refused as refused:
        yield _line({"problems": [asdict(found) for found in refused.problems], "said": KEPT})


def _line(data: object) -> str:
    return json.dumps(data, ensure_ascii=False) + "\n"
