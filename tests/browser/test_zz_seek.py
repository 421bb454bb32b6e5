import sys
sys.path[:0]=["/work/main/tests/browser"]
from test_zz_try import noisy
from conftest import *
import time
def test_seek(page, server, noisy):
    api,reel=noisy
    page.context.add_cookies(api.cookies())
    page.goto(f"{server.url}/reels/{reel}")
    page.wait_for_selector(".track")
    b=Bench(page)
    page.wait_for_timeout(1000)
    b.start_listening()
    t0=time.time()
    page.on("request", lambda r: print(f"{time.time()-t0:.2f} > ", r.url.split("/sound/")[1]) if "/sound/" in r.url else None)
    page.on("requestfinished", lambda r: print(f"{time.time()-t0:.2f} < ", r.url.split("/sound/")[1], r.response().status) if "/sound/" in r.url else None)
    page.on("requestfailed", lambda r: print(f"{time.time()-t0:.2f} x ", r.url.split("/sound/")[1]) if "/sound/" in r.url else None)
    field=page.get_by_placeholder("Go to +12f"); field.fill(str(20*60*25)); field.press("Enter")
    b.play(); page.wait_for_timeout(4000)
    print("SEEK starved", page.evaluate("window.__tap.reports.slice(-200).filter(r=>r.starving).length"), b.frame())
