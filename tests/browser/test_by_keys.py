"""Without a pointer: the demo's treatments rebuilt from its untreated reel, Space, and focus."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from conftest import Api, pressed, settled

DEMO = Path(__file__).parents[2] / "demo" / "ninth_sump" / "reel.json"
MOST_TABS = 250
# The reel as the demo brings it in; its media, which nobody hears here, are not prepared.
IMPORTED = f"""
from pathlib import Path
from django.contrib.auth.models import User
from bathyphon.server.accounts.models import SignInLink
from bathyphon.server.reels.importing import import_reel
account, _ = User.objects.get_or_create(username="by-keys")
reel, _ = import_reel(account, Path({str(DEMO)!r}))
print(reel.pk, *(SignInLink.path(account, f"/reels/{{reel.pk}}") for _ in range(2)))
"""


def tab_to(page: Any, label: str) -> None:
    """As one goes through the page: by Tab, until the field or button has the focus."""
    page.get_by_label(label, exact=True).wait_for()
    for _ in range(MOST_TABS):
        page.keyboard.press("Tab")
        if page.evaluate("document.activeElement.getAttribute('aria-label')") == label:
            return
    raise AssertionError(f"“{label}” is not reached by Tab")


def without_ids(treated: Any) -> Any:
    """Chains as they were typed: ids are drawn anew each time."""
    if isinstance(treated, dict):
        # What stands at its default may be there or not.
        dropped = [k for k in treated if k in ("id", "bypass") or treated[k] == "linear"]
        return {k: without_ids(v) for k, v in treated.items() if k not in dropped}
    return [without_ids(v) for v in treated] if isinstance(treated, list) else treated


def treated(document: Any) -> dict[str, Any]:
    clips = {c["id"]: c.get("treatment") for t in document["tracks"] for c in t["clips"]}
    spans = [without_ids(t) for track in document["tracks"] for t in track["treatments"]]
    # What is laid anew comes after the others.
    spans.sort(key=lambda span: (span["start"], span["name"]))
    return {"clip": without_ids(clips["c-l4"]["effects"]), "spans": spans}


def test_the_demos_treatments_are_rebuilt_by_keys_alone(page, server):
    reel, first, second = server.django("shell", "-v", "0", "-c", IMPORTED).split()
    api = Api(server, first)
    wanted = treated(api.get(f"/api/reels/{reel}")["document"])
    api.edits(reel, [
        {"kind": "remove_treatments", "ids": ["narrow"]},
        {"kind": "remove_effect", "owner": "clip:c-l4", "id": "far"},
    ])  # fmt: skip
    page.goto(f"{server.url}{second}")
    page.get_by_role("button", name="Sign in").wait_for()
    page.wait_for_function("document.activeElement.textContent === 'Sign in'")
    page.keyboard.press("Enter")
    page.wait_for_selector(".track")
    page.wait_for_timeout(600)

    def key(*keys: str) -> None:
        for one in keys:
            pressed(page, one)
            page.wait_for_timeout(150)

    def type_in(text: str) -> None:
        page.keyboard.type(text)
        page.keyboard.press("Enter")
        page.wait_for_timeout(400)
        settled(page)

    # From clip to clip, to the fourth.
    for _ in range(8):
        key("Shift+PageDown")
        if page.evaluate("document.activeElement.dataset.clip") == "c-l4":
            break
    key("/")
    type_in("echo 640 ms 34% high cut 2600 Hz low cut 160 Hz")
    key("Escape", "PageDown", "PageDown", "PageDown", "Home", "ArrowDown", "r", "ArrowDown", "/")
    type_in("muffle 900 Hz level -4 dB width 40% ramp in 3f ramp out 6f")
    tab_to(page, "Name of the treatment")
    key("Control+a")
    type_in("Behind rock")
    tab_to(page, "Strength, value")
    type_in("80 %")
    document = api.get(f"/api/reels/{reel}")["document"]
    assert treated(document) == wanted


def test_space_plays_and_never_toggles_what_was_clicked_before(bench, made):
    page = bench.page
    mute = page.get_by_role("button", name="Mute Voice")
    mute.click()
    bench.saved()
    page.keyboard.press("Space")
    page.get_by_role("button", name="Pause").wait_for()
    assert mute.get_attribute("aria-pressed") == "true"
    page.keyboard.press("Space")
    page.wait_for_timeout(200)
    # A switch of the sheet, too.
    clip = made.document["tracks"][1]["clips"][0]["id"]
    page.locator(f"[data-clip={clip}]").focus()
    page.keyboard.press("Enter")
    switch = page.get_by_role("switch", name="Clip on")
    switch.click(force=True)
    bench.saved()
    assert not switch.is_checked()
    page.keyboard.press("Space")
    page.wait_for_timeout(300)
    assert not switch.is_checked()
    page.keyboard.press("Space")
    page.wait_for_timeout(200)
    # Reached by keys it is pressed.
    page.keyboard.press("Shift+Tab")
    page.keyboard.press("Tab")
    page.keyboard.press("Space")
    page.wait_for_timeout(300)
    bench.saved()
    assert switch.is_checked()
    # What Space does not press is no reason not to play.
    page.get_by_role("slider", name="Level").focus()
    page.keyboard.press("Space")
    page.get_by_role("button", name="Pause").wait_for()


def test_clicking_a_clip_selects_it_and_stays_where_one_is(bench, made):
    page = bench.page
    bench.go_to(20)
    y = bench.lane("music")["y"] + 30
    page.mouse.click(bench.x_of_frame(300), y)
    page.wait_for_timeout(300)
    assert page.locator("[data-clip][data-chosen]").count() == 1
    assert bench.frame() == 20
    page.mouse.dblclick(bench.x_of_frame(300), y)
    page.wait_for_timeout(300)
    # A pixel of the whole reel is two frames.
    assert abs(bench.frame() - 300) <= 2


def test_what_only_a_drag_could_do_is_done_at_the_playhead(bench, made):
    page = bench.page
    clip = made.document["tracks"][1]["clips"][0]["id"]
    page.locator(f"[data-clip={clip}]").focus()
    page.keyboard.press("Enter")
    for frame, key in ((50, "i"), (80, "Shift+I"), (600, "u"), (550, "Shift+U")):
        bench.go_to(frame)
        page.keyboard.press(key)
        page.wait_for_timeout(250)
        bench.saved()
    (found,) = made.document["tracks"][1]["clips"]
    assert (found["start"], found["length"]) == (50 * 1920, 550 * 1920)
    assert found["fade_in"]["length"] == 30 * 1920
    assert found["fade_out"]["length"] == 50 * 1920
