"""One whole job through the real interface, from plan to record, with wrong input on the way."""

from __future__ import annotations

import json
import re
import tempfile
from datetime import datetime, timedelta
from pathlib import Path

from django.apps import apps
from django.db import connection
from playwright.sync_api import Page, expect

from core.files.job import read_job
from devices.simulated.faults import faults
from devices.simulated.image import Made
from devices.simulated.inverter import SimulatedInverter, running
from journeys.begin import begin
from journeys.browser import BrowserCase, keep_reading, lay_plane
from journeys.chromium import DESK, HAND
from server.demo.load import load
from server.people.erasing import erasing
from server.people.membership import add_person, found_crew

FIELDS = {
    "House": "Dory Lane 4",
    "Place": "Pellwick Strand",
    "Latitude, north positive": "54,2",
    "Longitude, east positive": "0.6",
    "Altitude": "12 m",
    "Time zone": "Europe/London",
    "Coldest air": "−9 °C",
    "Hottest air": "31 °C",
    "Where these come from": "Harbour log",
}
FIFTY_MB = 50 * 1024 * 1024
YESTERDAY_NOON = (datetime.now() - timedelta(days=1)).strftime("%Y-%m-%dT12:00")


class WholeJob(BrowserCase):
    def setUp(self) -> None:
        load()

    def test_from_plan_to_signed_page(self) -> None:
        page = self.open(DESK)
        page.get_by_role("button", name="Enter the demo").click()
        expect(page.get_by_text("Gull Terrace 2")).to_be_visible()
        expect(page.get_by_text("541.6 V at −12 °C")).to_be_visible()
        self.begin(page)
        self.plan(page)
        self.read(page)
        self.feed(page)
        with running(SimulatedInverter(Made(serial="J-7"), faults("forgets"))) as forgetful:
            self.set_wrongly(page, forgetful)
        with running(SimulatedInverter(Made(serial="J-8"))) as port:
            self.set(page, port)
        self.leave(page)

    def begin(self, page: Page) -> None:
        begin(page, "Net Loft", inverter="Veyrick Five")
        expect(page.get_by_role("heading", name="String", exact=True)).to_be_visible()

    def plan(self, page: Page) -> None:
        # Nothing of the roof is made up: its planes and its strings are asked for.
        lay_plane(page, "Front", "35", "180°")
        strings = page.get_by_role("form", name="Add a string")
        for typed in ("ten and", "10"):
            strings.get_by_label("Modules in series").fill(typed)
            strings.get_by_role("button", name="Add the string").click()
            if typed != "10":
                expect(strings.get_by_role("alert")).to_contain_text("modules in series")
        expect(strings).to_have_count(0)
        page.get_by_role("tab", name="roof").click()
        page.get_by_role("button", name="Add a string").click()
        expect(page.get_by_role("radio", name="B 0 of 10")).to_be_visible()
        page.get_by_role("tab", name="volts").click()
        string_a = page.get_by_role("radiogroup", name="Modules in series, string A")
        string_a.get_by_role("radio", name="15").click()
        expect(page.get_by_text("Do not plug in: 15 in series").first).to_be_visible()
        count = page.get_by_role("textbox", name="in series").first
        count.fill("400")
        count.press("Enter")
        refusal = page.get_by_role("alert")
        expect(refusal).to_contain_text("1 to 100 modules")
        expect(refusal).to_contain_text("kept")
        count.fill("11 modules")
        count.press("Enter")
        expect(page.get_by_text("11 leaves 133 V of room on the coldest morning")).to_be_visible()
        expect(page.get_by_role("button", name="String A, 11 leaves")).to_be_visible()

    def read(self, page: Page) -> None:
        page.keyboard.press("r")
        page.get_by_role("button", name="it was earlier").click()
        page.get_by_label("Read at").fill(YESTERDAY_NOON)
        page.get_by_role("button", name="Take the clear-sky figure instead").click()
        expect(page.get_by_text("clear sky, computed")).to_be_visible()
        self.take(page, "Air temperature in the shade", "9,5 °C")
        page.get_by_role("region", name="DC switch").get_by_role("button", name="OFF").click()
        taking = page.get_by_role("region", name="A · open circuit")
        low, high = (float(n) for n in re.findall(r"\d+", taking.locator(".expect").inner_text()))
        middle = (low + high) / 2
        field = taking.get_by_role("textbox", name="A · open circuit")
        field.fill("four hundred")
        expect(taking.get_by_role("alert")).to_contain_text("is not a number")
        field.fill(f"{middle * 10 / 11:.1f} V")
        # A clear-sky band is wide: the tail of the shorter string and a missing module both fit.
        expect(taking.locator(".verdicts")).to_contain_text("watch")
        expect(taking.get_by_text("1 module not in the string")).to_be_visible()
        expect(taking.get_by_text("cannot tell these apart")).to_be_visible()
        field.press("Enter")
        page.get_by_role("region", name="A · red plug").get_by_text("Plus is plus").click()
        page.get_by_role("region", name="A · connectors").get_by_role(
            "button", name="same make"
        ).click()
        self.take(page, "B · open circuit", f"{middle * 10 / 11:.1f}")
        page.get_by_role("region", name="B · red plug").get_by_text("Plus is plus").click()
        expect(page.get_by_text("String B stays unplugged")).to_be_visible()
        page.get_by_role("region", name="B · connectors").get_by_role(
            "button", name="same make"
        ).click()
        head = page.get_by_role("button", name=re.compile("^A · open circuit"))
        head.click()
        page.get_by_role("button", name="correct", exact=True).click()
        # What was wrong about the first is asked for beside the new one.
        page.get_by_role("textbox", name="Note").fill("a module was not plugged in yet")
        self.take(page, "A · open circuit", f"{middle:.1f}")
        line = page.locator("[id='ask-open_circuit/A']")
        expect(line.locator(".superseded")).to_contain_text("corrected")
        expect(line.locator(".ask-head")).to_contain_text("clear")
        expect(line).to_contain_text("Ada Fenn")
        # Its own readings are in; the rest of the job keeps it unplugged, and says so.
        expect(page.get_by_text("String A stays unplugged. Still to come")).to_be_visible()

    def same_make(self, page: Page, string: str) -> None:
        taking = page.get_by_role("region", name=f"{string} · connectors")
        taking.get_by_role("button", name="same make").click()

    def take(self, page: Page, title: str, text: str) -> None:
        taking = page.get_by_role("region", name=title)
        keep_reading(taking.get_by_role("textbox", name=title), text)

    def feed(self, page: Page) -> None:
        page.keyboard.press("5")
        expect(page.get_by_role("heading", name="Feed", exact=True)).to_be_visible()
        page.get_by_role("combobox", name="Grid profile").click()
        page.locator(".ant-select-item-option", has_text="Generic EN 50549-1").click()
        page.get_by_role("button", name=re.compile("^Supply voltage")).click()
        page.get_by_role("button", name=re.compile("^Supply L-N")).click()
        self.take(page, "Supply L-N", "0,2495 kV")
        page.get_by_role("button", name="leave", exact=True).click()
        page.get_by_role("button", name="Ladder of volts").click()
        cable = page.get_by_role("form", name="A run to Inverter")
        for label, text in (("One-way length", "15"), ("Size, mm² or AWG", "6"), ("Cores", "3")):
            cable.get_by_label(label).fill(text)
        cable.get_by_role("button", name="Run it").click()
        run = page.get_by_role("region", name="To Inverter")
        length = run.get_by_label("One-way length")
        length.fill("5 km")
        length.press("Enter")
        expect(run.get_by_role("alert")).to_contain_text("is not in m")
        length.fill("80 ft")
        length.press("Enter")
        expect(length).to_have_value(re.compile("24.384"))
        sizes = run.get_by_role("radiogroup", name="Conductor size of To Inverter")
        sizes.get_by_role("radio", name=re.compile("^1.5")).click()
        expect(page.get_by_text("the inverter will stop again and again")).to_be_visible()
        sizes.get_by_role("radio", name=re.compile("^10")).click()
        expect(page.get_by_text("of room to the trip at 253 V")).to_be_visible()

    def set_wrongly(self, page: Page, port: int) -> None:
        page.keyboard.press("9")
        expect(page.get_by_role("heading", name="Set", exact=True)).to_be_visible()
        address = page.get_by_label("Inverter's address")
        address.fill("127.0.0.1")
        address.press("Enter")
        for typed, said in (("70000", "1 to 65535"), ("1", "Nothing answers")):
            field = page.get_by_role("textbox", name="Port")
            field.fill(typed)
            field.press("Enter")
            if said != "1 to 65535":
                page.get_by_role("button", name="Write and read back").click()
            expect(page.get_by_text(said).first).to_be_visible()
        self.write(page, port)
        expect(page.get_by_text("2 of 24 settings do not agree").first).to_be_visible()

    def write(self, page: Page, port: int) -> None:
        field = page.get_by_role("textbox", name="Port")
        field.fill(str(port))
        field.press("Enter")
        expect(field).to_have_value(str(port))
        page.get_by_role("button", name="Write and read back").click()

    def set(self, page: Page, port: int) -> None:
        self.write(page, port)
        expect(page.get_by_text("serial J-8")).to_be_visible()
        expect(page.locator(".point-stop")).to_have_count(0)
        page.keyboard.press("r")
        self.take(page, "Supply · frequency", "50,01 Hz")
        self.take(page, "Over-voltage, ten-minute mean", "253 V")
        self.take(page, "Loss of mains, active", "2 s")
        # The mean of ten minutes is asked for next: it takes its time.
        page.get_by_role("button", name="leave", exact=True).click()
        expect(page.get_by_text("Profile for this frequency")).to_be_visible()
        expect(page.locator(".fingerprint")).to_contain_text("settings")

    def leave(self, page: Page) -> None:
        page.keyboard.press("0")
        page.get_by_role("tab", name="record", exact=True).click()
        expect(page.get_by_alt_text("Page 1 of the record")).to_be_visible()
        with page.expect_download() as record:
            page.get_by_role("link", name="Record, A4 PDF").click()
        self.assertTrue(Path(record.value.path()).read_bytes().startswith(b"%PDF"))
        with page.expect_download() as file:
            page.get_by_role("link", name="Job file, JSON").click()
        raw = Path(file.value.path()).read_bytes()
        job = read_job(raw)
        self.assertEqual(len([r for r in job.readings if r.supersedes]), 1)
        self.assertEqual(
            [w.outcome for w in job.settings_written if w.outcome != "begun"],
            ["unreachable", "read_back", "read_back"],
        )
        self.elsewhere(page, raw)

    def elsewhere(self, page: Page, raw: bytes) -> None:
        """The same file on a machine that has never seen the job, and a file that is none."""
        of_a_job = [m for m in apps.get_models() if any(f.name == "job" for f in m._meta.fields)]
        page.goto("about:blank")  # the page samples the supply as long as it is open
        with erasing("another machine"), connection.cursor() as cursor:
            for table in (*(model._meta.db_table for model in of_a_job), "jobs_jobrow"):
                cursor.execute(f"DELETE FROM {table}")
        page.goto(self.live_server_url)
        expect(page.get_by_text("No job yet.")).to_be_visible()
        broken = json.loads(raw)
        broken["module"]["voc_v"] = "39.1"
        self.give(page, json.dumps(broken).encode())
        expect(page.get_by_role("alert")).to_contain_text("module")
        with tempfile.NamedTemporaryFile(suffix=".json") as huge:
            huge.truncate(FIFTY_MB)
            page.get_by_label("Job file").set_input_files(huge.name)
        expect(page.get_by_role("alert")).to_contain_text("at most 16 MB")
        self.give(page, raw)
        expect(page.get_by_text("11 leaves 133 V of room on the coldest morning")).to_be_visible()
        page.keyboard.press("0")
        with page.expect_download() as again:
            page.get_by_role("link", name="Job file, JSON").click()
        self.assertEqual(read_job(Path(again.value.path()).read_bytes()), read_job(raw))

    def give(self, page: Page, raw: bytes) -> None:
        file = {"name": "job.json", "mimeType": "application/json", "buffer": raw}
        page.get_by_label("Job file").set_input_files([file])


class InTheHand(BrowserCase):
    def test_gloves_keys_lights_and_finding(self) -> None:
        load()
        page = self.open(HAND)
        page.get_by_role("button", name="Enter the demo").tap()
        page.get_by_text("Lantern House").tap()
        expect(page.get_by_role("heading", name="Readings")).to_be_visible()
        page.get_by_role("button", name="next reading", exact=True).tap()
        page.get_by_role("button", name="Swapped").tap()
        connectors = page.get_by_role("region", name="B · connectors")
        connectors.get_by_role("button", name="same make").tap()
        ask = page.locator("[id='ask-polarity/B']")
        expect(ask).to_contain_text("Do not plug in: plus and minus are swapped")
        page.get_by_role("button", name=re.compile("^B · open circuit")).tap()
        page.get_by_role("button", name="read again").tap()
        for key in "338.2":
            page.locator(".keypad").get_by_role("button", name=key, exact=True).tap()
        field = page.get_by_role("textbox", name="B · open circuit")
        expect(field).to_have_value("338.2")
        page.get_by_role("button", name="Erase").tap()
        expect(field).to_have_value("338.")
        field.press("l")
        expect(page.locator("html")).to_have_attribute("data-light", "paper")
        page.get_by_role("button", name="leave", exact=True).tap()
        width = page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(width, HAND["width"])
        page.keyboard.press("l")
        expect(page.locator("html")).to_have_attribute("data-light", "glare")
        page.keyboard.press("?")
        expect(page.get_by_text("No key acts while you type")).to_be_visible()
        page.keyboard.press("Escape")
        page.keyboard.press("/")
        page.get_by_label("Find", exact=True).fill("supply voltage")
        page.keyboard.press("Escape")
        page.keyboard.press("w")
        expect(page.get_by_text("Source: IEC 62548-1").first).to_be_visible()

    def test_outside_the_demo_a_password_opens_the_door(self) -> None:
        add_person(found_crew("Bo alone"), "bo", "owner", "a long way to the sea")
        with self.settings(DEMO=False):
            page = self.open(HAND)
            expect(page.get_by_role("button", name="Sign in", exact=True)).to_be_visible()
            expect(page.get_by_text("Enter the demo")).to_have_count(0)
            page.get_by_label("Name").fill("bo")
            page.get_by_label("Password").fill("wrong")
            page.get_by_role("button", name="Sign in", exact=True).tap()
            expect(page.get_by_role("alert")).to_contain_text("do not go together")
            page.get_by_label("Password").fill("a long way to the sea")
            page.get_by_role("button", name="Sign in", exact=True).tap()
            expect(page.get_by_text("No job yet.")).to_be_visible()
