"""Leave through the real interface: labels, three signatures, a frozen record, looks afterwards."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Page, expect

from journeys.browser import BrowserCase
from journeys.chromium import DESK, HAND
from server.demo.load import load
from server.signing.models import SealedRow
from server.signing.seal import verify

CSV = "Day;String A [kWh];String B [kWh]\n{day};5,2;0\n"


class Leaving(BrowserCase):
    def setUp(self) -> None:
        load()

    def stage(self, size: dict[str, int], job: str, face: str) -> Page:
        return self.stage_of(size, job, "leave", face)

    def test_signed_frozen_changed_and_signed_again(self) -> None:
        page = self.stage(DESK, "Beacon Row 7", "sign")
        did = page.get_by_role("region", name="Whoever did the work")
        answers = page.get_by_role("region", name="Whoever answers for it")
        customer = page.get_by_role("region", name="The customer", exact=True)
        customer.get_by_role("button", name="Sign").click()
        expect(customer).to_contain_text("First: the signature of whoever did the work")
        did.get_by_role("radio", name="drawn").click()
        pad = did.get_by_role("img", name=re.compile("^Field for the signature"))
        box = pad.bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 20, box["y"] + 40)
        page.mouse.down()
        page.mouse.move(box["x"] + 90, box["y"] + 20, steps=4)
        page.mouse.move(box["x"] + 150, box["y"] + 50, steps=4)
        page.mouse.up()
        did.get_by_role("button", name="Sign").click()
        expect(did.get_by_role("img", name="Signature of Ada Fenn")).to_be_visible()
        answers.get_by_role("button", name="Sign").click()
        expect(answers).to_contain_text("licence FENN-0417")
        customer.get_by_role("textbox", name="Name, the customer").fill("x")
        customer.get_by_role("button", name="Sign").click()
        expect(customer).to_contain_text("is nobody")
        customer.get_by_role("textbox", name="Name, the customer").fill("Ines Marsh")
        customer.get_by_role("button", name="Sign").click()
        versions = page.get_by_role("region", name="Versions")
        expect(versions).to_contain_text("Version 1")
        expect(page.get_by_text("Signed by all three, as the job stands.").first).to_be_visible()
        with page.expect_download() as frozen:
            versions.get_by_role("link", name=re.compile("^ZIP")).click()
        self.assertTrue(verify(Path(frozen.value.path()).read_bytes()).holds)
        page.get_by_role("tab", name="owner", exact=True).click()
        page.get_by_role("textbox", name="Under which number").fill("0555 014 221")
        page.get_by_role("textbox", name="Under which number").press("Enter")
        page.get_by_role("tab", name="sign", exact=True).click()
        expect(did).to_contain_text("of an earlier state")
        since = page.locator("details.differs")
        since.locator("summary").click()
        expect(since).to_contain_text("0555 014 221")
        self.assertEqual(SealedRow.objects.count(), 1)

    def test_labels_worded_anew_and_found_too_alike(self) -> None:
        page = self.stage(DESK, "Beacon Row 7", "labels")
        cards = page.locator(".label-card")
        expect(cards).to_have_count(11)
        for title, words in (
            ("DC isolator or safety switch", "SWITCH 1 PARTS"),
            ("AC isolator", "SWITCH 2 PARTS"),
        ):
            card = cards.filter(has=page.get_by_text(title, exact=True)).first
            card.get_by_role("button", name="words, photo").click()
            card.get_by_label("Our own words").fill(words)
            card.get_by_role("button", name="Keep").click()
            expect(card.get_by_role("img", name=words)).to_be_visible()
        expect(page.get_by_text("differ in a number only").first).to_be_visible()
        page.get_by_role("tab", name="sign", exact=True).click()
        expect(page.get_by_text("to be mended and never signed over").first).to_be_visible()
        expect(page.get_by_role("button", name="Sign").first).to_be_disabled()
        page.get_by_role("tab", name="open", exact=True).click()
        crew = page.get_by_role("region", name="The crew on the roof and at the wall")
        crew.get_by_role("button", name=re.compile("Labels told apart")).first.click()
        expect(cards.first).to_be_visible()

    def test_a_look_typed_and_from_a_file_on_a_phone(self) -> None:
        page = self.stage(HAND, "Beacon Row 7", "later")
        looks = page.get_by_role("list", name="Looks after the day")
        expect(looks).to_contain_text("Day 14")
        day = page.get_by_label("Day", exact=True).input_value()
        page.get_by_label("Energy, kWh").fill("much")
        page.get_by_role("button", name="Keep the look").tap()
        forms = page.get_by_role("region", name="Take a look")
        expect(forms.get_by_role("alert")).to_be_visible()
        page.get_by_label("Energy, kWh").fill("6.2")
        page.get_by_role("button", name="Keep the look").tap()
        expect(page.get_by_text("how clear the sky was").first).to_be_visible()
        for text, said in (
            ("Day;Energy\n2026-11-21;5\n", "says no unit"),
            (CSV.format(day=day).replace("5,2", "5200"), "is the file in another unit?"),
        ):
            self.give(page, text)
            expect(forms).to_contain_text(said)
        self.give(page, CSV.format(day=day))
        reasons = page.get_by_role("list", name="Why, likeliest first").first
        expect(reasons.locator("li").first).to_contain_text("string B carries nothing")
        expect(reasons.locator("li").first).to_contain_text("Read next: Its current")
        width = page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(width, HAND["width"])

    def give(self, page: Page, text: str) -> None:
        file = {"name": "portal.csv", "mimeType": "text/csv", "buffer": text.encode()}
        page.get_by_label("Table of energy").set_input_files([file])

    def test_an_open_point_leads_to_its_place(self) -> None:
        page = self.stage(DESK, "Lantern House", "open")
        tester = page.get_by_role("region", name="Whoever holds the tester")
        expect(tester).to_contain_text("Holds up:")
        tester.get_by_role("button", name=re.compile("^go there: ")).first.click()
        expect(page).not_to_have_url(re.compile("/leave$"))
        self.assertIn("/jobs/", page.url)
