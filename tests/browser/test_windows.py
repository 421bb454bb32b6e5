"""Two windows, a lost server, and what is said about it."""

from conftest import Held


def cuts(made):
    return made.document["picture"]["cuts"]


def test_an_edit_in_one_window_shows_in_the_other(bench, made, context, server, link):
    other = context.new_page()
    other.goto(f"{server.url}/reels/{made.id}")
    other.wait_for_selector(".track")
    y = bench.lane("music")["y"] + 30
    bench.drag(bench.x_of_frame(100), y, bench.x_of_frame(250))
    bench.page.get_by_role("button", name="Muffle").click()
    other.wait_for_selector("[data-treatment]", timeout=5000)
    other.close()


def test_two_windows_never_overwrite_each_other_silently(bench, made, context, server):
    page = bench.page
    # This window does not hear of the other's edit before its own is sent.
    page.route("**/api/events", lambda route: route.abort())
    held = Held(page, "**/api/reels/*/edits")
    field = page.get_by_label("Level of Music")
    field.fill("-9")
    field.press("Enter")
    page.get_by_text("Saving…").wait_for()
    made.api.edit(made.id, kind="set_track", id="music", gain_db=-3.0)
    held.let_go()
    page.get_by_text("Another window has changed the same thing").wait_for(timeout=5000)
    music = next(t for t in made.document["tracks"] if t["id"] == "music")
    assert music["gain_db"] == -3.0
    page.wait_for_function(
        "document.querySelector('[aria-label=\"Level of Music\"]').value.includes('3.0')"
    )


def test_an_edit_made_while_the_server_is_down_is_kept_and_sent(bench, made, server):
    page = bench.page
    bench.go_to(300)
    server.kill()
    page.get_by_role("tab", name="Lists").click()
    page.get_by_role("button", name="Mark a cut at the playhead").click()
    page.get_by_text("Not saved yet: offline").wait_for(timeout=5000)
    server.start()
    page.get_by_text("All saved").wait_for(timeout=15_000)
    assert cuts(made) == [100, 250, 300, 400]
