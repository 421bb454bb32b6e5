"""Every effect added, turned, seen, heard and undone, as a person does."""

import re
from urllib.error import HTTPError

import numpy as np
import pytest
from conftest import open_card, pressed, still
from media import FADE, RATE

CHAIN = [
    {"kind": "eq", "params": {"bands": [
        {"type": "low_cut", "freq_hz": 90, "slope": "24"}, {"type": "peak", "gain_db": 4},
        {"type": "peak", "freq_hz": 3000, "gain_db": -5}, {"type": "high_shelf", "gain_db": 3}]}},
    {"kind": "compress", "params": {}},
    {"kind": "muffle", "params": {"high_cut_hz": 2500}},
    {"kind": "chorus", "params": {}},
    {"kind": "drive", "params": {"amount_db": 6}},
    {"kind": "reverb", "params": {"decay_s": 2}},
    {"kind": "echo", "params": {}},
    {"kind": "limit", "params": {}},
]  # fmt: skip


def block(made, number):
    """One second of the treated sound, as the player fetches it."""
    url = f"/api/reels/{made.id}/sound/treated/{number}?player=test&generation=0"
    return made.api.bytes(url)


def params_of(made, owner="music"):
    track = next(t for t in made.document["tracks"] if t["id"] == owner)
    effects = track.get("treatment", {}).get("effects", [])
    return effects[0].get("params", {}) if effects else None


def between(p, kind):
    """A value that is neither the default nor an end of the range, as one would type it."""
    if (kind, p["id"]) == ("gate", "threshold_db"):
        # Music does not fall below less than this.
        return -6
    for share in (0.62, 0.41):
        value = (
            p["low"] * (p["high"] / p["low"]) ** share
            if p["scale"] == "log"
            else p["low"] + (p["high"] - p["low"]) * share
        )
        value = round(value) if p["whole"] or abs(value) >= 10 else round(value, 1)
        if value != p["default"]:
            return value
    raise AssertionError(p)


def type_in(card, p, kind):
    field = card.get_by_label(f"{p['label']}, value", exact=True)
    field.fill(f"{between(p, kind)}")
    field.press("Enter")


def turn(bench, made, card, p, kind):
    """Turn one control, by typing or by choosing; the document follows."""
    page = bench.page
    before = params_of(made).get(p["id"])
    if p["choices"]:
        now = before or p["choices"][int(p["default"] or 0)]
        name = p["choices"][0 if now != p["choices"][0] else 1]
        field = card.get_by_label(p["label"], exact=True)
        if len(p["choices"]) > 3:
            field.select_option(name)
        else:
            field.get_by_text(name.replace("_", " "), exact=True).click()
    else:
        type_in(card, p, kind)
    bench.saved()
    for _ in range(50):
        if params_of(made).get(p["id"]) != before:
            return
        page.wait_for_timeout(50)
    raise AssertionError(f"{p['id']} did not change")


def find(page, label):
    """Add an effect by search, without the mouse."""
    pressed(page, "/")
    page.wait_for_function("document.activeElement?.ariaLabel === 'Search effects'")
    page.keyboard.type(label)
    page.keyboard.press("Enter")


@pytest.mark.parametrize(
    "kinds", [("space", "eq", "limit"), pytest.param(None, marks=pytest.mark.long)]
)
def test_each_effect_is_added_turned_seen_heard_and_undone(bench, made, kinds):
    """One of each family, or all of them."""
    page = bench.page
    made.api.edit(made.id, kind="set_track", id="music", gain_db=-3)
    # "Treat all of Music" until the effects have arrived, then how many there are.
    page.get_by_role("button", name=re.compile("all of Music$")).click()
    plain = block(made, 5)
    for table in made.api.get("/api/effects"):
        if kinds and table["id"] not in kinds:
            continue
        find(page, table["label"])
        card = page.get_by_role("region", name=table["label"])
        card.wait_for()
        bench.saved()
        assert params_of(made) == table["added"]
        if table["id"] == "duck":
            page.get_by_label("Listens to").select_option(label="Voice")
        group = table["group"]
        if group:
            card.get_by_role("button", name=f"Add a {group['label'].lower()}").click()
        bench.saved()
        picture = card.locator(".effect-drawing svg").first
        seen = None
        if table["id"] != "duck":
            picture.wait_for()
            seen = picture.inner_html()
        rest = table["parameters"][3:]
        if rest:
            card.locator(".effect-body > button").last.click()
        for p in table["parameters"]:
            turn(bench, made, card, p, table["id"])
        for p in group["parameters"][1:3] if group else ():
            type_in(card, p, table["id"])
            bench.saved()
        if seen is not None:
            page.wait_for_function(
                "([node, before]) => node.innerHTML !== before",
                arg=[picture.element_handle(), seen],
            )
        assert block(made, 5) != plain, table["id"]
        last = params_of(made)
        page.locator(".timeline").click(position={"x": 5, "y": 5})
        page.keyboard.press("Control+z")
        bench.saved()
        page.wait_for_timeout(100)
        assert params_of(made) != last, table["id"]
        card.get_by_role("button", name=f"More for {table['label']}").click()
        page.get_by_role("menuitem", name="Remove").click()
        card.wait_for(state="detached")
        bench.saved()
    assert block(made, 5) == plain


def test_a_grip_is_dragged_and_a_preset_started_from(bench, made):
    page = bench.page
    # "Treat all of Music" until the effects have arrived, then how many there are.
    page.get_by_role("button", name=re.compile("all of Music$")).click()
    find(page, "Equaliser")
    page.get_by_role("button", name="Presets").click()
    page.get_by_role("menuitem", name="Four bands").click()
    bench.saved()
    grip = page.get_by_role("slider", name="Equaliser, Band 2")
    grip.wait_for()
    box = grip.locator(".knob").bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    bench.drag(x, y, x + 40, y - 20)
    bench.saved()
    page.wait_for_timeout(300)
    band = params_of(made)["bands"][1]
    assert band["freq_hz"] > 700
    assert band["gain_db"] > 3
    assert len(params_of(made)["bands"]) == 4
    grip.focus()
    page.keyboard.press("ArrowDown")
    bench.saved()
    page.wait_for_timeout(300)
    assert params_of(made)["bands"][1]["gain_db"] < band["gain_db"]


def test_effects_are_copied_and_pasted_between_chains(bench, made):
    page = bench.page
    # "Treat all of Music" until the effects have arrived, then how many there are.
    page.get_by_role("button", name=re.compile("all of Music$")).click()
    for kind in ("Echo", "Tone"):
        find(page, kind)
        page.get_by_role("region", name=kind).wait_for()
        bench.saved()
    page.get_by_role("button", name="Copy all").click()
    page.get_by_role("button", name="Treat the mix").click()
    page.get_by_role("button", name="Paste 2").click()
    page.get_by_role("region", name="Tone").wait_for()
    bench.saved()
    mix = made.document["mix"]["treatment"]["effects"]
    own = made.document["tracks"][1]["treatment"]["effects"]
    assert [e["kind"] for e in mix] == [e["kind"] for e in own] == ["echo", "tone"]
    assert not {e["id"] for e in mix} & {e["id"] for e in own}
    page.get_by_role("button", name="More for Echo").click()
    page.get_by_role("menuitem", name="Duplicate").click()
    bench.saved()
    page.wait_for_timeout(200)
    kinds = [e["kind"] for e in made.document["mix"]["treatment"]["effects"]]
    assert kinds == ["echo", "echo", "tone"]


def test_effects_are_put_in_order_by_dragging_and_by_keys(bench, made):
    page = bench.page
    effects = [{"id": k, "kind": k, "params": {}} for k in ("echo", "tone", "muffle")]
    made.api.edit(made.id, kind="add_effects", owner="track:music", effects=effects)
    # "Treat all of Music" until the effects have arrived, then how many there are.
    page.get_by_role("button", name=re.compile("all of Music$")).click()

    def kinds():
        bench.saved()
        page.wait_for_timeout(300)
        return [e["kind"] for e in made.document["tracks"][1]["treatment"]["effects"]]

    def middle(name):
        box = page.get_by_label(f"Place of {name}").bounding_box()
        return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    bench.drag(*middle("Muffle"), *middle("Echo"))
    assert kinds() == ["muffle", "echo", "tone"]
    open_card(page, "Muffle")
    still(page)
    page.get_by_label("Place of Muffle").focus()
    for key in ("Space", "ArrowDown", "ArrowDown", "Space"):
        page.keyboard.press(key)
        page.wait_for_timeout(300)
    assert kinds() == ["echo", "tone", "muffle"]
    # What was open is so still, and as tall as it is it goes one place at a time.
    expanded = page.get_by_role("region", name="Muffle").get_by_role("button").nth(1)
    for key in ("Space", "ArrowUp", "Space"):
        page.keyboard.press(key)
        page.wait_for_timeout(300)
    assert kinds() == ["echo", "muffle", "tone"]
    page.get_by_label("Place of Tone").focus()
    for key in ("Space", "ArrowUp", "Space"):
        page.keyboard.press(key)
        page.wait_for_timeout(300)
    assert kinds() == ["echo", "tone", "muffle"]
    assert expanded.get_attribute("aria-expanded") == "true"


@pytest.mark.in_time
@pytest.mark.parametrize("seconds", [6, pytest.param(60, marks=pytest.mark.long)])
def test_a_chain_of_eight_plays_without_a_gap(bench, made, tmp_path, seconds):
    chain = [{"id": f"e{i}", **effect} for i, effect in enumerate(CHAIN)]
    made.api.edit(made.id, kind="add_effects", owner="clip:c-music", effects=chain)
    bench.page.reload()
    bench.page.wait_for_selector(".track")
    bench.page.wait_for_function("document.querySelector('.picture video')?.readyState >= 2")
    bench.start_listening()
    bench.go_to(50)
    bench.heard()
    bench.play()
    bench.page.wait_for_timeout(seconds * 1000)
    bench.pause()
    places, sound = bench.heard()
    assert 50 * 1920 <= places[0] <= 50 * 1920 + FADE
    assert (np.diff(places) == 1).all()
    assert places.size > (seconds - 2) * RATE
    expected = made.render(tmp_path)
    assert np.abs(sound - expected[:, places]).max() < 1e-6


def test_the_parts_of_the_api_are_only_the_owners(made, server, link):
    other = type(made.api)(server, link())
    with pytest.raises(HTTPError) as found:
        other.post(f"/api/reels/{made.id}/drawing", {"owner": "mix", "effect": "e"})
    assert found.value.code == 404
