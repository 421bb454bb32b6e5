"""Signing in, passwords, day and night, what is kept of how one has set things."""

from conftest import enter


def test_password_sign_out_and_sign_in_again(page, server, link):
    enter(page, server.url + link("/"))
    page.get_by_role("button", name="Settings").click()
    page.get_by_role("menuitem", name="Change the password…").click()
    page.get_by_label("New password").fill("carbide and rope")
    page.get_by_role("button", name="Change it").click()
    page.get_by_text("The password has been changed.").wait_for()
    page.get_by_role("button", name="Settings").click()
    page.get_by_role("menuitem", name="Sign out").click()
    page.wait_for_url("**/sign-in")
    name = server.django(
        "shell", "-v", "0", "-c",
        "from django.contrib.auth.models import User; print(User.objects.latest('pk').username)",
    )  # fmt: skip
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").first.fill("wrong")
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("alert").wait_for()
    page.get_by_label("Password").first.fill("carbide and rope")
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("heading", name="Your reels").wait_for()


def test_night_can_be_chosen(page, server, link):
    enter(page, server.url + link("/"))
    page.get_by_role("button", name="Settings").click()
    page.get_by_role("menuitem", name="Night").click()
    assert page.evaluate("document.documentElement.dataset.mantineColorScheme") == "dark"
    page.reload()
    assert page.evaluate("document.documentElement.dataset.mantineColorScheme") == "dark"


def test_volume_and_headphone_delay_are_kept(bench):
    page = bench.page
    page.get_by_role("button", name="Meters, output volume and headphone delay").click()
    page.get_by_role("textbox", name="Headphone delay").fill("120")
    page.get_by_role("textbox", name="Headphone delay").press("Enter")
    page.reload()
    page.wait_for_selector(".track")
    page.get_by_role("button", name="Meters, output volume and headphone delay").click()
    assert page.get_by_role("textbox", name="Headphone delay").input_value() == "120 ms"


def test_a_reel_that_is_not_there_says_so(page, server, link):
    enter(page, server.url + link("/reels/00000000-0000-4000-8000-000000000000"))
    page.get_by_text("There is no such reel among yours.").wait_for()


def test_what_stands_beside_the_whole_reel_is_seen(bench):
    """By the mouse alone: a locator's click would bring what is hidden into sight first."""
    page = bench.page
    for name in ("Zoom out", "Zoom in", "Treat the mix"):
        seen = page.get_by_role("button", name=name).evaluate(
            """button => {
              const { left, top, width, height } = button.getBoundingClientRect();
              const there = document.elementFromPoint(left + width / 2, top + height / 2);
              return height > 14 && button.contains(there);
            }"""
        )
        assert seen, name
    before = page.evaluate("window.__view")
    box = page.get_by_role("button", name="Zoom in").bounding_box()
    page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.wait_for_function("before => window.__view[1] < before", arg=before[1])


def test_signing_in_is_by_day_or_by_night_as_the_system_is(page, server):
    def paper():
        return page.evaluate("getComputedStyle(document.body).backgroundColor")

    page.emulate_media(color_scheme="light")
    page.goto(server.url + "/")
    page.get_by_label("Password").wait_for()
    by_day = paper()
    page.emulate_media(color_scheme="dark")
    page.wait_for_function("(before) => getComputedStyle(document.body).backgroundColor !== before",
                           arg=by_day)  # fmt: skip
    by_night = paper()
    page.reload()
    page.get_by_label("Password").wait_for()
    assert paper() == by_night
    page.emulate_media(color_scheme="light")
    page.wait_for_function("(then) => getComputedStyle(document.body).backgroundColor === then",
                           arg=by_day)  # fmt: skip
