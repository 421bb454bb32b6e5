"""Drawn in grey, what is selected, bypassed, moving or missing is still told apart."""

import io
from itertools import combinations

import numpy as np
from PIL import Image

SPAN = {"kind": "add_treatment", "track": "music", "name": "Hall",
        "ramp_in": {"frames": 3}, "ramp_out": {"frames": 6}}  # fmt: skip
STATES = ("plain", "bypassed", "moving", "selected")


def grey(page, selector):
    """A part of the page as it is drawn, without colour, float of shape (rows, columns)."""
    image = Image.open(io.BytesIO(page.locator(selector).first.screenshot()))
    return np.asarray(image.convert("L"), float)


def unlike(one, two):
    """Share of the pixels that plainly differ."""
    rows, columns = (min(a, b) for a, b in zip(one.shape, two.shape, strict=True))
    return float((np.abs(one[:rows, :columns] - two[:rows, :columns]) > 24).mean())


def test_states_are_told_apart_without_colour(bench, made):
    page = bench.page
    moving = {"keyframes": [{"at": 0, "value": 1}, {"at": 96000, "value": 9}]}
    for k, state in enumerate(STATES):
        decay = moving if state == "moving" else 3.0
        made.edit(
            **SPAN, id=state, start={"frame": 40 + 100 * k}, end={"frame": 120 + 100 * k},
            effects=[{"id": "r", "kind": "reverb", "params": {"decay_s": decay}}],
        )  # fmt: skip
    made.edit(kind="set_chain", owner="treatment:bypassed", bypass=True)
    body = {"model": "knock", "name": "Gone", "seed": 77}
    medium = made.api.post("/api/sounds/made", body)["media"]["id"]
    made.edit(kind="add_medium", medium={"id": medium, "path": "line.wav"})
    gone = {"id": "c-gone", "media": medium, "name": "line.wav", "start": 20 * 48000,
            "length": 120000}  # fmt: skip
    made.edit(kind="add_clip", track="voice", clip=gone)
    made.api.delete(f"/api/media/{medium}")
    page.reload()
    page.locator("[data-treatment=selected]").press("Enter")
    page.locator("[data-clip=c-gone]").wait_for()
    page.add_style_tag(content="html { filter: grayscale(1); }")
    page.mouse.move(5, 5)
    page.wait_for_timeout(800)
    seen = {state: grey(page, f"[data-treatment={state}]") for state in STATES}
    for one, two in combinations(STATES, 2):
        assert unlike(seen[one], seen[two]) > 0.01, (one, two)
    here, missing = (grey(page, f"[data-clip={id}]") for id in ("c-voice", "c-gone"))
    assert unlike(here, missing) > 0.03
