"""Whoever stands in the sun, or in the dark, reads every word: contrast by computation."""

from __future__ import annotations

from itertools import product
from unittest import TestCase

from core.base.palette import lights

# WCAG 2.2, 1.4.6 (AAA) for text; 1.4.3 (AA) on paper; 1.4.11 for what is drawn.
AAA, AA, DRAWN = 7.0, 4.5, 3.0
WORDS = ("ink", "soft", "clear", "watch", "stop", "waiting", "dc", "ac", "earth", "signal")
UNDER = ("ground", "sheet", "mortar", "track", "full")
# A channel at and under which the curve of sRGB is straight (IEC 61966-2-1).
STRAIGHT, SLOPE, OFFSET, POWER = 0.04045, 12.92, 0.055, 2.4
SHARES = (0.2126, 0.7152, 0.0722)


def luminance(colour: str) -> float:
    channels = (int(colour[at : at + 2], 16) / 255 for at in (1, 3, 5))
    linear = (
        one / SLOPE if one <= STRAIGHT else ((one + OFFSET) / (1 + OFFSET)) ** POWER
        for one in channels
    )
    return sum(share * one for share, one in zip(SHARES, linear, strict=True))


def contrast(one: str, other: str) -> float:
    dark, bright = sorted((luminance(one), luminance(other)))
    return (bright + 0.05) / (dark + 0.05)


class Contrast(TestCase):
    def test_words_are_read_on_whatever_they_stand(self) -> None:
        self.assertAlmostEqual(contrast("#000000", "#ffffff"), 21)
        for name, least in (("paper", AA), ("glare", AAA), ("loft", AAA)):
            light = lights()["paper"] | lights()[name]
            for word, under in product(WORDS, UNDER):
                if least == AA and under in ("track", "full") and word not in ("ink", "clear"):
                    # On paper only figures and clear words stand on the window.
                    continue
                with self.subTest(light=name, word=word, under=under):
                    self.assertGreaterEqual(contrast(light[word], light[under]), least)
            self.assertGreaterEqual(contrast(light["on-noon"], light["noon"]), AAA)
            self.assertGreaterEqual(contrast(light["sheet"], light["ink"]), AAA)

    def test_the_edge_of_a_field_is_seen(self) -> None:
        for name in ("glare", "loft"):
            light = lights()["paper"] | lights()[name]
            for under in ("ground", "sheet"):
                self.assertGreaterEqual(contrast(light["field"], light[under]), DRAWN)
