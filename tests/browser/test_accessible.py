"""Everything reachable and readable: axe on every sheet, menu, dialog and page, day and night.

Rules: axe-core, for WCAG 2.2 AA (W3C Recommendation, 2023).
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

from conftest import open_card, pressed, still

AXE = (Path(__file__).parents[2] / "web/node_modules/axe-core/axe.min.js").read_text()
RULES = {"runOnly": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]}
# By night only the colours are others.
AT_NIGHT = {"runOnly": {"type": "rule", "values": ["color-contrast"]}}
# What axe leaves to people to look at, and what they found.
REVIEWED = {
    # The picture has no sound of its own: what is spoken lies on the tracks.
    "video-caption",
    # Names of one letter on their buttons, arrows and signs of keys.
    "label-content-name-mismatch",
    # On pictures, waves and hatches: names there have a halo of the paper's colour.
    "color-contrast",
    # A treatment as narrow as it is short has Duration, In and Out in its sheet.
    "target-size",
}
# Keyframes lie where they lie in time: each is a row of the lane's table, which is the other way
# to reach it that WCAG 2.5.8 asks for.
ELSEWHERE = ("target-size", "key-mark")


LEFT, MENU, LIST, DIALOG = ".left", "[role=menu]", "[role=listbox]", "[role=dialog]"
LANES = ".timeline"


# What is right is a hundred times as much: it stays in the page.
FOUND = """async ([within, rules]) => {
  const found = await axe.run(within || document, rules);
  return [found.violations, found.incomplete].map((kind) => kind.flatMap((rule) => rule.nodes.map(
    (node) => [rule.id, node.html.slice(0, 160), (node.failureSummary ?? '').slice(0, 200)])));
}"""


def faults(page: Any, within: str = "") -> list[Any]:
    """What is wrong by day or by night on the page, or in a part of it that has changed since it
    was looked at."""
    if not page.evaluate("'axe' in window"):
        page.evaluate(AXE)
    by_day = _faults(page, within, RULES)
    page.emulate_media(color_scheme="dark")
    by_night = _faults(page, within, AT_NIGHT)
    page.emulate_media(color_scheme="light")
    return by_day + [("by night", *fault) for fault in by_night]


def _faults(page: Any, within: str, rules: dict[str, Any]) -> list[Any]:
    # What is half faded in has half its contrast.
    still(page)
    broken, unsure = page.evaluate(FOUND, [within, rules])
    broken = [f for f in broken if not (f[0] == ELSEWHERE[0] and ELSEWHERE[1] in f[1])]
    unsure = [(rule, html, "needs review") for rule, html, _ in unsure if rule not in REVIEWED]
    return [*map(tuple, broken), *unsure]


def opened(page: Any, role: str, name: str) -> None:
    page.get_by_role(role, name=name).first.click()
    page.wait_for_timeout(350)


def test_sheets_and_menus_of_clips_treatments_tracks_and_keyframes(bench, made):
    page = bench.page
    bands = [{"freq_hz": 500.0}, {"type": "low_cut", "freq_hz": 80.0}]
    made.edit(
        kind="add_treatment", track="music", id="f1", name="Under",
        start={"frame": 100}, end={"frame": 250},
        effects=[
            {"id": "m", "kind": "muffle", "params": {}},
            {"id": "q", "kind": "eq", "params": {"bands": bands}},
        ],
    )  # fmt: skip
    made.edit(
        kind="add_markers", markers=[{"id": "k", "at": 96000, "label": "hit", "kind": "sound"}]
    )
    values = ((10, 0), (50, -50))
    keys = [{"lane": "track:music/pan", "moment": {"frame": f}, "value": v} for f, v in values]
    made.edit(kind="put_keyframes", keys=keys)
    clip = made.document["tracks"][1]["clips"][0]["id"]
    page.locator("[data-marker=k]").wait_for()
    assert faults(page) == []
    page.locator(f"[data-clip={clip}]").focus()
    page.keyboard.press("Enter")
    opened(page, "button", "Speed and pitch")
    assert faults(page, LEFT) == []
    opened(page, "button", "Clip ▾")
    assert faults(page, MENU) == []
    page.keyboard.press("Escape")
    page.locator("[data-treatment=f1]").focus()
    page.keyboard.press("Enter")
    page.wait_for_timeout(500)
    assert faults(page, LEFT) == []
    for menu in ("More for all effects", "More for Muffle"):
        opened(page, "button", menu)
        assert faults(page, MENU) == []
        page.keyboard.press("Escape")
    for card in ("Muffle", "Equaliser"):
        open_card(page, card)
        page.wait_for_timeout(400)
        assert faults(page, LEFT) == []
    opened(page, "button", "Presets")
    assert faults(page, MENU) == []
    page.keyboard.press("Escape")
    pressed(page, "/")
    page.get_by_role("listbox").get_by_role("option").first.wait_for()
    assert faults(page, LIST) == []
    page.keyboard.press("Escape")
    opened(page, "button", "More for track Music")
    assert faults(page, MENU) == []
    opened(page, "menuitem", "Open the lane of pan")
    page.locator(".key-mark").first.click()
    page.wait_for_timeout(300)
    assert faults(page) == []
    opened(page, "button", "Table of the lane")
    assert faults(page, LEFT) == []
    opened(page, "button", "Treat the mix")
    assert faults(page, LEFT) == []


def test_analyses_their_sheets_and_menus(bench, made):
    page = bench.page
    made.edit(
        kind="add_treatment",
        track="music",
        id="f1",
        name="Hall",
        start={"frame": 100},
        end={"frame": 250},
        effects=[{"id": "r", "kind": "reverb", "params": {}}],
    )
    for kind in ("Spectrogram", "Stereo", "Loudness", "Decay"):
        page.locator("[data-treatment=f1]").press("Enter")
        opened(page, "button", "Analyse")
        assert faults(page, MENU) == []
        opened(page, "menuitem", kind)
        page.wait_for_timeout(1200)
        assert faults(page, LANES) == []
    opened(page, "button", "More for the stereo of Hall")
    assert faults(page, MENU) == []
    page.keyboard.press("Escape")
    opened(page, "button", "How the spectrogram of Hall is shown")
    opened(page, "button", "Show the spectrum large")
    assert faults(page) == []


def test_lists_dialogs_and_pages(bench, server):
    page = bench.page
    y = bench.lane("music")["y"] + 30
    bench.drag(bench.x_of_frame(100), y, bench.x_of_frame(250))
    assert faults(page) == []
    for tab in ("Media & sounds", "Lists", "History"):
        opened(page, "tab", tab)
        assert faults(page, LEFT) == []
    opened(page, "tab", "Media & sounds")
    page.get_by_text("Sounds", exact=True).click()
    for name in ("Campfire Wood", "Rain on a tin roof"):
        opened(page, "button", name)
        page.wait_for_timeout(600)
        assert faults(page, LEFT) == []
    page.get_by_text("Recipes", exact=True).click()
    for name in ("Below the surface", "Fit this line"):
        opened(page, "button", name)
        assert faults(page, LEFT) == []
    page.get_by_text("Presets", exact=True).click()
    page.get_by_label("Search presets").wait_for()
    assert faults(page, LEFT) == []
    page.get_by_text("In this reel", exact=True).click()
    pressed(page, "Control+k")
    page.keyboard.type("hall")
    page.get_by_role("option", name="Great chamber").wait_for()
    assert faults(page, DIALOG) == []
    page.keyboard.press("Escape")
    page.wait_for_timeout(300)
    page.keyboard.press("?")
    page.wait_for_timeout(400)
    assert faults(page, DIALOG) == []
    page.keyboard.press("Escape")
    page.wait_for_timeout(300)
    opened(page, "button", "Export…")
    assert faults(page, DIALOG) == []
    page.goto(server.url + "/")
    page.get_by_role("link", name="Numbers").first.wait_for()
    assert faults(page) == []
    opened(page, "button", "More for Numbers")
    assert faults(page, MENU) == []
    page.keyboard.press("Escape")
    opened(page, "button", "New reel…")
    assert faults(page, DIALOG) == []


def test_a_small_window_or_a_large_one_at_200_percent_shows_all_of_it(bench, made):
    """1280 by 800 at 200 % is a page of 640 by 400 (WCAG 1.4.10): it scrolls down, never across."""
    page = bench.page
    page.set_viewport_size({"width": 640, "height": 400})
    page.wait_for_timeout(500)
    assert page.evaluate("document.documentElement.scrollWidth") <= 640
    for role, name in (
        ("button", "Export…"), ("button", "▶ Play"), ("button", "Settings"),
        ("button", "Treat the mix"), ("tab", "History"),
    ):  # fmt: skip
        found = page.get_by_role(role, name=name).first
        found.scroll_into_view_if_needed()
        box = found.bounding_box()
        assert box["x"] >= 0
        assert box["x"] + box["width"] <= 640
    # A clip is selected, and its sheet is there below.
    clip = made.document["tracks"][1]["clips"][0]["id"]
    page.locator(f"[data-clip={clip}]").focus()
    page.keyboard.press("Enter")
    level = page.get_by_label("Level, value")
    level.scroll_into_view_if_needed()
    level.fill("-3 dB")
    level.press("Enter")
    bench.saved()
    assert made.document["tracks"][1]["clips"][0]["gain_db"] == -3
    assert faults(page) == []
