"""Five kits of invented parts, and the hand that takes each from its labels to a test sheet: nothing of the shipped catalogue in it."""

import re
import time
from collections.abc import Mapping
from dataclasses import dataclass, field

from hand import unfold
from playwright.sync_api import Page, expect

Typed = Mapping[str, str]


@dataclass(frozen=True)
class OwnKit:
    """What is in the box: parts by family as their labels have them, the job's questions, and how the kit stands."""

    name: str
    kind: str
    job: Typed
    place: str
    fields: Typed
    parts: tuple[tuple[str, Typed], ...]
    kit: Typed
    slots: Typed = field(default_factory=dict)
    asked: Typed = field(default_factory=dict)


HOSE_19 = (
    "hoses",
    {"name": "Garden roll 3/4", "kind": "smooth", "inner_diameter_mm": "19 mm", "rated_head_m": "60 m", "price": "1.1"},
)
PANEL_90 = ("panels", {"name": "Shed 90", "watts": "90 W", "voc_v": "21.9 V", "vmp_v": "17.9 V", "price": "55"})

KITS = (
    OwnKit(
        "Reed creek", "", {"water": "stream", "lift": "14 ft", "litres": "90 gal"}, "31.2 S 26.1 E",
        {"f-run-p1-length": "60 ft"},
        (("pumps", {"name": "Creek bucket pump", "end": "centrifugal", "placement": "submersible", "rated_v": "12 V",
                    "points_l_min_m_a": "2.6 gpm at 14 ft, 5 A", "max_v": "20 V", "price": "38"}), PANEL_90, HOSE_19),
        {"pump": "Creek bucket pump", "source": "panel", "panel": "Shed 90", "in_series": "1", "in_parallel": "2", "pump_cable": "4 mm2"},
    ),
    OwnKit(
        "Well of the two sisters", "well-with-tank", {"lift": "18 m", "litres": "600 L"}, "-29.6, 24.9",
        {"f-run-p1-length": "32 m"},
        (("pumps", {"name": "Two-sister well pump", "end": "diaphragm", "placement": "submersible", "rated_v": "24 V", "label_w": "110 W",
                    "label_flow_l_min": "6 L/min", "label_head_m": "60 m", "least_v": "14 V", "max_v": "30 V", "price": "95"}),
         ("panels", {"name": "Roof 120", "watts": "120 W", "voc_v": "22.4 V", "isc_a": "7.1 A", "vmp_v": "18.4 V", "imp_a": "6.5 A", "cells": "36", "price": "70"}),
         ("pump-controllers", {"name": "Grey box 24", "min_v": "16 V", "max_v": "50 V", "out_max_v": "28 V", "max_a": "10 A", "price": "45"}), HOSE_19),
        {"pump": "Two-sister well pump", "source": "controller", "panel": "Roof 120", "in_series": "2", "in_parallel": "1", "pump_cable": "4 mm2"},
        {"controller": "Grey box 24"}, {"f-want-trough": "1500 L"},
    ),
    OwnKit(
        "Night trough", "", {"water": "cistern", "lift": "5 m", "litres": "250 L"}, "30 24 S 24 36 E",
        {"f-run-p1-length": "22 m"},
        (("pumps", {"name": "Night diaphragm", "end": "diaphragm", "placement": "surface", "rated_v": "12 V", "label_w": "60 W",
                    "label_flow_l_min": "8 L/min", "label_head_m": "30 m", "price": "42"}),
         PANEL_90, ("chargers", {"name": "Tin charger", "kind": "charge-tracking", "min_v": "13 V", "max_v": "60 V", "out_max_v": "14.6 V", "max_a": "20 A", "price": "40"}),
         ("batteries", {"name": "Tractor hundred", "chemistry": "lead-acid (flooded)", "nominal_v": "12 V", "capacity_ah": "100 Ah", "price": "120"}), HOSE_19),
        {"pump": "Night diaphragm", "source": "battery", "panel": "Shed 90", "in_series": "1", "in_parallel": "2", "pump_cable": "6 mm2"},
        {"controller": "Tin charger", "battery": "Tractor hundred"},
    ),
    OwnKit(
        "Three troughs by hand", "portable", {"lift": "2.5 m", "litres": "400 L"}, "30.9 S 25.2 E",
        {"f-run-p1-length": "25 m"},
        (("pumps", {"name": "Boat pump", "end": "centrifugal", "placement": "submersible", "rated_v": "12 V", "label_w": "40 W",
                    "label_flow_l_min": "60 L/min", "label_head_m": "5 m", "price": "30"}), PANEL_90,
         ("hoses", {"name": "Flat blue inch", "kind": "layflat", "inner_diameter_mm": "1 in", "rated_head_m": "20 m", "price": "0.9"})),
        {"pump": "Boat pump", "source": "panel", "panel": "Shed 90", "in_series": "1", "in_parallel": "1", "pump_cable": "12 awg"},
    ),
    OwnKit(
        "Deep post", "well-with-tank", {"lift": "35 m", "litres": "700 L"}, "28.8 S 23.7 E",
        {"f-run-p1-length": "48 m"},
        (("pumps", {"name": "Deep screw", "end": "helical", "placement": "submersible", "rated_v": "48 V", "label_w": "250 W",
                    "label_flow_l_min": "9 L/min", "label_head_m": "80 m", "max_v": "60 V", "price": "240"}),
         ("panels", {"name": "Post 150", "watts": "150 W", "voc_v": "24.2 V", "isc_a": "8 A", "vmp_v": "20.1 V", "imp_a": "7.46 A", "price": "85"}),
         ("pump-controllers", {"name": "Green box 48", "min_v": "30 V", "max_v": "100 V", "out_max_v": "56 V", "max_a": "12 A", "price": "90"}),
         ("hoses", {"name": "Black coil 25", "kind": "smooth", "inner_diameter_mm": "25 mm", "rated_head_m": "100 m", "price": "1.4"})),
        {"pump": "Deep screw", "source": "controller", "panel": "Post 150", "in_series": "3", "in_parallel": "1", "pump_cable": "4 mm2"},
        {"controller": "Green box 48"}, {"f-want-trough": "2 m3"},
    ),
)  # fmt: skip


class Hand:
    """One person's hand on a page: presses, chooses and types, and counts what it did."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.presses = self.fields = 0
        self.began = time.monotonic()

    @property
    def seconds(self) -> float:
        """How long it has taken so far. [s]"""
        return time.monotonic() - self.began

    def press(self, where: str) -> None:
        """Press one thing, opening what it is folded away in."""
        unfold(self.page, where)
        self.page.locator(where).first.click()
        self.presses += 1

    def choose(self, where: str, words: str) -> None:
        """Choose by what is read in the list."""
        unfold(self.page, where)
        told = [
            text
            for text in self.page.locator(f"{where} option").all_inner_texts()
            if words in text and "not said" not in text
        ]
        assert told, f"{words} isn't to be chosen in {where}"
        self.page.locator(where).select_option(label=told[0])
        self.presses += 1

    def type(self, where: str, text: str, *, leave: bool = False) -> None:
        """Type into a field, and leave it where that keeps it."""
        unfold(self.page, where)
        box = self.page.locator(where)
        box.fill(text)
        self.fields += 1
        if leave:
            with self.page.expect_response(lambda answer: "/field" in answer.url):
                box.press("Tab")


def put_on_shelf(hand: Hand, family: str, label: Typed) -> None:
    """One part of one's own, from its label."""
    page = hand.page
    page.goto("/parts")
    page.locator(".pick-family select").select_option(family)
    hand.presses += 1
    hand.press(".pick-family button")
    for name, typed in label.items():
        where = f"#part-{name}"
        if page.locator(where).evaluate("e => e.tagName") == "SELECT":
            unfold(page, where)
            page.locator(where).select_option(typed)
            hand.presses += 1
        else:
            hand.type(where, typed)
    hand.press(".part-form button.strong")
    expect(page.locator("h1")).to_contain_text(label["name"])


def walk(page: Page, kit: OwnKit) -> Hand:
    """From a box of parts to its test sheet; the sheet is open when it returns."""
    hand = Hand(page)
    for family, label in kit.parts:
        put_on_shelf(hand, family, label)
    page.goto("/")
    hand.type("#new-name", kit.name)
    if kit.kind:
        page.locator("#new-job select[name=kind]").select_option(kit.kind)
        hand.presses += 1
    for name, typed in kit.job.items():
        where = f"#new-job [name={name}]"
        if name == "water":
            page.locator(where).select_option(typed)
            hand.presses += 1
        else:
            hand.type(where, typed)
    hand.press("#new-job button.strong")
    hand.type("#place-at", kit.place)
    hand.press(".place-form button.act")
    expect(page.locator("#verdict")).not_to_contain_text("place")
    for name, typed in kit.fields.items():
        hand.type(f"#{name}", typed, leave=True)
    hose = next(label["name"] for family, label in kit.parts if family == "hoses")
    with page.expect_response(lambda answer: "/field" in answer.url):
        hand.choose("#f-run-p1-hose", hose)
    hand.press(".tape a[href$='/kits']")
    for name, typed in kit.asked.items():
        hand.type(f"#{name}", typed, leave=True)
    expect(page.locator("#verdict")).to_contain_text("No kit is chosen yet")
    for slot in ("pump", "source", "panel"):
        if slot == "source":
            unfold(page, "#enter-source")
            page.locator("#enter-source").select_option(kit.kit[slot])
            hand.presses += 1
        else:
            hand.choose(f"#enter-{slot}", kit.kit[slot])
    for slot in ("in_series", "in_parallel", "pump_cable"):
        hand.type(f"#enter-{slot}", kit.kit[slot])
    hand.press("#enter-kit form button.strong")
    expect(page.locator("#part-kit")).to_be_visible()
    for slot, words in kit.slots.items():
        with page.expect_response(lambda answer: "/field" in answer.url):
            hand.choose(f"#f-options-o1-{slot}", words)
    verdict = page.locator("#verdict").inner_text()
    assert "Nobody has said yet" not in verdict, verdict
    if not page.locator(".side-files").is_visible():
        unfold(page, "#side-more > summary")
        hand.presses += 1
    hand.press(".side-files a[href$='/sheet/test']")
    expect(page.locator("body")).to_contain_text(kit.kit["pump"])
    return hand


def shipped_in(job_file: str) -> list[str]:
    """Parts of the shipped catalogue that a job file's kit and hose name; fittings and cable sizes are tables, not goods."""
    named = re.findall(r'"(?:pump|panel|controller|battery|hose|tank)": "([^"]+)"', job_file)
    return sorted({part for part in named if not part.startswith("my-")})
