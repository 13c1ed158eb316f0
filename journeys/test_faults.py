"""When something breaks: the part that failed is named, and everything else goes on."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from playwright.sync_api import Page, Route, expect

from journeys.browser import BrowserCase
from journeys.chromium import DESK
from server.demo.load import load
from server.jobs.models import JobRow


class Faults(BrowserCase):
    def setUp(self) -> None:
        load()

    def enter(self, job: str) -> tuple[Page, str]:
        page = self.open(DESK)
        page.get_by_role("button", name="Enter the demo").click()
        expect(page.locator(".day")).to_have_count(7)
        return page, f"/jobs/{JobRow.objects.get(plan__name=job).id}"

    def spoil(self, page: Page, spoil: Callable[[Any], None]) -> None:
        """Let every answer with a job come spoiled, as from a server of another version."""

        def handle(route: Route) -> None:
            answer = route.fetch()
            view = answer.json()
            spoil(view)
            route.fulfill(response=answer, json=view)

        page.route(re.compile(r"/api/jobs/[0-9a-f-]+$"), handle)

    def test_a_stage_that_fails_says_so_and_the_others_go_on(self) -> None:
        page, job = self.enter("Lantern House")
        self.spoil(page, lambda view: view["assessment"].update(grid=None))
        page.evaluate("(path) => { window.location.href = path }", f"{job}/set")
        failed = page.get_by_role("alert").filter(has_text="Set cannot be shown")
        expect(failed).to_contain_text("Nothing that was kept is lost")
        page.keyboard.press("4")
        expect(page.get_by_role("heading", name="String", exact=True)).to_be_visible()
        expect(failed).to_have_count(0)
        page.keyboard.press("9")
        expect(failed).to_be_visible()
        page.unroute_all()
        failed.get_by_role("button", name="Load the page anew").click()
        expect(page.get_by_role("heading", name="Set", exact=True)).to_be_visible()
        self.faults.clear()

    def test_a_rail_that_fails_leaves_its_picture(self) -> None:
        page, job = self.enter("Lantern House")
        self.spoil(
            page, lambda view: [ask.update(answers=None) for ask in view["assessment"]["asks"]]
        )
        page.evaluate("(path) => { window.location.href = path }", f"{job}/string")
        expect(page.get_by_role("heading", name="String", exact=True)).to_be_visible()
        page.keyboard.press("r")
        expect(page.get_by_role("alert")).to_contain_text("The readings cannot be shown")
        expect(page.get_by_role("group", name="Voltage window of all strings")).to_be_visible()
        self.faults.clear()

    def test_a_page_that_fails_leads_back_to_the_jobs(self) -> None:
        page, job = self.enter("Lantern House")
        self.spoil(page, lambda view: view["assessment"].update(stages=None))
        page.evaluate("(path) => { window.location.href = path }", f"{job}/hang")
        expect(page.get_by_role("alert")).to_contain_text("This job cannot be shown")
        page.get_by_role("link", name="To the jobs").click()
        expect(page.locator(".day")).to_have_count(7)
        self.faults.clear()

    def test_a_part_that_was_lost_on_the_way_is_fetched_again(self) -> None:
        page, job = self.enter("Lantern House")
        lost: list[str] = []

        def lose_once(route: Route) -> None:
            if len(lost) < 2:
                lost.append(route.request.url)
                route.abort()
            else:
                route.fallback()

        page.route(re.compile("EarthStage"), lose_once)
        self.go(page, f"{job}/earth")
        expect(page.get_by_role("heading", name="Earth", exact=True)).to_be_visible()
        self.assertEqual(len(lost), 2)
        self.faults.clear()

    def test_what_was_typed_stays_until_the_server_has_taken_it(self) -> None:
        page, job = self.enter("Lantern House")
        self.go(page, f"{job}/hang")
        field = page.get_by_role("textbox", name="From the left edge")
        was = field.input_value()
        field.fill("twelve")
        field.press("Enter")
        expect(page.get_by_text(f"Kept: {was}")).to_be_visible()
        expect(field).to_have_value("twelve")
        page.route("**/api/**", lambda route: route.abort())
        field.fill("1300 mm")
        field.press("Enter")
        expect(page.get_by_text("The server does not answer").first).to_be_visible()
        expect(field).to_have_value("1300 mm")
        page.unroute_all()
        field.press("End")
        field.press("Enter")
        expect(page.get_by_text(f"Kept: {was}")).to_have_count(0)
        expect(field).to_have_value("1300\u00a0mm")
        self.faults.clear()

    def test_keep_waits_for_its_verdict_and_going_on_meanwhile_loses_nothing(self) -> None:
        page, job = self.enter("Lantern House")
        self.go(page, f"{job}/feed")
        page.get_by_role("button", name=re.compile("^Supply voltage")).click()
        page.get_by_role("button", name=re.compile("^Supply L-N")).click()
        field = page.get_by_role("textbox", name="Supply L-N")
        field.fill("241 V")
        expect(page.locator(".taking .verdicts")).to_be_visible()
        unanswered: list[Route] = []

        def hold(route: Route) -> None:
            unanswered.append(route)

        page.route("**/readings/try", hold)
        field.fill("290 V")
        # The verdict on 241 V stands beside no other figure, and a late one is said to be late.
        expect(page.locator(".taking .verdicts")).to_have_count(0)
        keep = page.get_by_role("button", name="Keep, not judged yet")
        expect(keep).to_be_visible()
        expect(page.get_by_text("No verdict yet")).to_be_visible()
        field.fill("249 V")
        field.press("Enter")
        page.get_by_role("button", name="leave", exact=True).click()
        kept = page.get_by_role("button", name=re.compile("^Supply L-N"))
        expect(kept).to_contain_text(re.compile("249.*(clear|watch|stop)", re.DOTALL))
        kept.click()
        page.get_by_role("button", name="read again").click()
        field.fill("250 V")
        page.route("**/readings", lambda route: route.abort())
        field.press("Enter")
        page.get_by_role("button", name="leave", exact=True).click()
        # Kept on the device until there is an answer, and then on the server.
        expect(kept).to_contain_text("250 V")
        expect(kept).to_contain_text("on this device")
        page.unroute("**/readings")
        expect(kept).not_to_contain_text("on this device")
        expect(kept).to_contain_text("250")
        for route in unanswered:
            route.abort()
        page.unroute_all()
        self.faults.clear()
