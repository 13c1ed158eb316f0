"""A house from nothing to its first reading, as who has the labels at hand begins it: counted."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, Route, expect

from journeys.begin import asked, house
from journeys.browser import BrowserCase
from journeys.chromium import DESK, HAND
from server.demo.load import load
from server.tests.test_labels import plate

ON_ITS_WAY_MS = 400
PLATE = "OSTREL  Type: Os 430\nOpen circuit voltage (Voc) 38.52 V"
MOST_TOUCHES, MOST_ENTRIES = 40, 25


class Hand:
    """A hand that counts what it touches and what it types."""

    def __init__(self, page: Page) -> None:
        self.page, self.touches, self.entries = page, 0, 0

    def touch(self, what: Locator) -> None:
        """One touch."""
        what.first.click()
        self.touches += 1

    def type(self, question: str, text: str) -> None:
        """One entry, and the key that takes it to the next."""
        box = self.page.get_by_role("textbox", name=question)
        expect(box).to_be_focused()
        self.page.keyboard.type(text)
        self.entries += 1

    def enter(self) -> None:
        """The key that says: done here."""
        self.page.keyboard.press("Enter")
        self.touches += 1


class Begin(BrowserCase):
    def setUp(self) -> None:
        load()

    def test_fifteen_modules_from_nothing_to_the_first_reading(self) -> None:
        page = self.open(DESK)
        page.get_by_role("button", name="Enter the demo").click()
        hand = Hand(page)
        hand.touch(page.get_by_role("button", name="Begin a job"))
        asked(page, "What is the job called?")
        hand.type("What is the job called?", "Net Loft")
        hand.enter()
        asked(page, "Where does the house stand?")
        hand.type("Where does the house stand?", "Lowestoft")
        hand.touch(page.get_by_role("button", name="Lowestoft"))
        asked(page, "How cold and how hot does the air get there?")
        for label, text in (("Coldest air", "-9"), ("Hottest air", "31"), ("Where these", "log")):
            hand.type(label, text)
            if label != "Where these":
                page.keyboard.press("Tab")
                hand.touches += 1
        hand.enter()
        asked(page, "Which module goes up?")
        hand.type("Which module goes up?", "Os 430")
        hand.touch(page.get_by_role("button", name="Ostrel Os 430"))
        asked(page, "Where do the inverters hang?")
        hand.touch(page.get_by_role("button", name="On a wall"))
        asked(page, "Which inverter?")
        hand.touch(page.get_by_role("button", name="Veyrick Five"))
        asked(page, "How many modules, on which planes?")
        hand.type("How many modules, on which planes?", "Front 2 x 4, Back 7")
        hand.enter()
        asked(page, "How are they strung?")
        expect(page.get_by_text("String A: 8:")).to_be_visible()
        hand.touch(page.get_by_role("button", name=re.compile("A 8 on Front")))
        asked(page, "Does anything else feed this house?")
        hand.touch(page.get_by_role("button", name="Nothing else feeds it"))
        hand.touch(page.get_by_role("button", name="Begin the job", exact=True))
        # What comes next is said, with its reason; the first reading is one touch away.
        expect(page.get_by_role("button", name="Next: Lay the way")).to_be_visible()
        hand.touch(page.get_by_role("button", name="Take next reading"))
        expect(page.get_by_role("textbox", name="Front · irradiance")).to_be_visible()
        print(
            f"\nfrom nothing to the first reading: {hand.touches} touches, {hand.entries} entries"
        )
        self.assertLessEqual(hand.touches, MOST_TOUCHES)
        self.assertLessEqual(hand.entries, MOST_ENTRIES)

    def test_what_is_put_aside_stays_open_and_is_taken_up_again(self) -> None:
        page = self.open(HAND)
        page.get_by_role("button", name="Enter the demo").click()
        page.get_by_role("button", name="Begin a job").click()
        asked(page, "What is the job called?")
        page.get_by_role("textbox", name="What is the job called?").fill("Sound Villa")
        page.keyboard.press("Enter")
        asked(page, "Where does the house stand?")
        page.get_by_role("textbox", name="Where does the house stand?").fill("95, 10")
        expect(page.get_by_role("alert")).to_contain_text("outside −90 to 90")
        page.get_by_role("button", name="put it aside").click()
        asked(page, "How cold and how hot does the air get there?")
        page.get_by_role("link", name="Long Noon").click()
        # The home keeps it, and says what is open.
        line = page.get_by_role("link", name=re.compile("Sound Villa"))
        expect(line).to_contain_text("where the house stands")
        line.click()
        page.get_by_role("button", name="answer it: Where does the house").click()
        page.get_by_role("textbox", name="Where does the house stand?").fill("52°28'N 1°45'E")
        page.get_by_role("list", name="Places found").get_by_role("button").first.click()
        expect(page.get_by_text("United Kingdom, small generation, by the country")).to_be_visible()
        page.get_by_role("button", name="begin it no more").click()
        expect(page.locator(".day").first).to_be_visible()
        expect(line).to_have_count(0)

    def test_a_question_opened_while_an_answer_is_on_its_way_stays_open(self) -> None:
        page = self.open(DESK)
        page.get_by_role("button", name="Enter the demo").click()
        page.get_by_role("button", name="Begin a job").click()
        page.get_by_role("textbox", name="What is the job called?").fill("Quay Steps")
        page.keyboard.press("Enter")

        def slowly(route: Route) -> None:
            page.wait_for_timeout(ON_ITS_WAY_MS)
            route.fallback()

        house(page, ("-9", "31", "log"))
        page.route("**/api/begin/**", slowly)
        page.get_by_role("button", name="change: How cold and how hot").click()
        page.keyboard.press("Enter")
        page.get_by_role("button", name="change: Which rules count there?").click()
        expect(page.get_by_role("button", name="Generic IEC")).to_be_visible()
        page.wait_for_timeout(2 * ON_ITS_WAY_MS)
        asked(page, "Which rules count there?")

    def test_a_label_photographed_names_its_module(self) -> None:
        page = self.open(HAND)
        page.get_by_role("button", name="Enter the demo").click()
        page.get_by_role("button", name="Begin a job").click()
        page.get_by_role("textbox", name="What is the job called?").fill("Plate Cottage")
        page.keyboard.press("Enter")
        for question in ("Where does the house stand?", "How cold and how hot", "Which rules"):
            asked(page, question)
            page.get_by_role("button", name="put it aside").click()
        asked(page, "Which module goes up?")
        picture = {"name": "plate.jpg", "mimeType": "image/jpeg", "buffer": plate(PLATE)}
        page.get_by_label("Picture of the label").set_input_files([picture])
        said = page.get_by_role("region", name="What the label says")
        expect(said).to_contain_text("Voc: 38.52 on the label")
        said.get_by_role("button", name="Enter a sheet with").click()
        form = page.get_by_role("form", name="New sheet")
        expect(form.get_by_role("button", name="Keep this sheet")).to_be_disabled()
        form.get_by_text("I compared each figure").click()
        expect(form.get_by_role("button", name="Keep this sheet")).to_be_enabled()
        page.get_by_role("button", name="Close").click()
        said.get_by_role("button", name="Ostrel Os 430").click()
        asked(page, "Where do the inverters hang?")

    def test_a_job_is_planned_as_an_earlier_one(self) -> None:
        page = self.open(DESK)
        page.get_by_role("button", name="Enter the demo").click()
        page.get_by_role("button", name="Begin a job").click()
        page.get_by_role("combobox", name="Or plan it as an earlier job").click()
        page.locator(".ant-select-item-option", has_text="Lantern House").click()
        page.get_by_role("textbox", name="What is the job called?").fill("Lantern Row 9")
        page.keyboard.press("Enter")
        asked(page, "Where does the house stand?")
        page.get_by_role("textbox", name="Where does the house stand?").fill("Lowestoft")
        page.get_by_role("list", name="Places found").get_by_role("button").first.click()
        for label, text in (("Coldest air", "-9"), ("Hottest air", "31"), ("Where these", "log")):
            page.get_by_role("textbox", name=label).fill(text)
        page.keyboard.press("Enter")
        page.get_by_role("button", name="Begin the job", exact=True).click()
        page.wait_for_url("**/jobs/**")
        expect(page.get_by_text("0 of", exact=False).first).to_be_visible()
        expect(page.get_by_role("group", name="String A").or_(page.get_by_text("String A")).first
               ).to_be_visible()  # fmt: skip
