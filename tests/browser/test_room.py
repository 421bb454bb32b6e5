"""Room to work: the picture elsewhere, waves as large as one needs, pages that load little."""

import pytest
from conftest import Bench, still

INK = """(id) => {
  const paper = document.querySelector(`[data-track=${id}] canvas.clip-paper`);
  const { width, height } = paper;
  const { data } = paper.getContext('2d').getImageData(0, 0, width, height);
  let dark = 0;
  for (let i = 0; i < data.length; i += 4) dark += data[i + 3] > 0 && data[i] < 150;
  return dark;
}"""


def test_the_picture_goes_to_a_window_of_its_own_and_comes_back(bench, made):
    page = bench.page
    bench.type_frame(120)
    page.locator(".picture").hover()
    sheet = page.locator(".sheet, .pad").first.bounding_box()
    with page.expect_popup() as opened:
        page.get_by_role("button", name="Picture in a window of its own").click()
    picture = opened.value
    assert picture.title().startswith("Picture")
    picture.wait_for_function("document.querySelector('.picture video')?.readyState >= 2")
    assert page.locator(".picture").count() == 0
    # What is selected has the room.
    assert page.locator(".sheet, .pad").first.bounding_box()["y"] < sheet["y"] - 40
    shown = "document.querySelector('.picture video').currentTime"
    assert abs(picture.evaluate(shown) - 120.5 / 25) < 0.021
    assert picture.locator(".picture").bounding_box()["height"] > 300
    # Keys mean the same in it, and it follows what is heard.
    picture.keyboard.press("ArrowRight")
    picture.wait_for_function(f"Math.abs({shown} - 121.5 / 25) < 0.021")
    picture.keyboard.press("Space")
    page.get_by_role("button", name="Pause").wait_for()
    picture.wait_for_function(f"{shown} > 6")
    picture.keyboard.press("Space")
    page.get_by_role("button", name="▶ Play").wait_for()
    page.get_by_role("button", name="Bring it back").click()
    page.wait_for_function("document.querySelector('.picture video')?.readyState >= 2")
    # Closed by its own hand it comes back as well.
    page.locator(".picture").hover()
    with page.expect_popup() as opened:
        page.get_by_role("button", name="Picture in a window of its own").click()
    opened.value.close()
    page.locator(".picture video").wait_for()


def test_waves_are_drawn_larger_and_no_level_changes(bench, made):
    page = bench.page
    made.edit(kind="set_clip", id="c-music", gain_db=-30)
    bench.shows(made)
    before, reel = page.evaluate(INK, "music"), made.document
    page.get_by_label("Size of the waves").select_option("8")
    page.wait_for_timeout(300)
    larger = page.evaluate(INK, "music")
    assert larger > 2 * before
    page.reload()
    page.wait_for_selector(".track")
    page.wait_for_timeout(800)
    assert page.get_by_label("Size of the waves").input_value() == "8"
    page.get_by_label("Size of the waves").select_option("1")
    # One clip by itself, as large as it fits.
    page.locator("[data-clip=c-music]").press("Enter")
    page.get_by_role("button", name="Clip ▾").click()
    page.get_by_role("menuitem", name="Draw its wave as large as it fits").click()
    page.wait_for_timeout(300)
    assert page.evaluate(INK, "music") > larger
    assert made.document == reel


def test_signing_in_loads_little_and_all_of_it_compressed(browser, server):
    # One who has never been there: nothing is kept.
    context = browser.new_context()
    page = context.new_page()
    page.goto(f"{server.url}/reels/00000000-0000-0000-0000-000000000000")
    page.get_by_role("heading", name="Sign in").wait_for()
    assert "/sign-in?to=%2Freels%2F" in page.url
    loaded = page.evaluate(
        """() => performance.getEntriesByType('resource')
          .filter((e) => /\\.(js|css)$/.test(e.name))
          .map((e) => [e.name, e.decodedBodySize, e.encodedBodySize])"""
    )
    scripts = [size for name, size, _ in loaded if name.endswith(".js")]
    assert 150_000 < sum(scripts) < 250_000
    assert all(sent < 0.6 * size for _, size, sent in loaded if size > 2000)


def test_the_playhead_stays_within_the_reel_and_its_tails(bench: Bench, made):
    page = bench.page
    page.keyboard.press("End")
    last = bench.frame()
    end = made.api.get(f"/api/reels/{made.id}")["derived"]["length"] // 1920
    assert end - 1 <= last <= end
    field = page.get_by_placeholder("Go to +12f")
    field.fill("23:00:00:00")
    field.press("Enter")
    assert bench.frame() == last
    # What is cut away meanwhile takes the playhead along.
    made.edit(kind="remove_clips", ids=["c-music"])
    made.edit(kind="set_picture", clips=[])
    bench.shows(made)
    end = made.api.get(f"/api/reels/{made.id}")["derived"]["length"] // 1920
    assert end < last
    assert bench.frame() <= end


def test_the_window_of_the_picture_is_dressed_under_the_page_s_own_policy(browser, server, made):
    # Without what the other tests let pass to listen in.
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    context.add_cookies(made.api.cookies())
    page = context.new_page()
    said = []
    page.on("console", lambda message: said.append(message.text))
    page.goto(f"{server.url}/reels/{made.id}")
    page.locator(".picture").hover()
    with page.expect_popup() as opened:
        page.get_by_role("button", name="Picture in a window of its own").click()
    picture = opened.value
    picture.on("console", lambda message: said.append(message.text))
    picture.locator(".picture video").wait_for()
    facts = "() => [document.querySelector('video').readyState >= 2, innerHeight]"
    for _ in range(100):
        shown, high = picture.evaluate(facts)
        if shown:
            break
        picture.wait_for_timeout(100)
    assert shown
    assert abs(picture.locator(".picture").bounding_box()["height"] - high) < 1
    assert not [text for text in said if "Security" in text]
    context.close()


@pytest.mark.parametrize("rings", [False, True])
def test_what_is_selected_is_seen_whole_and_so_are_three_closed_effects(bench, made, rings):
    """At 1280 by 800: strength and ramps, the first effect with its three telling controls, and the
    heads of three more, without scrolling; what rings out says so below them."""
    page = bench.page
    kinds = ["muffle", "eq", "gain", "reverb" if rings else "pan"]
    effects = [{"id": f"e{k}", "kind": kind, "params": {}} for k, kind in enumerate(kinds)]
    made.edit(
        kind="add_treatment", track="music", id="four", name="Four", start={"frame": 100},
        end={"frame": 250}, effects=effects,
    )  # fmt: skip
    page.locator("[data-treatment=four]").press("Enter")
    page.locator(".effect-drawing svg").wait_for()
    still(page)
    seen = page.locator(".sheet-body").bounding_box()
    assert page.evaluate("document.querySelector('.sheet-body').scrollTop") == 0
    fields = ("Strength, value", "Ramp in", "Ramp out", "Amount, value", "High cut, value",
              "Level, value")  # fmt: skip
    shown = [page.get_by_role("textbox", name=name, exact=True) for name in fields]
    for part in [*shown, *page.locator(".effect-card").all()]:
        box = part.bounding_box()
        assert box["y"] >= seen["y"]
        assert box["y"] + box["height"] <= seen["y"] + seen["height"]
    assert page.locator(".effect-card").count() == 4
