"""Settings that are kept side by side: the chosen ones play, the others wait."""

import numpy as np
import pytest

from bathyphon.core.edits import apply_edits, parse_command
from bathyphon.core.edits.patch import apply_patch
from bathyphon.core.errors import Refused
from bathyphon.core.reel.parse import read_reel
from reels import document, effect, treatment

OWNER = "treatment:f1"


class Bench:
    """A reel under edits."""

    def __init__(self):
        self.document = document(48000, treatments=[treatment(0, 48000, effect("muffle"))])

    def do(self, **command):
        edit = apply_edits(
            self.document, read_reel(self.document), [parse_command({"owner": OWNER, **command})]
        )
        back, _ = apply_patch(edit.document, edit.inverse)
        assert back == self.document
        self.document = edit.document

    @property
    def chain(self):
        return self.document["tracks"][0]["treatments"][0]

    def cut(self):
        return self.chain["effects"][0]["params"].get("high_cut_hz")

    def set(self, hz):
        self.do(kind="set_effect", id="e0", params={"high_cut_hz": hz})


def test_settings_are_kept_and_used_in_turn():
    bench = Bench()
    bench.set(500)
    bench.do(kind="keep_settings", name="A", then="B")
    bench.set(900)
    bench.do(kind="use_kept", name="A")
    assert (bench.cut(), bench.chain["chosen"]) == (500, "A")
    bench.set(550)
    bench.do(kind="use_kept", name="B")
    assert bench.cut() == 900
    bench.do(kind="use_kept", name="A")
    assert bench.cut() == 550


@pytest.mark.parametrize("seed", range(5))
def test_nothing_is_lost_in_any_order(seed):
    rng = np.random.default_rng(seed)
    bench, known, chosen = Bench(), {}, None
    bench.set(100)
    names = iter("BCDEFGHIJKLMNOP")
    for _ in range(40):
        what = rng.integers(4)
        if what == 0 and len(known) < 8:
            then = next(names)
            bench.do(kind="keep_settings", name="A", then=then)
            known[chosen or "A"] = bench.cut()
            chosen = then
            known[chosen] = bench.cut()
        elif what == 1:
            hz = int(rng.integers(100, 9000))
            bench.set(hz)
            if chosen:
                known[chosen] = hz
        elif what == 2 and known:
            chosen = str(rng.choice(sorted(known)))
            bench.do(kind="use_kept", name=chosen)
        elif what == 3 and chosen:
            to = f"{chosen}x"
            bench.do(kind="rename_kept", name=chosen, to=to)
            known[to] = known.pop(chosen)
            chosen = to
        if chosen:
            assert bench.cut() == known[chosen]
    for name, hz in known.items():
        bench.do(kind="use_kept", name=name)
        assert bench.cut() == hz


def test_what_cannot_be_done_is_refused():
    bench = Bench()
    with pytest.raises(Refused, match="no settings named"):
        bench.do(kind="use_kept", name="B")
    bench.do(kind="keep_settings", name="A", then="B")
    with pytest.raises(Refused, match="already"):
        bench.do(kind="keep_settings", name="A", then="A")
    with pytest.raises(Refused, match="these settings play"):
        bench.do(kind="drop_kept", name="B")
    bench.do(kind="drop_kept", name="A")
    assert bench.chain["kept"] == []
