"""First steps: they watch what one does, can be left, and are taken up where they were."""

import pytest
from conftest import pressed
from test_accessible import faults


@pytest.fixture
def guide(bench):
    page = bench.page
    page.evaluate("localStorage.removeItem('bathyphon.first-steps')")
    page.reload()
    page.wait_for_selector(".track")
    page.get_by_role("button", name="First steps").click()
    return page.get_by_role("complementary", name="First steps")


def now_asked(guide, title):
    guide.get_by_text(title).wait_for(timeout=12_000)


def test_what_is_done_is_seen_and_the_next_step_follows(guide, bench, made):
    page = bench.page
    now_asked(guide, "Listen to the reel")
    assert faults(page, ".guide") == []
    page.locator("body").press("Space")
    now_asked(guide, "Go to a cut")
    page.keyboard.press("Space")
    page.keyboard.press("ArrowDown")
    now_asked(guide, "Treat a stretch between two cuts")
    y = bench.lane("music")["y"] + 70
    bench.drag(bench.x_of_frame(100), y, bench.x_of_frame(250))
    pressed(page, "/")
    page.keyboard.type("muffle 500 Hz")
    page.keyboard.press("Enter")
    now_asked(guide, "Change it while it plays")
    field = page.get_by_label("High cut, value")
    field.fill("800 Hz")
    field.press("Enter")
    now_asked(guide, "Hear what it was before")
    page.keyboard.press("t")
    now_asked(guide, "Let something ring past a cut")
    # What is not wanted is passed over.
    guide.get_by_role("button", name="Skip this").click()
    now_asked(guide, "Lay a bed under a shot")
    made.edit(kind="set_clip", id="c-music", bed=True)
    now_asked(guide, "Let a recipe do a known job")
    assert "8 of 8" in guide.inner_text()
    guide.get_by_role("button", name="Skip this").click()
    guide.get_by_text("That is how all of it works.").wait_for()
    guide.get_by_role("button", name="Export…").click()
    page.get_by_role("dialog", name="Export the mix").wait_for()
    assert guide.count() == 0


def test_they_are_left_and_taken_up_again(guide, bench):
    page = bench.page
    guide.get_by_role("button", name="Skip this").click()
    now_asked(guide, "Go to a cut")
    guide.get_by_role("button", name="Leave the first steps").click()
    guide.wait_for(state="hidden")
    page.reload()
    page.wait_for_selector(".track")
    assert guide.count() == 0
    page.get_by_role("button", name="Settings").click()
    page.get_by_role("menuitem", name="First steps").click()
    now_asked(guide, "Go to a cut")
    assert "2 of 8" in guide.inner_text()
