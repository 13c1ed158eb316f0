"""Every edit by the name that it is read by."""

from __future__ import annotations

from typing import get_args

from core.base.errors import Refused, problem
from core.base.form import read
from core.edits.arrival import ArrivalEdit
from core.edits.commission import CommissionEdit
from core.edits.day import AnyDayEdit
from core.edits.earth import EarthEdit
from core.edits.edit import Edit
from core.edits.feed.containment_backup import AroundEdit
from core.edits.feed.devices import DeviceEdit
from core.edits.feed.home_runs import HomeRunEdit
from core.edits.feed.other_sources import OtherSourceEdit
from core.edits.feed.runs import RunEdit
from core.edits.house import HouseEdit
from core.edits.leave import LeaveEdit
from core.edits.microinverter.branches import BranchEdit
from core.edits.microinverter.roof import RoofEdit
from core.edits.microinverter.units import UnitEdit
from core.edits.planes import PlaneEdit
from core.edits.sheets_and_figures import FigureEdit
from core.edits.strings import StringEdit
from core.edits.talk import AnyTalkEdit
from core.edits.wall import WallEdit

AnyEdit = (
    PlaneEdit
    | StringEdit
    | FigureEdit
    | ArrivalEdit
    | EarthEdit
    | RunEdit
    | DeviceEdit
    | HomeRunEdit
    | AroundEdit
    | OtherSourceEdit
    | HouseEdit
    | UnitEdit
    | BranchEdit
    | RoofEdit
    | WallEdit
    | CommissionEdit
    | AnyTalkEdit
    | LeaveEdit
    | AnyDayEdit
)
EDITS: dict[str, type[Edit]] = {one.do: one for one in get_args(AnyEdit)}


def read_edit(data: object) -> Edit:
    """An edit from parsed JSON, by what it says it does.

    Raises Refused with the JSON path of each problem.
    """
    if not isinstance(data, dict):
        raise Refused([problem("$.edit", data, "an object that names in `do` what it does")])
    do = data.get("do")
    if not isinstance(do, str) or do not in EDITS:
        raise Refused([problem("$.edit.do", do, " · ".join(EDITS))])
    return read(EDITS[do], data)
