"""The shots of a film: found when it comes in, and found again at another sensitivity."""

from fractions import Fraction

import av
import numpy as np

from footage import Scene

SHOTS = (30, 45, 60, 40)
FAINT = 100


def film_of_shots(path):
    """Four shots, cut hard; the third has a faint change of light in its midst."""
    rng = np.random.default_rng(11)
    with av.open(str(path), "w") as out:
        video = out.add_stream("libx264", rate=25)
        video.width, video.height, video.pix_fmt = 256, 144, "yuv420p"
        video.options = {"preset": "ultrafast", "crf": "16", "bf": "0"}
        video.time_base = Fraction(1, 25)
        at = 0
        for count in SHOTS:
            scene = Scene(rng)
            scene.noise = 0.0
            still = np.clip(scene.shoot(rng, 1)[0], 0, 220)
            for _ in range(count):
                small = np.clip(still + (2.0 if at >= FAINT else 0.0), 0, 255).astype(np.uint8)
                image = small.repeat(4, 0).repeat(4, 1)
                frame = av.VideoFrame.from_ndarray(np.ascontiguousarray(image), "rgb24")
                frame.pts, frame.time_base = at, Fraction(1, 25)
                out.mux(video.encode(frame))
                at += 1
        out.mux(video.encode())


def test_shots_are_found_when_a_film_comes_in_and_again(page, server, owner, tmp_path):
    page.context.add_cookies(owner.api.cookies())
    film_of_shots(tmp_path / "shots.mp4")
    page.goto(server.url)
    page.get_by_role("button", name="New reel…").first.click()
    page.get_by_label("Name").fill("Shots")
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Picture").click()
    chooser.value.set_files(tmp_path / "shots.mp4")
    page.get_by_role("button", name="Make the reel").click()
    page.get_by_text("of 4").wait_for(timeout=60_000)
    reel = page.url.rsplit("/", 1)[-1]
    wanted = list(np.cumsum(SHOTS)[:-1])

    def picture():
        return owner.api.get(f"/api/reels/{reel}")["document"]["picture"]

    assert picture()["cuts"] == wanted
    page.get_by_role("tab", name="Lists").click()
    page.get_by_role("slider", name="Readiness to find a cut").press("End")
    page.get_by_role("button", name="Find cuts").click()
    page.get_by_text("of 5").wait_for(timeout=30_000)
    page.get_by_text("All saved").wait_for()
    assert picture()["cuts"] == sorted([*wanted, FAINT])
    page.keyboard.press("Control+z")
    page.get_by_text("of 4").wait_for()
