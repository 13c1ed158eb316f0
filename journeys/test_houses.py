"""A house with several inverters, and one with a plant that is there already, on the screens."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from journeys.browser import BrowserCase
from journeys.chromium import DESK, HAND
from server.demo.load import load


class Houses(BrowserCase):
    def setUp(self) -> None:
        load()

    def enter(self, job: str, stage: str, size: dict[str, int] = DESK) -> Page:
        page = self.open(size)
        page.get_by_role("button", name="Enter the demo").click()
        page.get_by_text(job, exact=True).click()
        page.wait_for_url(re.compile("/jobs/"))
        self.go(page, re.sub(r".*(/jobs/[^/]+)/\w+$", rf"\1/{stage}", page.url))
        expect(page.get_by_role("heading", level=1, name=stage.capitalize())).to_be_visible()
        return page

    def pick(self, page: Page, label: str, choice: str) -> None:
        page.get_by_role("combobox", name=label, exact=True).last.click()
        option = page.locator(".ant-select-dropdown:visible .ant-select-item-option")
        option.filter(has_text=choice).first.click()

    def test_an_addition_to_a_plant_that_is_there(self) -> None:
        page = self.enter("Lantern House", "feed")
        page.get_by_role("button", name="Other sources").click()
        form = page.get_by_role("form", name="One more source")
        form.get_by_label("One more source").fill("Garage roof")
        form.get_by_label("Breaker", exact=True).fill("forty")
        form.get_by_role("button", name="Keep").click()
        expect(form.get_by_role("alert")).to_contain_text("not a")
        form.get_by_label("Breaker", exact=True).fill("40 A")
        form.get_by_role("button", name="Keep").click()
        kept = page.get_by_role("form", name="Garage roof")
        expect(kept).to_be_visible()
        expect(page.get_by_text("+ 1 beside")).to_be_visible()
        # 63 A of the supply, 32 A of the inverter and 40 A on a bar of 125 A.
        page.get_by_role("button", name=re.compile("^Board, ")).click()
        expect(page.get_by_text("135 A, are 10 A more than the busbar's 125 A")).to_be_visible()
        page.get_by_role("button", name="Other sources").click()
        kept.get_by_role("button", name="Remove").click()
        expect(kept).to_have_count(0)

    def test_two_inverters_in_a_row(self) -> None:
        page = self.enter("Lantern House", "feed")
        page.get_by_role("button", name="Other sources").click()
        form = page.get_by_role("form", name="One more inverter")
        form.get_by_label("One more inverter").fill("Garage inverter")
        form.get_by_role("combobox", name="Sheet").fill("Threefold 3")
        page.locator(".ant-select-dropdown:visible .ant-select-item-option").first.click()
        form.get_by_role("button", name="Add it").click()
        both = page.get_by_role("navigation", name="Inverters of this house")
        expect(both.get_by_role("link", name="Garage inverter")).to_have_class("active")
        # It stands where its breaker is to be: nothing leads to it, and that is a stop.
        expect(page.locator(".stage-about")).to_contain_text("Nothing runs between Board")
        page.get_by_role("button", name=re.compile("^Garage inverter, ")).click()
        cable = page.get_by_role("form", name="A run to Garage inverter")
        self.pick(page, "From", "Board")
        cable.get_by_label("One-way length").fill("9 m")
        cable.get_by_label("Size, mm² or AWG").fill("4")
        cable.get_by_role("button", name="Run it").click()
        expect(page.locator(".stage-about")).not_to_contain_text("Nothing runs")
        page.keyboard.press("4")
        # It begins without strings: how many is asked, and nothing made up.
        own = page.get_by_role("form", name="Add a string")
        own.get_by_label("Modules in series").fill("6")
        own.get_by_role("button", name="Add the string").click()
        expect(own).to_have_count(0)
        page.get_by_role("tab", name="roof").click()
        # Its own string is C; those of the first inverter are drawn, not its to take.
        expect(
            page.get_by_role("gridcell", name="Seafront row 1 number 1, string A module 1")
        ).to_be_visible()
        page.get_by_role("gridcell", name="Seafront row 1 number 1, string A module 1").click()
        expect(page.get_by_role("alert")).to_contain_text("hangs on another inverter already")
        both.get_by_role("link", name=re.compile("^.*Inverter Veyrick")).click()
        expect(page.get_by_role("heading", level=1, name="String")).to_be_visible()
        expect(page.locator(".job-name strong")).to_have_text("Lantern House")

    def test_a_house_of_three_in_the_hand(self) -> None:
        page = self.enter("Curlew Barn", "feed", HAND)
        both = page.get_by_role("navigation", name="Inverters of this house")
        expect(both.get_by_role("link")).to_have_count(3)
        both.get_by_role("link", name="Yard inverter").click()
        expect(page.get_by_text("+ 2 beside")).to_be_visible()
        self.assertEqual(page.evaluate("document.documentElement.scrollWidth"), HAND["width"])
        page.get_by_role("button", name="next reading", exact=True).click()
        expect(page.get_by_role("dialog").or_(page.locator(".taking")).first).to_be_visible()
