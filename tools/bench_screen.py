"""The screen measured in the real browser on the demo, started as a user starts it."""

from __future__ import annotations

import gzip
import os
import re
import signal
import subprocess
import tempfile
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

from journeys.chromium import DESK, FLAGS, HAND, browser_path
from tools.measuring import show

ROOT = Path(__file__).resolve().parent.parent
ADDRESS = "127.0.0.1:8799"
PRESSES = 80
P95 = 0.95
STARTS_WITHIN_S = 60.0
# Both workers have loaded the sun's library by then.
SETTLES_WITHIN_MS = 4000
MS_PER_S = 1000
# The worker's own files are not among the page's: its script is the first that is seen of it.
CORE_BEGUN = """() => performance.now() - performance.getEntriesByType('resource')
  .find((one) => one.name.includes('core.worker')).startTime"""
BYTES_PER_KB = 1000
# How much slower a phone in the hand is than this machine, and a thin line as browsers emulate it.
SLOWER = 4
SLOW_4G = {
    "offline": False,
    "latency": 562.5,
    "downloadThroughput": 180_000,
    "uploadThroughput": 84_375,
}

# Counts frames while the mouse drags.
COUNT_FRAMES = """() => {
  window.benchFrames = [];
  const frame = (at) => { window.benchFrames?.push(at); requestAnimationFrame(frame); };
  requestAnimationFrame(frame);
}"""
FRAMES_A_SECOND = """() => {
  const frames = window.benchFrames;
  window.benchFrames = undefined;
  return 1000 * (frames.length - 1) / (frames.at(-1) - frames[0]);
}"""
DRAG_STEPS = 90
# From a key to the frame that shows the changed text, as the page itself sees it.
PRESS_TO_FRAME = """([selector]) => new Promise((done) => {
  const text = () => document.querySelector(selector)?.textContent ?? '';
  const before = text();
  let pressed = 0;
  const onKey = () => { pressed = performance.now(); };
  addEventListener('keydown', onKey, { once: true, capture: true });
  const watch = new MutationObserver(() => {
    if (pressed && text() !== '' && text() !== before) {
      watch.disconnect();
      const shown = () => { window.benchTook = performance.now() - pressed; };
      requestAnimationFrame(() => setTimeout(shown));
    }
  });
  window.benchTook = undefined;
  watch.observe(document.body, { subtree: true, childList: true, characterData: true });
  done();
})"""


@contextmanager
def demo() -> Iterator[float]:
    """The demo as a user starts it; gives the seconds until it answers."""
    with tempfile.TemporaryDirectory() as folder:
        environment = os.environ | {"LONG_NOON_BIND": ADDRESS, "LONG_NOON_DEMO_VAR": folder}
        begun = time.perf_counter()
        server = subprocess.Popen(
            [ROOT / "noon", "demo"],
            env=environment,
            start_new_session=True,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )
        try:
            while not _answers():
                if time.perf_counter() - begun > STARTS_WITHIN_S:
                    raise SystemExit("the demo did not start")
                time.sleep(0.02)
            yield time.perf_counter() - begun
        finally:
            os.killpg(server.pid, signal.SIGTERM)
            server.wait(timeout=20)


def _answers() -> bool:
    try:
        with urllib.request.urlopen(f"http://{ADDRESS}/", timeout=1) as answer:
            return bool(answer.status == 200)  # noqa: PLR2004
    except (urllib.error.URLError, OSError):
        return False


def p95_ms(page: Page, selector: str, press: Callable[[int], None]) -> float:
    """95th percentile of the time from a key to the changed text's frame."""
    times = []
    for number in range(PRESSES):
        page.evaluate(PRESS_TO_FRAME, [selector])
        press(number)
        page.wait_for_function("window.benchTook !== undefined")
        times.append(float(page.evaluate("window.benchTook")))
    return sorted(times)[int(P95 * len(times))]


def bench_screen() -> list[bool]:
    """The demo: its start, its first load, and key to verdict."""
    kept = []
    with demo() as start_s, sync_playwright() as playwright:
        kept.append(show("demo after set-up, first answer", start_s, 5, "s"))
        browser = playwright.chromium.launch(executable_path=browser_path(), args=list(FLAGS))
        # The page's own policy forbids the evaluation that the harness waits by.
        page = browser.new_page(
            viewport={"width": DESK["width"], "height": DESK["height"]}, bypass_csp=True
        )
        scripts: set[str] = set()
        page.on("request", lambda r: scripts.add(r.url) if r.url.endswith(".js") else None)
        page.goto(f"http://{ADDRESS}/")
        page.get_by_role("button", name="Enter the demo").click()
        page.get_by_text("Lantern House").wait_for()
        kept.append(show("first screen, JavaScript, gzip", _gzip_kb(scripts), 250, "kB"))
        page.get_by_text("Lantern House").click()
        _stage(page, "String")
        page.wait_for_selector(".count-steps")
        page.wait_for_selector(".sun-now b")
        kept.append(show("core in the browser, its first job", _begun_s(page), 3, "s"))
        page.wait_for_timeout(SETTLES_WITHIN_MS)
        kept.append(show("key to verdict, stepping a string, p95", _stepping(page), 50, "ms"))
        kept.append(show("key to verdict, typing a reading, p95", _typing(page), 50, "ms"))
        kept.append(show("key to verdict, sizing a run, p95", _sizing(page), 50, "ms"))
        kept.append(show("key to verdict, painting a branch, p95", _painting(page), 50, "ms"))
        drag_fps, drop_ms = _dragging(page)
        kept.append(show("30 frames a second over those of a drag", 30, drag_fps, "fps"))
        kept.append(show("key to verdict, moving a device, p95", drop_ms, 50, "ms"))
        kept += _slowly(browser, page)
        browser.close()
    return kept


def _slowly(browser: Browser, page: Page) -> list[bool]:
    """On a phone four times slower: a key without any network, and the first verdict on slow 4G."""
    _open_string(page, "Lantern House")
    _judges(page)
    page.wait_for_timeout(SETTLES_WITHIN_MS)
    page.context.set_offline(True)
    slow = page.context.new_cdp_session(page)
    slow.send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
    key_ms = _stepping(page)
    page.context.set_offline(False)
    signed_in = page.context.storage_state()
    phone = browser.new_page(
        viewport={"width": HAND["width"], "height": HAND["height"]}, storage_state=signed_in
    )
    link = phone.context.new_cdp_session(phone)
    link.send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
    link.send("Network.enable")
    link.send("Network.emulateNetworkConditions", SLOW_4G)
    begun = time.perf_counter()
    phone.goto(page.url)
    phone.wait_for_selector(".count-line")
    first_s = time.perf_counter() - begun
    phone.context.close()
    return [
        show("the same without network, processor 4 times slower", key_ms, 200, "ms"),
        show("first verdict on String, slow 4G, 4 times slower", first_s, 3.5, "s"),
    ]


def _stage(page: Page, name: str) -> None:
    stages = page.get_by_role("navigation", name="Stages")
    stages.get_by_role("link", name=name).click()


def _open_string(page: Page, job: str) -> None:
    page.goto(f"http://{ADDRESS}/")
    page.get_by_text(job).click()
    _stage(page, "String")
    page.wait_for_selector(".count-steps, .branch-figures")


def _judges(page: Page) -> None:
    """Wait until the core in the browser holds the job that is open."""
    job_id = re.findall(r"/jobs/([^/]+)", page.url)[0]
    page.wait_for_selector(f'html[data-judges="{job_id}"]', state="attached")


def _begun_s(page: Page) -> float:
    """How long the core took in the browser, from the first of its files to the job in its hand."""
    _judges(page)
    return float(page.evaluate(CORE_BEGUN)) / MS_PER_S


def _gzip_kb(urls: set[str]) -> float:
    files = [ROOT / "web" / "dist" / url.split("/static/")[1] for url in urls]
    return sum(len(gzip.compress(file.read_bytes())) for file in files) / BYTES_PER_KB


def _stepping(page: Page) -> float:
    steps = page.get_by_role("radiogroup", name="Modules in series, string A")

    def press(number: int) -> None:
        steps.get_by_role("radio", name=("10", "12")[number % 2], exact=False).press("Enter")

    return p95_ms(page, ".count-line", press)


def _typing(page: Page) -> float:
    _stage(page, "Feed")
    page.get_by_role("button", name=re.compile("^Supply voltage")).click()
    page.get_by_role("button", name=re.compile("^Supply L-N")).click()
    field = page.get_by_role("textbox", name="Supply L-N")
    field.fill("240.")
    page.wait_for_selector(".taking .verdicts")

    def press(number: int) -> None:
        field.press("Backspace" if number % 2 else str(number // 2 % 9 + 1))

    return p95_ms(page, ".taking .verdicts", press)


def _sizing(page: Page) -> float:
    page.get_by_role("button", name="leave", exact=True).click()
    page.get_by_role("button", name=re.compile("^run Board to isolator")).click()
    sizes = page.get_by_role("radiogroup", name="Conductor size of Board to isolator")

    def press(number: int) -> None:
        name = ("6 mm²", "10 mm²")[number % 2]
        sizes.get_by_role("radio", name=re.compile(f"^{name}")).press("Enter")

    return p95_ms(page, ".ladder-line", press)


def _painting(page: Page) -> float:
    _open_string(page, "Slipway Cottage")
    _judges(page)
    last = page.get_by_role("button", name=re.compile("^Sea side row 1 number 10,"))

    def press(number: int) -> None:
        last.press("Space")

    return p95_ms(page, ".branch-figures", press)


def _dragging(page: Page) -> tuple[float, float]:
    """Frames a second while a device is dragged, and from a key that moves it to its verdict."""
    page.goto(f"http://{ADDRESS}/")
    page.get_by_text("Gull Terrace").click()
    _stage(page, "Hang")
    _judges(page)
    body = page.get_by_role("button", name=re.compile("^Inverter, ")).locator(".device-body")
    box = body.bounding_box()
    if box is None:
        raise SystemExit("the inverter is not on the wall")
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.evaluate(COUNT_FRAMES)
    for step in range(DRAG_STEPS):
        page.mouse.move(x - 40 + step % 80, y - 30 + step % 60)
    frames = float(page.evaluate(FRAMES_A_SECOND))
    page.mouse.move(x, y)
    page.mouse.up()
    device = page.get_by_role("button", name=re.compile("^Inverter, "))

    def press(number: int) -> None:
        device.press("ArrowLeft" if number % 2 else "ArrowRight")

    return frames, p95_ms(page, ".device-panel .gate", press)
