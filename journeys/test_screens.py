"""Every screen at both sizes and in both lights: nothing cut off, nothing too small for a glove."""

from __future__ import annotations

import re
from collections.abc import Iterator

from playwright.sync_api import Page, expect

from journeys.browser import BrowserCase
from journeys.chromium import DESK, HAND
from server.demo.load import load
from server.jobs.models import JobRow

JOBS = ("Lantern House", "Ferry Office", "Gull Terrace 2", "Sail Loft")
FACES = {
    "arrive": ("permit and people", "left open"),
    "hang": ("measures", "sun"),
    "string": ("roof", "ends", "arrange"),
    "talk": ("ports", "pair", "ladder", "account", "after"),
    "wake": ("off", "replace", "emergency", "rehearse"),
    "set": ("live", "trials"),
}
STAGES = (
    "arrive", "hang", "earth", "string", "feed", "talk", "prove", "wake", "set", "leave", "day",
)  # fmt: skip
DOORS = ("shelf", "bench", "weeks")
ROOF_JOB = "Slipway Cottage"
ROOF_FACES = {
    "arrive": FACES["arrive"],
    "hang": ("roof", "measures"),
    "string": ("branches", "trunk", "made", "map", "switch on"),
    "talk": FACES["talk"],
    "wake": FACES["wake"],
    "set": FACES["set"],
}
GLOVE_PX = 44
# Elements that take a touch, and what of them is too small; those in text are as tall as the line.
TOO_SMALL = """(least) => [...document.querySelectorAll(
  'button, a, input:not([type=checkbox]), .ant-checkbox-wrapper, [role=radio]')]
  .filter((one) => one.checkVisibility() && !one.closest('.unseen, .ant-select, svg, .brand'))
  .map((one) => [one.className || one.tagName, one.innerText, one.getBoundingClientRect()])
  .filter(([, , box]) => box.height < least - 0.5 && box.width > 1)
  .map(([name, text, box]) => `${name} "${text}" ${Math.round(box.height)} px`)"""
# Text that is wider than the element that holds it.
CUT_OFF = """() => [...document.querySelectorAll('h1, h2, p, b, dd, td, button, .entry-label')]
  .filter((one) => one.checkVisibility() && !one.closest('.unseen')
    && one.scrollWidth > one.clientWidth + 1
    && getComputedStyle(one).display !== 'inline' && one.clientWidth > 0)
  .map((one) => `${one.tagName}.${one.className} ${one.innerText.slice(0, 40)}`)"""
# Drawn text that leaves its picture.
OUTSIDE = """() => [...document.querySelectorAll(
  '.picture svg text, .wall text, .roof-drawn text, .trunk-drawn text')]
  .filter((one) => {
    const box = one.getBoundingClientRect(), frame = one.ownerSVGElement.getBoundingClientRect();
    return box.width && (box.left < frame.left - 2 || box.right > frame.right + 2);
  })
  .map((one) => one.textContent)"""


class Screens(BrowserCase):
    def setUp(self) -> None:
        load()

    def enter(self, size: dict[str, int]) -> Page:
        page = self.open(size)
        page.get_by_role("button", name="Enter the demo").click()
        expect(page.locator(".day")).to_have_count(7)
        return page

    def stage(self, page: Page, job: str, stage: str) -> None:
        job_id = JobRow.objects.get(plan__name=job).id
        self.go(page, f"/jobs/{job_id}/{stage}")
        expect(page.locator(".stage-head")).to_be_visible()

    def faces(self, page: Page, job: str) -> Iterator[str]:
        """Each further face of a job's stages, shown."""
        for stage, faces in (ROOF_FACES if job == ROOF_JOB else FACES).items():
            self.stage(page, job, stage)
            for face in faces:
                page.get_by_role("tab", name=face).click()
                self.settled(page)
                yield face

    def check(self, page: Page, where: str) -> None:
        with self.subTest(where=where):
            width = page.evaluate("document.documentElement.scrollWidth")
            self.assertLessEqual(width, page.viewport_size["width"] if page.viewport_size else 0)
            self.assertEqual(page.evaluate(CUT_OFF), [])
            self.assertEqual(page.evaluate(OUTSIDE), [])

    def test_nothing_is_cut_off(self) -> None:
        for size in (DESK, HAND):
            page = self.enter(size)
            self.check(page, f"home {size}")
            for job in (*JOBS, ROOF_JOB):
                for stage in STAGES:
                    self.stage(page, job, stage)
                    self.check(page, f"{job} {stage} {size['width']}")
                for face in self.faces(page, job):
                    self.check(page, f"{job} {face} {size['width']}")
            for door in DOORS:
                self.go(page, f"/{door}")
                self.check(page, f"{door} {size['width']}")

    def test_every_touch_is_large_enough_for_a_glove(self) -> None:
        page = self.enter(HAND)
        self.assertEqual(page.evaluate(TOO_SMALL, GLOVE_PX), [], "home")
        for job in ("Ferry Office", ROOF_JOB):
            for stage in STAGES:
                self.stage(page, job, stage)
                with self.subTest(job=job, stage=stage):
                    self.assertEqual(page.evaluate(TOO_SMALL, GLOVE_PX), [])
            for face in self.faces(page, job):
                with self.subTest(job=job, face=face):
                    self.assertEqual(page.evaluate(TOO_SMALL, GLOVE_PX), [])
        for door in DOORS:
            self.go(page, f"/{door}")
            with self.subTest(door=door):
                self.assertEqual(page.evaluate(TOO_SMALL, GLOVE_PX), [])

    def test_the_light_is_kept(self) -> None:
        page = self.enter(DESK)
        page.keyboard.press("l")
        page.reload()
        expect(page.locator("html")).to_have_attribute("data-light", "glare")
        ground = page.evaluate("getComputedStyle(document.body).backgroundColor")
        self.assertEqual(ground, "rgb(255, 255, 255)")

    def test_someone_else_changed_the_job_in_between(self) -> None:
        page = self.enter(DESK)
        self.stage(page, "Gull Terrace 2", "string")
        other = page.context.new_page()
        other.goto(page.url)
        other.get_by_role("radio", name="10").click()
        expect(other.get_by_text("10 leaves")).to_be_visible()
        page.get_by_role("radio", name="9", exact=False).first.click()
        expect(page.get_by_role("alert")).to_contain_text("Somebody changed this job")
        expect(page.get_by_text("10 leaves")).to_be_visible()

    def test_a_server_that_went_away_is_said_and_nothing_typed_is_lost(self) -> None:
        page = self.enter(DESK)
        self.stage(page, "Lantern House", "feed")
        page.get_by_role("button", name=re.compile("^Supply voltage")).click()
        page.get_by_role("button", name=re.compile("^Supply L-N")).click()
        field = page.get_by_role("textbox", name="Supply L-N")
        page.route("**/api/**", lambda route: route.abort())
        field.fill("241.3")
        expect(page.get_by_role("alert").first).to_contain_text("does not answer")
        expect(field).to_have_value("241.3")
        # Pressed all the same it is kept here, until the server is back.
        field.press("Enter")
        device = page.get_by_role("region", name="On this device")
        expect(device).to_contain_text("1 reading on this device")
        device.get_by_role("button", name="look").click()
        expect(device).to_contain_text("241.3")
        self.faults.clear()
