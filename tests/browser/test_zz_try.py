import sys, time, uuid, json
sys.path[:0]=["/work/main/tests/browser","/work/main/tests"]
import numpy as np, soundfile, pytest
from media import RATE
import hands
from conftest import *
CHAIN=[("eq",{"bands":[{"type":"peak","freq_hz":800,"gain_db":3}]}),("muffle",{"high_cut_hz":6000}),("reverb",{"mix":20}),("echo",{"mix":15}),("gain",{})]
@pytest.fixture(scope="session")
def noisy(server, tmp_path_factory):
    f=tmp_path_factory.mktemp("n")/"noise.wav"
    rng=np.random.default_rng(5); soundfile.write(f,(0.1*rng.standard_normal((RATE*60,2))).astype(np.float32),RATE,subtype="FLOAT")
    api=Api(server, server.django("sign_in_link","noisy","--make"))
    line=api.upload(f)
    reel=api.post("/api/reels",{"name":"Noise"})["id"]
    api.edit(reel,kind="add_medium",medium={"id":line["id"],"path":line["name"]})
    api.edit(reel,kind="add_track",track={"id":"t","name":"Noise"})
    for k in range(30):
        api.edit(reel,kind="add_clip",track="t",clip={"id":f"c{k}","media":line["id"],"name":f"n{k}","start":k*60*RATE,"length":60*RATE})
    api.edit(reel,kind="add_treatment",track="t",id="f",name="Full",start={"sample":0},end={"sample":1800*RATE},effects=[{"id":f"e{i}","kind":k,"params":p} for i,(k,p) in enumerate(CHAIN)])
    return api,reel
def test_it(page, server, noisy):
    api,reel=noisy
    page.context.add_cookies(api.cookies())
    page.goto(f"{server.url}/reels/{reel}")
    page.wait_for_selector(".track")
    b=Bench(page)
    page.wait_for_timeout(1000)
    b.start_listening()
    page.locator("[data-treatment=f]").focus()
    page.wait_for_timeout(300)
    page.keyboard.press("Enter")
    page.wait_for_timeout(300)
    page.get_by_role("button",name="Level",exact=True).last.click() if False else None
    page.screenshot(path="/tmp/w16/a.png")
    field=page.get_by_placeholder("Go to +12f"); field.fill(str(20*60*25)); field.press("Enter")
    # open the gain card
    print([c.inner_text() for c in page.locator(".effect-name").all()])
    page.locator(".effect-name", has_text="Gain").first.click()
    page.wait_for_timeout(500)
    page.screenshot(path="/tmp/w16/b.png")
    thumb=page.locator("[role=slider][aria-label='Level']").last
    thumb.scroll_into_view_if_needed()
    page.wait_for_timeout(300)
    box=thumb.bounding_box(); print(box)
    b.play(); page.wait_for_timeout(4000)
    print("sine0 starved", page.evaluate("window.__tap.reports.slice(-200).filter(r=>r.starving).length"), b.frame())
    x,y=box["x"]+box["width"]/2, box["y"]+box["height"]/2
    asked=[]
    page.on("requestfinished", lambda r: asked.append((r.url.split("/api/")[1][:60], r.timing["responseEnd"])) if "/api/" in r.url else None)
    page.mouse.move(x,y); page.mouse.down()
    def cpu():
        import subprocess
        out={}
        for pid in subprocess.run("ls /proc | grep -E '^[0-9]+$'",shell=True,capture_output=True,text=True).stdout.split():
            try:
                f=open(f"/proc/{pid}/stat").read().rsplit(")",1); t=f[1].split(); cmd=open(f"/proc/{pid}/cmdline").read().replace("\0"," ")
                out[pid]=(int(t[11])+int(t[12]), cmd[:20]+"…"+(" ".join(w for w in cmd.split() if "type=" in w or "uvicorn" in w or "procras" in w))[:60])
            except OSError: pass
        return out
    c0=cpu()
    cdp=page.context.new_cdp_session(page)
    cdp.send("Profiler.enable"); cdp.send("Profiler.setSamplingInterval",{"interval":500});  cdp.send("Performance.enable")
    m0={m["name"]:m["value"] for m in cdp.send("Performance.getMetrics")["metrics"]}
    t=hands.take(page, lambda: hands.at_every_frame(page, hands.sine(x,y,wide=20), 6))
    c1=cpu(); print("CPU", sorted([(v[0]-c0.get(k,(0,))[0],v[1]) for k,v in c1.items() if v[0]-c0.get(k,(0,))[0]>15],reverse=True))
    m1={m["name"]:m["value"] for m in cdp.send("Performance.getMetrics")["metrics"]}
    for n in ("ScriptDuration","LayoutDuration","RecalcStyleDuration","TaskDuration","LayoutCount","RecalcStyleCount"): print(n, round(m1[n]-m0[n],2))
    pass
    r,lag=hands.followed(t, lambda m: m[:,1])
    print("sine r",r,"lag",lag,"states/s",t.states/6,"starved",t.starved, "moves", len(t.moved))
    d=[a[1] for a in asked if a[0].endswith("draft")]
    print("draft asks",len(d),"median",np.median(d), "95", np.percentile(d,95), [a for a in asked if not a[0].endswith("draft")][:6])
    page.wait_for_timeout(1500)
    page.mouse.move(x,y)
    box=thumb.bounding_box(); x,y=box["x"]+box["width"]/2, box["y"]+box["height"]/2
    page.mouse.move(x,y); page.mouse.down()
    steps=[]
    t=hands.take(page, lambda: steps.extend(hands.stepping(page,[(x+(20 if k%2 else -20),y) for k in range(30)],0.45,3)))
    page.mouse.up()
    l=hands.latencies(t,steps)
    print("steps", len(l), "median", np.median(l), "95", np.percentile(l,95), "max", max(l), t.starved)
