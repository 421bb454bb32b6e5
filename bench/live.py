"""Start-up, latency of sound blocks, and time from pressing play to the first sound.

Run as ``PYTHONPATH=src .venv/bin/python bench/live.py``; starts the demo by itself.
"""

from __future__ import annotations

import statistics
import time

from playwright.sync_api import Page

from running import demo

LISTEN = """() => {
  const Native = window.AudioWorkletNode;
  window.AudioWorkletNode = class extends Native {
    constructor(context, name, options) {
      super(context, name, options);
      this.port.addEventListener('message', (e) => {
        if (e.data.playing && !e.data.starving && e.data.peaks[0] > 0 && !window.__first)
          window.__first = performance.now();
      });
    }
  };
}"""

BLOCKS = """async ([reel, turns]) => {
  const token = /csrftoken=([^;]+)/.exec(document.cookie)[1];
  const send = (path, body) => fetch(path, {method: 'POST', body: JSON.stringify(body),
    headers: {'X-CSRFToken': token, 'Content-Type': 'application/json'}});
  const times = {first: [], changed: [], known: []};
  const get = async (list, i, tag) => {
    const began = performance.now();
    const answer = await fetch(`/api/reels/${reel}/sound/treated/${i}?player=bench&generation=1`,
      {headers: tag ? {'If-None-Match': tag} : {}, cache: 'no-store'});
    await answer.arrayBuffer();
    list.push(performance.now() - began);
    return answer.headers.get('ETag');
  };
  for (let i = 0; i < 90; i++) await get(times.first, i);
  let {revision} = await (await fetch(`/api/reels/${reel}`)).json();
  for (let turn = 0; turn < turns; turn++) {
    const command = {kind: 'set_effect', owner: 'treatment:narrow', id: 'dull',
      params: {high_cut_hz: 700 + turn}};
    const change = await (await send(`/api/reels/${reel}/edits`,
      {edit_id: crypto.randomUUID(), base: revision, command})).json();
    revision = change.revision;
    const tag = await get(times.changed, 12 + (turn % 10));
    await get(times.known, 12 + (turn % 10), tag);
  }
  return times;
}"""


def first_sound(page: Page, link: str) -> list[float]:
    """Milliseconds from pressing play to the first sound, on pages freshly opened."""
    found = []
    for _ in range(5):
        page.goto(link)
        page.wait_for_selector(".track")
        page.wait_for_timeout(1500)
        found.append(
            page.evaluate("""async () => {
              window.__first = 0;
              const button = [...document.querySelectorAll('button')]
                .find((b) => b.textContent.includes('Play'));
              const began = performance.now();
              button.click();
              while (!window.__first) await new Promise((r) => setTimeout(r, 1));
              return window.__first - began;
            }""")
        )
    return found


def main() -> None:
    """Measure and print."""
    began = time.perf_counter()
    with demo() as (page, link):
        print(f"start to the link, everything installed: {time.perf_counter() - began:.1f} s")
        reel = link.rsplit("/", 1)[1]
        page.add_init_script(f"({LISTEN})()")
        page.goto(link)
        page.wait_for_selector(".track")
        page.wait_for_timeout(3000)
        sounds = first_sound(page, page.url)
        print(f"play to first sound: median {statistics.median(sounds):.0f} ms, "
              f"largest {max(sounds):.0f} ms")  # fmt: skip
        times = page.evaluate(BLOCKS, [reel, 60])
        names = {"first": "never computed before, in order", "changed": "after an edit",
                 "known": "unchanged (304)"}  # fmt: skip
        for key, name in names.items():
            values = sorted(times[key])
            print(f"block of 1 s, {name}: median {statistics.median(values):.0f} ms, "
                  f"95th {values[int(len(values) * 0.95)]:.0f} ms")  # fmt: skip


if __name__ == "__main__":
    main()
