"""Feed through the real interface: the path, the ladder pulled, switches, ways, the torque log."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Page, expect

from journeys.browser import BrowserCase, judged
from journeys.chromium import DESK, HAND
from server.demo.load import load


class Feed(BrowserCase):
    def setUp(self) -> None:
        load()

    def enter(self, job: str, size: dict[str, int] = DESK) -> Page:
        page = self.open(size)
        page.get_by_role("button", name="Enter the demo").click()
        page.get_by_text(job).click()
        page.wait_for_url(re.compile("/jobs/"))
        page.goto(re.sub(r"/\w+$", "/feed", page.url))
        expect(page.get_by_role("heading", level=1, name="Feed")).to_be_visible()
        return page

    def pick(self, page: Page, label: str, choice: str) -> None:
        page.get_by_role("combobox", name=label, exact=True).click()
        option = page.locator(".ant-select-dropdown:visible .ant-select-item-option")
        option.filter(has_text=choice).first.click()

    def test_the_path_opens_benches_and_the_ladder_is_pulled(self) -> None:
        page = self.enter("Ferry Office")
        room = page.locator(".stage-about")
        expect(room).to_contain_text("13.4 V of room")
        page.get_by_role("button", name=re.compile("^run Board to isolator")).click()
        panel = page.get_by_role("region", name="Board to isolator", exact=True)
        expect(panel).to_contain_text("30 m of 5 × 6 mm²")
        handle = page.get_by_role("slider", name="Conductor size of Board to isolator")
        expect(handle).to_have_attribute("aria-valuetext", re.compile("^6"))
        handle.scroll_into_view_if_needed()
        box = handle.bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x, y - 90, steps=12)
        page.mouse.up()
        # Pulled far up: the thinnest conductor, which its breaker does not protect.
        expect(panel).to_contain_text("5 × 1.5 mm²")
        expect(panel.get_by_text("less than its 20 A breaker lets through")).to_be_visible()
        handle.focus()
        page.keyboard.press("ArrowUp")
        expect(panel).to_contain_text("5 × 2.5 mm²")
        for typed, said in (("0", "0.1 to 500 m"), ("5000", "0.1 to 500 m"), ("long", "not a")):
            panel.get_by_label("One-way length").fill(typed)
            panel.get_by_role("button", name="Keep").click()
            expect(panel.get_by_role("alert")).to_contain_text(said)
        panel.get_by_label("One-way length").fill("30 m")
        panel.get_by_label("Size, mm² or AWG").fill("7")
        panel.get_by_role("button", name="Keep").click()
        expect(panel.get_by_role("alert")).to_contain_text("not made")
        panel.get_by_role("button", name="As before").click()
        self.pick(page, "Material", "aluminium")
        panel.get_by_role("button", name="Keep").click()
        expect(panel.get_by_text("aluminium is in none of the tables").first).to_be_visible()
        for form, start in (("PDF", b"%PDF"), ("SVG", b"<?xml"), ("DXF", b"  0")):
            with page.expect_download() as file:
                page.get_by_role("link", name=form, exact=True).click()
            self.assertTrue(Path(file.value.path()).read_bytes().startswith(start))

    def test_a_device_is_put_in_judged_and_taken_out_and_a_gap_is_said(self) -> None:
        page = self.enter("Gull Terrace")
        page.get_by_role("button", name=re.compile("^run Supply run")).click()
        page.get_by_text("Put a device into this run").click()
        form = page.get_by_role("form", name="A device in the run")
        form.get_by_label("Name").fill("Board")
        form.get_by_label("How far from its supply side").fill("90 m")
        form.get_by_role("button", name="Put it in").click()
        expect(page.get_by_text("on the run").first).to_be_visible()
        self.pick(page, "What it is", "board")
        form.get_by_label("How far from its supply side").fill("3 m")
        form.get_by_role("button", name="Put it in").click()
        board = page.get_by_role("region", name="Board", exact=True)
        expect(board.get_by_text("Waiting for the breaker")).to_be_visible()
        self.pick(page, "Breaker of the inverter's circuit", "C25 one-way")
        board.get_by_role("button", name="Keep").click()
        expect(board.get_by_text("fixed line and load side: an inverter feeds it")).to_be_visible()
        page.get_by_role("button", name=re.compile("^Supply point,")).click()
        self.pick(page, "The house is fed with", "one phase")
        expect(
            page.get_by_role("button", name=re.compile("^Supply point, one phase"))
        ).to_be_visible()
        page.get_by_role("button", name=re.compile("^run Supply run")).click()
        page.get_by_role("region", name="Supply run").get_by_role("button", name="Remove").click()
        expect(page.locator(".stage-about")).to_contain_text("Nothing runs between")
        page.get_by_role("button", name=re.compile("^Supply point,")).click()
        joining = page.get_by_role("form", name="A run to Supply point")
        self.pick(page, "From", "Board")
        joining.get_by_label("Size").fill("6")
        joining.get_by_role("button", name="Run it").click()
        expect(joining.get_by_role("alert")).to_contain_text("nothing was entered")
        joining.get_by_label("One-way length").fill("2,5 m")
        joining.get_by_role("button", name="Run it").click()
        expect(page.locator(".stage-about")).not_to_contain_text("Nothing runs between")

    def test_schools_ways_and_backup(self) -> None:
        page = self.enter("Sail Loft")
        page.get_by_role("button", name="DC switching", exact=True).click()
        schools = page.get_by_role("radiogroup", name="DC switching")
        schools.get_by_role("radio", name=re.compile("^None beyond")).click()
        bench = page.get_by_role("region", name="DC switching")
        bench.get_by_label("Because").fill("Switch in reach of the ladder")
        bench.get_by_role("button", name="Keep").click()
        expect(bench.get_by_text("stays live in daylight").first).to_be_visible()
        expect(page.get_by_role("button", name=re.compile("^Safety switch,"))).to_have_count(0)
        page.get_by_role("button", name="Ways", exact=True).click()
        form = page.get_by_role("form", name="One more way")
        form.get_by_label("Name").fill("Loft pipe")
        form.get_by_label("Inside diameter").fill("16")
        for circuit in ("string A", "Controller to inverter"):
            form.get_by_role("checkbox", name=circuit).check()
        form.get_by_role("button", name="Keep").click()
        expect(
            page.get_by_text("DC and AC share it, nothing between")
            .or_(page.get_by_text("share it with nothing between"))
            .first
        ).to_be_visible()
        page.get_by_role("button", name="Backup", exact=True).click()
        backup = page.get_by_role("region", name="Backup")
        group = backup.get_by_role("form", name="One more group")
        group.get_by_label("One more group").fill("Heat pump")
        group.get_by_label("Current").fill("30 A")
        group.get_by_role("button", name="Keep").click()
        expect(backup.get_by_text("over the controller's 40").first).to_be_visible()

    def test_the_torque_log_is_filled_with_a_thumb(self) -> None:
        page = self.enter("Lantern House", HAND)
        page.get_by_role("button", name="Ends and torque").tap()
        expect(
            page.get_by_text("the step of making dead that comes next: AC breaker").first
        ).to_be_visible()
        torque = page.get_by_role("button", name="Torque, Isolator to inverter at Inverter")
        torque.tap()
        for key in "0.9":
            page.locator(".keypad").get_by_role("button", name=key, exact=True).tap()
        expect(page.locator(".verdicts")).to_contain_text("1.5 Nm is what the sheet asks for")
        for _ in "0.9":
            page.get_by_role("button", name="Erase").tap()
        for key in "1.5":
            page.locator(".keypad").get_by_role("button", name=key, exact=True).tap()
        judged(page)
        page.get_by_role("button", name=re.compile("^Keep")).tap()
        page.get_by_role("button", name="it holds").tap()
        page.get_by_role("button", name="leave", exact=True).tap()
        expect(torque).to_contain_text("1.5 Nm")
        expect(torque).to_contain_text("clear")
        page.get_by_role("button", name=re.compile("^Supply made dead")).tap()
        page.get_by_role("button", name=re.compile("^DC switch OFF")).tap()
        page.get_by_role("button", name="done", exact=True).tap()
        page.get_by_role("button", name="not done", exact=True).tap()
        page.get_by_role("button", name="leave", exact=True).tap()
        said = page.get_by_text(
            re.compile("Locked and tagged: not done. Keep the compartments shut")
        )
        expect(said.first).to_be_visible()
        width = page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(width, HAND["width"])

    def test_keys_alone_reach_everything_and_finding_goes_there(self) -> None:
        page = self.enter("Lantern House")
        place = page.get_by_role("button", name=re.compile("^Inverter, Five"))
        place.focus()
        page.keyboard.press("Enter")
        expect(place).to_have_attribute("aria-pressed", "true")
        expect(page.get_by_role("region", name="Inverter", exact=True)).to_be_visible()
        page.get_by_role("button", name=re.compile("^Earth,")).focus()
        page.keyboard.press("Space")
        page.get_by_role("link", name="go to Earth").click()
        expect(page.get_by_role("heading", level=1, name="Earth")).to_be_visible()
        page.keyboard.press("/")
        page.get_by_label("Find", exact=True).fill("board to isolator protects")
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", level=1, name="Feed")).to_be_visible()
        string = page.get_by_role("button", name=re.compile("^String A,"))
        string.focus()
        page.keyboard.press("Enter")
        run = page.get_by_role("region", name="String A", exact=True)
        piece = run.get_by_role("form", name="Piece 1")
        piece.get_by_label("Size, mm² or AWG").fill("12 AWG")
        piece.get_by_role("button", name="Keep").click()
        expect(run).to_contain_text("12 AWG")
        for typed, said in (("11 AWG", "10 AWG"), ("35", "16 mm²"), ("", "nothing was entered")):
            piece.get_by_label("Size, mm² or AWG").fill(typed)
            piece.get_by_role("button", name="Keep").click()
            expect(run.get_by_role("alert")).to_contain_text(said)
        piece.get_by_role("button", name="As before").click()
        page.keyboard.press("l")
        expect(page.locator("html")).to_have_attribute("data-light", "glare")
        page.keyboard.press("w")
        expect(page.get_by_text("Source:").first).to_be_visible()
