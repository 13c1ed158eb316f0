"""The real interface in headless Chromium against a live server: nothing leaves this machine."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Literal

from django.conf import settings
from django.test import LiveServerTestCase, override_settings
from playwright.sync_api import Browser, Locator, Page, Playwright, Route, expect, sync_playwright

from journeys.chromium import FLAGS, HAND, browser_path
from server.jobs.models import JobRow

# How many answers of the server are still awaited.
COUNT_FETCHES = """window.awaited = 0;
const asked = window.fetch;
window.fetch = (...of) => {
  window.awaited += 1;
  return asked(...of).finally(() => setTimeout(() => { window.awaited -= 1; }, 0));
};"""
SETTLED = """() => window.awaited === 0 && document.fonts.status === 'loaded'
  && [...document.querySelectorAll('.nothing')]
    .every((one) => !one.innerText.startsWith('Opening'))"""
# Another page of the app without loading it anew, as a link does.
GO = """(path) => {
  window.history.pushState({}, '', path);
  window.dispatchEvent(new PopStateEvent('popstate'));
}"""
# How long a page may take beside other browsers on a busy machine.
PATIENCE_MS = 30_000
LOOK_AGAIN_MS = 100
# Chromium logs a refused entry as a console error; that a refusal is shown is what is tested.
REFUSAL = "the server responded with a status of 4"


@override_settings(DEMO=True)
class BrowserCase(LiveServerTestCase):
    """A page on the live server; fails on console errors and on requests that leave it."""

    # WhiteNoise serves what was collected, as in the demo.
    static_handler = staticmethod(lambda app: app)
    playwright: Playwright
    browser: Browser
    # The core in the browser comes some seconds after the page: only where it is tried.
    core_in_browser = False
    # What lays the app down on a device takes requests out of sight: only where it is tried.
    service_workers: Literal["allow", "block"] = "block"

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        expect.set_options(timeout=PATIENCE_MS)
        if not (settings.STATIC_ROOT / "assets").exists():
            raise AssertionError("collect static files first: ./noon test does")
        if not cls.core_in_browser:
            cls.enterClassContext(override_settings(ENGINE_ROOT=None))
        cls.playwright = sync_playwright().start()
        cls.browser = cls.playwright.chromium.launch(
            executable_path=browser_path(),
            args=list(FLAGS),
        )
        cls.addClassCleanup(cls.playwright.stop)
        cls.addClassCleanup(cls.browser.close)

    def open(self, size: dict[str, int]) -> Page:
        """A new page that sees only the live server."""
        context = self.browser.new_context(
            viewport={"width": size["width"], "height": size["height"]},
            has_touch=size is HAND,
            accept_downloads=True,
            timezone_id="Europe/London",
            service_workers=self.service_workers,
        )
        self.addCleanup(context.close)
        self.faults: list[str] = []
        page = context.new_page()
        # A request under way while the page goes is nobody's fault.
        self.addCleanup(lambda: page.unroute_all(behavior="ignoreErrors"))
        page.set_default_timeout(PATIENCE_MS)
        page.add_init_script(COUNT_FETCHES)
        page.route("**/*", self._stay_here)
        page.on("console", self._on_console)
        page.on("pageerror", lambda error: self.faults.append(str(error)))
        self.addCleanup(lambda: self.assertEqual(self.faults, []))
        page.goto(self.live_server_url)
        return page

    def stage_of(self, size: dict[str, int], job: str, stage: str, face: str) -> Page:
        """A face of a stage of a demo job, as who enters the demo comes to it."""
        page = self.open(size)
        page.get_by_role("button", name="Enter the demo").click()
        expect(page.locator(".day")).to_have_count(7)
        self.go(page, f"/jobs/{JobRow.objects.get(plan__name=job).id}/{stage}")
        expect(page.get_by_role("heading", name=stage.title(), exact=True)).to_be_visible()
        page.get_by_role("tab", name=face, exact=True).click()
        return page

    def go(self, page: Page, path: str) -> None:
        """Show another page of the app, all of it."""
        page.evaluate(GO, path)
        self.settled(page)

    def until(self, page: Page, holds: Callable[[], bool]) -> None:
        """Wait until something holds on the server, however long the page takes."""
        for _ in range(PATIENCE_MS // LOOK_AGAIN_MS):
            if holds():
                return
            page.wait_for_timeout(LOOK_AGAIN_MS)

    def settled(self, page: Page) -> None:
        """Wait until everything that was asked for is there and drawn."""
        page.wait_for_function(SETTLED)
        page.evaluate("() => new Promise((drawn) => requestAnimationFrame(() => drawn()))")

    def _stay_here(self, route: Route) -> None:
        if route.request.url.startswith((self.live_server_url, "data:")):
            route.continue_()
        else:
            self.faults.append(f"left the server: {route.request.url}")
            route.abort()

    def _on_console(self, message: Any) -> None:
        if message.type == "error" and REFUSAL not in message.text:
            self.faults.append(message.text)


def keep_reading(field: Locator, text: str) -> None:
    """A reading typed into its field, and kept once its verdict is there."""
    field.fill(text)
    judged(field.page)
    field.press("Enter")


def judged(page: Page) -> None:
    """Wait for the verdict on what stands in the field: without it a Keep wants another press."""
    expect(page.locator(".taking .asking")).to_have_count(0)


def lay_plane(page: Page, name: str, tilt: str, facing: str) -> None:
    """A roof plane typed into the form of the stage that is open."""
    form = page.get_by_role("form", name="Add a plane")
    for label, text in (("Name", name), ("Tilt", tilt), ("Facing, 180 south", facing)):
        form.get_by_label(label).fill(text)
    form.get_by_role("button", name="Add", exact=True).click()
