"""Prove, Wake and Set through the real interface: tests, locks, waits, a rehearsal, trials."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from devices.simulated.faults import faults
from devices.simulated.image import Made
from devices.simulated.inverter import SimulatedInverter, running
from journeys.browser import BrowserCase, keep_reading
from journeys.chromium import DESK, HAND
from server.demo.load import load

SERIAL = "VX26030092"
TESTER_FILE = (
    "Strang;Zeit;Uiso;Riso+\nA;2026-06-18T11:20;1000;>200\nB;2026-06-18T11:24;1000;0,31 GΩ\n"
)


class Commissioning(BrowserCase):
    def setUp(self) -> None:
        load()

    def stage(self, size: dict[str, int], job: str, stage: str) -> Page:
        page = self.open(size)
        page.get_by_role("button", name="Enter the demo").click()
        page.get_by_text(job).click()
        page.wait_for_url(re.compile("/jobs/"))
        page.goto(re.sub(r"/\w+$", f"/{stage}", page.url))
        expect(page.locator(".stage-head")).to_be_visible()
        return page

    def test_a_test_by_thumb_a_retest_and_an_expired_tester(self) -> None:
        page = self.stage(HAND, "Ferry Office", "prove")
        line = page.locator(".test", has_text="A · short-circuit current")
        expect(line).to_contain_text("its calibration ended on 2026-10-31")
        page.get_by_role("button", name="Take A · insulation, plus to earth").click()
        taking = page.get_by_role("region", name="A · insulation, plus to earth")
        field = taking.get_by_role("textbox").first
        field.fill("0.4 GV")
        expect(taking.get_by_role("alert")).to_contain_text("is not in MΩ")
        field.fill("400 kΩ")
        expect(taking.locator(".verdicts")).to_contain_text("Something touches earth")
        field.press("Enter")
        test = page.locator(".test", has_text="A · insulation, plus to earth")
        expect(test).to_contain_text("0.4 MΩ")
        expect(test).to_contain_text("read 2 times")
        expect(test).to_contain_text("serial MT-20417")
        expect(page.locator(".stage-about")).to_contain_text("45 of 48")

    def test_a_testers_file_with_other_names(self) -> None:
        page = self.stage(DESK, "Ferry Office", "prove")
        file = {"name": "t.csv", "mimeType": "text/csv", "buffer": TESTER_FILE.encode()}
        page.get_by_label("File of the tester", exact=True).set_input_files([file])
        picks = page.locator(".column-picks")
        for theirs, ours in (
            ("Strang", "subject"),
            ("Zeit", "taken at"),
            ("Uiso", "insulation volts"),
            ("Riso+", "insulation plus"),
        ):
            picks.get_by_role("combobox", name=f"{theirs} is").click()
            page.keyboard.type(ours)
            page.locator(".ant-select-dropdown:visible").get_by_title(ours, exact=True).click()
        page.get_by_role("button", name="Keep for this tester").click()
        expect(page.locator(".file-readings")).to_contain_text("takes the place of")
        page.get_by_role("button", name="Keep 4 readings").click()
        expect(page.locator(".file-readings")).to_have_count(0)
        page.get_by_role("button", name="String B").click()
        test = page.locator(".test", has_text="B · insulation, plus to earth")
        expect(test).to_contain_text("310 MΩ")
        # The mapping stays with the tester: the next file is understood at once.
        page.get_by_label("File of the tester", exact=True).set_input_files([file])
        expect(page.get_by_role("button", name="Keep 4 readings")).to_be_visible()

    def test_locks_waits_and_an_override(self) -> None:
        page = self.stage(HAND, "Ferry Office", "wake")
        card = page.locator(".step-card")
        expect(card).to_contain_text("Breaker of the inverter circuit ON")
        card.get_by_role("button", name="It is ON, as expected").click()
        expect(card).to_contain_text("AC isolator ON")
        # It would feed now: what is to be set first is told, and led to with one touch.
        expect(card.locator(".locks")).to_contain_text("Waiting for the profile to be written")
        expect(card.get_by_role("button", name="It is ON, as expected")).to_be_disabled()
        card.get_by_role("button", name="go there").first.click()
        page.wait_for_url(re.compile("/set$"))
        made = Made(serial=SERIAL, kind="three", model="Ten", rated_w=10_000)
        with running(SimulatedInverter(made)) as port:
            self.write_to(page, port)
            expect(page.locator("#judgement-settings_agree")).to_contain_text("clear")
        page.get_by_role("button", name=re.compile("^Over-voltage, ten-minute mean")).first.click()
        for title, value in (("Over-voltage, ten-minute mean", "253"), ("Loss of mains", "2")):
            taking = page.get_by_role("region", name=re.compile(title))
            keep_reading(taking.get_by_role("textbox").first, value)
            expect(taking).to_have_count(0)
        page.go_back()
        card.get_by_role("button", name="It is ON, as expected").click()
        # The wait is counted from the step itself: it survives a reload.
        expect(card.get_by_role("timer")).to_be_visible()
        page.reload()
        expect(card.get_by_role("timer")).to_contain_text(re.compile(r"0:[0-5]\d left"))
        card.get_by_role("button", name="So it is").click()
        expect(page.get_by_role("alert")).to_contain_text("The wait is not over")
        card.get_by_role("button", name="lift this lock").click()
        card.get_by_role("textbox").fill("It feeds already: seen on the display")
        card.get_by_role("button", name="Lift the lock").click()
        expect(card).to_contain_text("licence FENN-0417")
        card.get_by_role("button", name="So it is").click()
        expect(card).to_contain_text("It feeds")
        card.get_by_role("button", name="Not as expected").click()
        expect(card).to_contain_text("decode its lights")
        page.get_by_role("button", name=re.compile("red, steady")).click()
        expect(page.locator("#judgement-light_alarm")).to_contain_text(
            "earth fault", ignore_case=True
        )
        # An alarm locks whatever comes next, until its light shows otherwise.
        expect(card.get_by_role("button", name="So it is")).to_be_disabled()
        page.get_by_role("button", name=re.compile("green, steady")).click()
        card.get_by_role("button", name="So it is").click()
        expect(card).to_contain_text("Left to run")
        expect(card.get_by_role("button", name="So it is")).to_be_disabled()

    def test_a_rehearsal_shows_what_a_wrong_order_does(self) -> None:
        page = self.stage(DESK, "Ferry Office", "wake")
        page.get_by_role("tab", name="rehearse").click()
        for name in ("Strings' plugs", "DC switch", "Breaker", "AC isolator"):
            page.get_by_role("button", name=f"{name}, OFF").click()
            expect(page.get_by_role("button", name=f"{name}, ON")).to_be_visible()
        page.get_by_role("radio", name="60×").click()
        expect(page.locator(".events")).to_contain_text("It feeds; its power rises")
        page.get_by_role("button", name="Strings' plugs, ON").click()
        expect(page.locator(".rehearse-line")).to_contain_text("Somebody would be hurt")
        expect(page.locator(".event-harm")).to_contain_text("arc")
        page.get_by_role("button", name="Begin again").click()
        expect(page.locator(".event-harm")).to_have_count(0)

    def test_partly_refused_looked_at_again_and_tried(self) -> None:
        page = self.stage(DESK, "Ferry Office", "set")
        made = Made(serial=SERIAL, kind="three", model="Ten", rated_w=10_000)
        with running(SimulatedInverter(made, faults("refuses=708,alarms=1"))) as port:
            self.write_to(page, port)
            expect(page.locator(".attempt-parts")).to_contain_text("Over-voltage step 1")
            expect(page.locator(".point-stop")).to_have_count(2)
            page.get_by_role("tab", name="live").click()
            expect(page.locator(".live-values").first).to_contain_text("L3-N")
            expect(page.locator(".alarms")).to_contain_text("Supply voltage too high")
            page.get_by_role("tab", name="profile").click()
        with running(SimulatedInverter(made)) as port:
            self.write_to(page, port)
            expect(page.locator(".point-stop")).to_have_count(0)
            page.get_by_role("button", name="Only read").click()
            expect(page.get_by_text("Still as it was set")).to_be_visible()
        page.get_by_role("tab", name="trials").click()
        for title in ("Inverter stopped feeding", "Supply closed", "Inverter feeds again"):
            page.locator(".loss-next").get_by_role("button", name="Now").click()
            expect(page.locator(".loss-next")).to_contain_text(title)
        page.locator(".loss-next").get_by_role("button", name="Now").click()
        expect(page.locator("#judgement-loss_returns")).to_contain_text("it must watch for")

    def test_a_profile_from_the_operators_letter(self) -> None:
        page = self.stage(DESK, "Ferry Office", "set")
        page.get_by_role("tab", name="letter").click()
        form = page.get_by_role("form", name="Profile from the operator's letter")
        form.get_by_role("combobox", name="Begin with").click()
        page.locator(".ant-select-item-option").filter(has_text="EN 50549").click()
        step = form.get_by_label("Over-voltage step 1 ", exact=False).first
        expect(step).to_have_value("264.5")
        step.fill("250")
        keep = form.get_by_role("button", name="Keep the letter's profile")
        keep.click()
        expect(form.get_by_role("alert")).to_contain_text("network operator")
        for label, text in (
            ("Network operator", "Shore Networks"),
            ("Reference of the letter", "SN-41"),
            ("Of the day", "2026-11-20"),
        ):
            form.get_by_label(label).fill(text)
        keep.click()
        # At the level of the mean, or below it, the fast step acts first.
        expect(form.get_by_role("alert")).to_contain_text("ten-minute mean")
        step.fill("262 V")
        keep.click()
        expect(page.locator(".stage-about")).to_contain_text("Shore Networks, SN-41")
        expect(form).to_contain_text("filled in by")

    def write_to(self, page: Page, port: int) -> None:
        field = page.get_by_role("textbox", name="Port")
        field.fill(str(port))
        field.press("Enter")
        expect(field).to_have_value(str(port))
        page.get_by_role("button", name="Write and read back").click()
