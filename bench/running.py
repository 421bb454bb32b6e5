"""The demo, running and open in a browser, for the benches of the interface."""

from __future__ import annotations

import re
import shutil
import subprocess
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

ROOT = Path(__file__).parents[1]
FLAGS = [
    "--no-sandbox",
    "--autoplay-policy=no-user-gesture-required",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--enable-precise-memory-info",
    "--js-flags=--expose-gc",
]


@contextmanager
def demo(*, say: bool = False) -> Iterator[tuple[Page, str]]:
    """Start the demo and a browser that is signed in; gives a page and the demo reel's address.

    Parameters
    ----------
    say
        Print what the demo says of its start.
    """
    process = subprocess.Popen(["./bathyphon", "demo"], cwd=ROOT, stdout=subprocess.PIPE, text=True)
    try:
        text = ""
        for line in process.stdout or ():
            text += line
            if say and "answers" in line:
                print(line.strip())
            if "signs in once" in line:
                break
        link = re.search(r"http://\S+", text)
        assert link
        with sync_playwright() as playwright:
            # Whichever of them ./bathyphon test has set up.
            program = shutil.which("chromium-headless-shell") or shutil.which("chromium")
            browser = playwright.chromium.launch(executable_path=program, args=FLAGS)
            # What waits for something in the page is evaluated there.
            size = {"width": 1280, "height": 800}
            page = browser.new_page(viewport=size, bypass_csp=True)
            page.goto(link[0])
            page.get_by_role("button", name="Sign in").click()
            # Not the page that signs in, which names the reel behind a question mark.
            page.wait_for_url(re.compile(r"^[^?]*/reels/[^/?]+$"))
            yield page, page.url
            browser.close()
    finally:
        process.terminate()
        process.wait(timeout=20)
