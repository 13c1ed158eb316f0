"""Who may enter, what was saved, whose the account is, and where the way to the portal breaks."""

from __future__ import annotations

import re
from typing import Annotated, Literal

from core.base.glossary import Name, Note
from core.base.judgement import Judgement, Verdict, holds, waiting
from core.base.messages import say
from core.base.quantity import Quantity
from core.base.rule import rule
from core.equipment.talker import Secret

ACCESS_SOURCE = "IEC 62443-4-2, CR 1.5 (default authenticators); device sheet"
ACCOUNT_SOURCE = "portal's sheet; trade practice"
Place = Literal["", "type_plate", "profile_page", "envelope", "owner", "crew_safe"]
Mends = Literal["", "installer", "router", "owner", "maker"]
# Letters and digits as they stand together.
WORDS = re.compile(r"[^\W_]+")
Count = Annotated[int, Quantity("devices", "", 0, 100_000)]
Sign = Annotated[int, Quantity("1 so, -1 not, 0 nobody has said", "", -1, 1)]


@rule
def role_ready(
    *, device: Name, what: Literal["role", "code", "points", "option"], sign: Sign
) -> Judgement:
    """Is what opens the device at hand, fetched while there was a network?

    Source: device sheet (roles, codes, points, options).
    """
    source = "device sheet (roles, codes, points, options)"
    title = say("ready", what)
    if sign == 0:
        return waiting("role_ready", "", source, (say("needs", "ready", what=title, of=device),))
    return holds("role_ready", sign > 0, source, what=title, device=device)


@rule
def default_password_gone(*, device: Name, secret: Secret, place: Place, sign: Sign) -> Judgement:
    """Is the maker's own password replaced, and does somebody know where the new one stands?

    Source: IEC 62443-4-2, CR 1.5 (default authenticators are changed).
    """
    title = say("secrets", secret)
    needs = (
        *((say("needs", "secret_place", secret=title, device=device),) if not place else ()),
        *((say("needs", "secret_new", secret=title, device=device),) if sign == 0 else ()),
    )
    if needs and sign >= 0:
        return waiting("default_password_gone", "", ACCESS_SOURCE, needs)
    return holds(
        "default_password_gone",
        sign > 0,
        ACCESS_SOURCE,
        device=device,
        secret=title,
        place=say("places_of", place) if place else "",
    )


@rule
def page_saved(*, device: Name, page: Name, sign: Sign) -> Judgement:
    """Was a page saved of a device on which the grid setting is made?

    What is typed and not saved, the device forgets.

    Source: device sheet (set-up pages).
    """
    source = "device sheet (set-up pages)"
    if sign == 0:
        return waiting("page_saved", "", source, (say("needs", "page", page=page, of=device),))
    return holds("page_saved", sign > 0, source, page=page, device=device)


@rule
def other_page_saved(*, device: Name, page: Name, sign: Sign) -> Judgement:
    """Was a page saved of a device on which no grid setting is made?

    Source: device sheet (set-up pages).
    """
    source = "device sheet (set-up pages)"
    if sign == 0:
        needs = (say("needs", "page", page=page, of=device),)
        return waiting("other_page_saved", "", source, needs)
    return holds("other_page_saved", sign > 0, source, page=page, device=device)


@rule
def grid_named(*, named: Note, profile: Note, permitted: Note) -> Judgement:
    """Is the grid setting that was picked by name in the device the one of plan and permit?

    Every part of the profile's name but its country stands in what the device shows, whole and in
    order: ``EN 50549-1, v3`` for en-50549-1, ``VDE-AR-N 4105`` for de-4105. Else stop.
    Source: operator's permit; device sheet (grid settings).
    """
    source = "operator's permit; device sheet (grid settings)"
    if not profile:
        return waiting("grid_named", "", source, (say("needs", "profile"),))
    if not named:
        return waiting("grid_named", "", source, (say("needs", "grid_name", profile=profile),))
    good = _names(named, profile) and (not permitted or permitted == profile)
    return holds("grid_named", good, source, named=named, profile=permitted or profile)


def _names(shown: str, profile: str) -> bool:
    """Whether a name on a display is that of a profile: 50549-10 is not 50549-1."""
    _, *own = WORDS.findall(profile.casefold())
    there = iter(WORDS.findall(shown.casefold()))
    return bool(own) and all(part in there for part in own)


def _plain(text: str) -> str:
    return "".join(one for one in text.casefold() if one.isalnum())


@rule
def network_up(*, device: Name, sign: Sign) -> Judgement:
    """Did the device say that it reached the house's network?

    Source: device sheet (network; status row).
    """
    source = "device sheet (network; status row)"
    if sign == 0:
        return waiting("network_up", "", source, (say("needs", "network", of=device),))
    return holds("network_up", sign > 0, source, device=device)


@rule
def link_complete(
    *,
    read: bool,
    misread: Note = "",
    wanted: Count = 0,
    broken: Count = 0,
    name: Note = "",
    look: Note = "",
    mends: Mends = "",
    again: Note = "",
) -> Judgement:
    """Is the chain from the device to its portal whole?

    broken: the first rung that fails, 0 for none. again: rungs behind it that read good all the
    same: they are read once more. misread: a row that is none.
    Source: device sheet (link status).
    """
    source = "device sheet (link status)"
    if misread:
        said = say("rungs_said", "misread", row=misread, wanted=str(wanted))
        return waiting("link_complete", "", source, (said,))
    if not read:
        return waiting("link_complete", "", source, (say("needs", "status_row"),))
    said = ""
    if broken:
        who = say("mends", mends) if mends else ""
        said = say("rungs_said", "broken", at=str(broken), name=name, look=look, who=who)
        if again:
            said += " " + say("rungs_said", "again", rungs=again)
    return holds("link_complete", not broken, source, said=said)


@rule
def account_whole(*, missing: tuple[str, ...], denied: tuple[str, ...]) -> Judgement:
    """Is the plant entered, does the owner own it, and was a first value seen?

    Source: portal's sheet; trade practice.
    """
    if denied:
        return holds("account_whole", False, ACCOUNT_SOURCE, said=" · ".join(denied))
    if missing:
        return waiting("account_whole", "", ACCOUNT_SOURCE, missing)
    return holds("account_whole", True, ACCOUNT_SOURCE)


@rule
def account_agrees(*, what: Literal["address", "modules"], entered: Note, plan: Note) -> Judgement:
    """Does what was entered in the portal agree with the job?

    Source: the job.
    """
    within = what == "address" and _plain(plan) in _plain(entered)
    good = within or _plain(entered) == _plain(plan)
    title = say("account", what)
    return holds("account_agrees", good, "the job", what=title, entered=entered, plan=plan)


@rule
def list_counted(*, counted: Count, units: Count) -> Judgement:
    """Does the number that the gateway shows agree with the map, where it gives no names?

    Equal: watch, the names are not proved. Else stop.
    Source: gateway sheet; own default.
    """
    source = "gateway sheet; Long Noon default"
    bad: Verdict = "watch" if counted == units else "stop"
    return holds("list_counted", False, source, bad=bad, counted=str(counted), units=str(units))


@rule
def kept_open(*, what: Note, owner: Name, due: Note, reason: Note) -> Judgement:
    """Does one of the few things that may stay open have an owner and a date?

    Source: left open on purpose.
    """
    source = "left open on purpose"
    return holds(
        "kept_open", False, source, bad="watch", what=what, owner=owner, due=due, reason=reason
    )
