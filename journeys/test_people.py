"""People through the real interface: invited, countersigned, with second factors; a guest."""

from __future__ import annotations

import re
from datetime import UTC, datetime
from unittest.mock import patch

from django_otp.oath import totp
from django_otp.plugins.otp_totp.models import TOTPDevice
from playwright.sync_api import Page, expect

from journeys.browser import BrowserCase
from journeys.chromium import DESK, HAND
from server.demo.load import load

LONG = "a long way to the sea"
DRIFT_STEPS = 2


class People(BrowserCase):
    def setUp(self) -> None:
        load()

    def owner(self) -> Page:
        page = self.open(DESK)
        page.get_by_role("button", name="Enter the demo").click()
        expect(page.locator(".day")).to_have_count(7)
        return page

    def link(self, page: Page) -> str:
        shown = page.get_by_role("status").locator("code")
        expect(shown).to_be_visible()
        return re.sub(r"^https?://[^/]+", "", shown.inner_text())

    def test_what_is_wrong_with_the_machine_is_said_to_those_at_work(self) -> None:
        with patch("server.keeping.start.LEAST_FREE_BYTES", 10**18):
            page = self.owner()
            told = page.get_by_role("status", name="This installation")
            expect(told).to_contain_text("watch The disk that keeps these jobs is nearly full")
            self.go(page, "/shelf")
            expect(told).to_be_visible()

    def joined(self, page: Page, name: str, role: str, size: dict[str, int]) -> Page:
        """Somebody invited by the owner, come in by the link."""
        self.go(page, "/people")
        invite = page.get_by_role("region", name="Invite somebody")
        invite.get_by_label("Name").fill(name)
        invite.get_by_label("Comes as").click()
        page.locator(".ant-select-item-option", has_text=role).click()
        invite.get_by_role("button", name="Make a link").click()
        path = self.link(page)
        other = self.open(size)
        other.goto(self.live_server_url + path)
        expect(other.get_by_text(f"you are invited to Fenn and Orrin as {role}")).to_be_visible()
        other.get_by_label("The name you sign in by").fill("sal")
        other.get_by_label("Your password").fill("short")
        other.get_by_role("button", name="Join").click()
        expect(other.get_by_role("alert")).to_contain_text("too short")
        other.get_by_label("Your password").fill(LONG)
        other.get_by_role("button", name="Join").click()
        expect(other.locator(".day")).to_have_count(7)
        return other

    def signed_out(self, page: Page) -> None:
        page.get_by_role("button", name=re.compile("^sign out")).click()
        expect(page.get_by_role("button", name="Sign in", exact=True)).to_be_visible()

    def sign_in(self, page: Page) -> None:
        page.get_by_label("Name").fill("sal")
        page.get_by_label("Password").fill(LONG)
        page.get_by_role("button", name="Sign in", exact=True).click()

    def test_an_apprentice_reads_and_the_owner_countersigns(self) -> None:
        page = self.owner()
        learner = self.joined(page, "Sal Reed", "apprentice", HAND)
        expect(learner.get_by_role("button", name="Begin a job")).to_have_count(0)
        learner.get_by_text("Lantern House").click()
        learner.wait_for_url(re.compile("/jobs/"))
        address = re.sub(r"/\w+$", "/string", learner.url)
        learner.goto(address)
        ask = learner.locator("[id='ask-open_circuit/B']")
        ask.locator(".ask-head").click()
        ask.get_by_role("button", name="read again").click()
        entry = learner.get_by_role("textbox").last
        entry.fill("346")
        entry.press("Enter")
        expect(ask.get_by_text("a countersignature of what Sal Reed read").first).to_be_visible()
        expect(ask.get_by_role("button", name=re.compile("^countersign"))).to_have_count(0)
        page.goto(re.sub(r"^https?://[^/]+", self.live_server_url, address))
        owners = page.locator("[id='ask-open_circuit/B']")
        owners.get_by_role("button", name="countersign what Sal Reed read").click()
        expect(owners.get_by_text("a countersignature of what")).to_have_count(0)
        page.goto(re.sub("/string$", "/leave", page.url))
        page.get_by_role("link", name="audit of this job").click()
        expect(page.locator(".audit-lines").get_by_text("Sal Reed").first).to_be_visible()

    def test_a_code_and_a_passkey_are_set_up_and_asked_for(self) -> None:
        page = self.joined(self.owner(), "Sal Reed", "installer", DESK)
        self.go(page, "/account")
        page.get_by_role("button", name="Set it up").click()
        expect(page.get_by_alt_text("Scan this with the authenticator")).to_be_visible()
        device = TOTPDevice.objects.get(confirmed=False)
        page.get_by_label("The code that it shows").fill(f"{totp(device.bin_key):06d}")
        page.get_by_role("button", name="Take it into use").click()
        expect(page.get_by_text("After the password a code")).to_be_visible()
        # A device with a lock of its own, as the browser simulates one.
        tools = page.context.new_cdp_session(page)
        tools.send("WebAuthn.enable")
        device_of = {
            "protocol": "ctap2", "transport": "internal", "hasResidentKey": True,
            "hasUserVerification": True, "isUserVerified": True,
            "automaticPresenceSimulation": True,
        }  # fmt: skip
        tools.send("WebAuthn.addVirtualAuthenticator", {"options": device_of})
        page.get_by_label("What to call it").fill("Sal's phone")
        page.get_by_role("button", name="Make one here").click()
        expect(page.get_by_text("Sal's phone")).to_be_visible()
        self.go(page, "/")
        self.signed_out(page)
        self.sign_in(page)
        page.get_by_label("Code of your authenticator").fill("000000")
        page.get_by_role("button", name="Sign in with the code").click()
        expect(page.get_by_role("alert")).to_contain_text("does not fit")
        TOTPDevice.objects.get().throttle_reset()
        device = TOTPDevice.objects.get()
        page.get_by_label("Code of your authenticator").fill(f"{totp(device.bin_key, drift=1):06d}")
        page.get_by_role("button", name="Sign in with the code").click()
        expect(page.locator(".day")).to_have_count(7)
        self.signed_out(page)
        page.get_by_role("button", name="Sign in with a passkey").click()
        expect(page.locator(".day")).to_have_count(7)

    def test_a_guest_sees_the_record_until_the_link_is_ended(self) -> None:
        page = self.owner()
        page.get_by_text("Lantern House").click()
        page.wait_for_url(re.compile("/jobs/"))
        page.goto(re.sub(r"/\w+$", "/leave", page.url))
        guests = page.get_by_role("region", name="Guests of this record")
        guests.get_by_label("Who may see this record").fill("R. Inspector")
        guests.get_by_label("Until").fill("2001-01-01")
        guests.get_by_role("button", name="Make a link").click()
        expect(guests.get_by_role("alert")).to_be_visible()
        guests.get_by_label("Until").fill(f"{datetime.now(UTC):%Y-%m-%d}")
        guests.get_by_role("button", name="Make a link").click()
        path = self.link(page)
        guest = self.open(HAND)
        guest.goto(self.live_server_url + path)
        expect(guest.get_by_role("heading", name="Lantern House")).to_be_visible()
        expect(guest.get_by_alt_text("Page 1 of the record")).to_be_visible()
        guests.get_by_role("button", name="end it").click()
        expect(guests.get_by_text("R. Inspector")).to_have_count(0)
        guest.reload()
        expect(guest.get_by_text("This link shows nothing")).to_be_visible()
