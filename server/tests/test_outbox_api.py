"""Readings that were noted without signal: kept once, in order, under their own time."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import uuid4

from server.readings.models import ReadingRow
from server.tests.support import ApiCase

NEAR = timedelta(seconds=30)


class Outbox(ApiCase):
    def send(self, identity: str, entered: str = "231.4", **more: Any) -> Any:
        return self.read("supply_voltage", "L-N", entered, id=identity, **more)

    def rows(self) -> list[ReadingRow]:
        return list(ReadingRow.of(self.job_id).order_by("id"))

    def test_however_often_it_is_sent_it_is_kept_once(self) -> None:
        identity = str(uuid4())
        for _ in range(3):
            answer = self.send(identity)
            self.assertEqual(answer.status_code, 200)
            asks = answer.json()["assessment"]["asks"]
            (read,) = [one["reading"] for one in asks if one["key"] == "supply_voltage/L-N"]
            self.assertEqual((read["id"], read["value"]), (identity, 231.4))
        self.assertEqual(len(self.rows()), 1)

    def test_another_reading_of_the_same_identity_is_refused_and_the_first_stays(self) -> None:
        identity = str(uuid4())
        self.send(identity)
        for entered, more in (
            ("229", {}),
            ("231.4", {"note": "x"}),
            ("231.4", {"instrument": "y"}),
        ):
            self.refused(self.send(identity, entered, **more), 409)
        self.refused(self.read("supply_frequency", "site", "50", id=identity), 409)
        self.assertEqual([row.value for row in self.rows()], [231.4])

    def test_a_test_made_again_is_known_again(self) -> None:
        """It supersedes what stood before it by itself, which it did not say when it was sent."""
        first, second = str(uuid4()), str(uuid4())
        for identity in (first, second, second):
            answer = self.read("insulation_plus", "A", "200", id=identity)
            self.assertEqual(answer.status_code, 200, answer.content[:300])
        self.assertEqual(
            [(r.identity, r.supersedes) for r in self.rows()], [(first, None), (second, first)]
        )

    def test_both_times_are_kept_and_a_wrong_clock_moves_neither(self) -> None:
        for hours_off in (0, -5, 7):
            pressed = datetime.now(UTC) - timedelta(hours=2)
            off = timedelta(hours=hours_off)
            self.send(
                str(uuid4()),
                noted_at=(pressed + off).isoformat(),
                sent_at=(datetime.now(UTC) + off).isoformat(),
                device="phone or tablet",
            )
            row = self.rows()[-1]
            self.assertLess(abs(row.taken_at - pressed), NEAR, hours_off)
            self.assertLess(abs(row.kept_at - datetime.now(UTC)), NEAR)
            self.assertEqual(row.device, "phone or tablet")

    def test_what_is_no_identity_and_no_time_is_refused(self) -> None:
        now = datetime.now(UTC)
        for more in (
            {"noted_at": "2026-05-01T10:00:00", "sent_at": now.isoformat()},
            {"noted_at": now.isoformat(), "sent_at": (now - timedelta(hours=1)).isoformat()},
            {"device": "x" * 61},
        ):
            self.refused(self.send(str(uuid4()), **more))
        for identity in ("1", "x" * 36, ""):
            self.refused(self.send(identity))
        self.assertEqual(self.rows(), [])
