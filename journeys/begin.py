"""Beginning a job as its user does: a question at a time, each read by its heading."""

from __future__ import annotations

from playwright.sync_api import Page, expect

GENERAL_RULES = "Generic IEC"
AIR = ("Coldest air", "Hottest air", "Where these come from")


def asked(page: Page, question: str) -> None:
    """The question that stands there now."""
    expect(page.get_by_role("heading", name=question)).to_be_visible()


def begin(
    page: Page,
    name: str,
    *,
    air: tuple[str, str, str] = ("-9", "31", "Harbour office log"),
    module: str = "Ostrel Os 430",
    inverter: str = "",
    micro: tuple[str, str] = ("", ""),
    rules: str = GENERAL_RULES,
) -> None:
    """A job begun from the home with what its rules need; the roof and the rest put aside."""
    page.get_by_role("button", name="Begin a job").click()
    asked(page, "What is the job called?")
    page.get_by_role("textbox", name="What is the job called?").fill(name)
    page.keyboard.press("Enter")
    house(page, air)
    rule(page, rules)
    sheet(page, "Which module goes up?", module)
    asked(page, "Where do the inverters hang?")
    if inverter:
        page.get_by_role("button", name="On a wall").click()
        sheet(page, "Which inverter?", inverter)
    else:
        page.get_by_role("button", name="On the roof").click()
        sheet(page, "Which microinverter?", micro[0])
        sheet(page, "Which trunk cable?", micro[1])
    asked(page, "How many modules, on which planes?")
    page.get_by_role("button", name="Begin the job now").click()
    page.wait_for_url("**/jobs/**")


def house(page: Page, air: tuple[str, str, str]) -> None:
    """Where it stands, by coordinates, and its design air."""
    asked(page, "Where does the house stand?")
    page.get_by_role("textbox", name="Where does the house stand?").fill("54.2, 0.6")
    page.get_by_role("list", name="Places found").get_by_role("button").first.click()
    asked(page, "How cold and how hot does the air get there?")
    for label, text in zip(AIR, air, strict=True):
        page.get_by_role("textbox", name=label).fill(text)
    page.keyboard.press("Enter")


def rule(page: Page, rules: str) -> None:
    """Other rules than the usual ones of the country, once the answer before is in."""
    asked(page, "Which module goes up?")
    page.get_by_role("button", name="change: Which rules count there?").click()
    page.get_by_role("button", name=rules).click()


def sheet(page: Page, question: str, name: str) -> None:
    """A sheet of the shelf, found by what its label says."""
    asked(page, question)
    page.get_by_role("textbox", name=question).fill(name)
    page.get_by_role("list", name="On the shelf").get_by_role("button", name=name).first.click()
