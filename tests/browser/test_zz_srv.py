import sys
sys.path[:0]=["/work/main/tests/browser"]
from test_zz_try import noisy
import time, json, numpy as np, urllib.request
def test_srv(server, noisy):
    api,reel=noisy
    RATE=48000
    def ask(k,at,look,n=0.35):
        token=next(c.value for c in api._jar if c.name=="csrftoken")
        a=int(at*20)*2400
        body={"commands":[{"kind":"set_effect","owner":"treatment:f","id":"e4","params":{"level_db":-6-0.1*k}}],"sound":[[a,a+int(n*20)*2400]] if n else []}
        if look: body|={"derived":True,"drawing":{"owner":"treatment:f","effect":"e4","at":a}}
        t=time.perf_counter()
        r=urllib.request.Request(f"{server.url}/api/reels/{reel}/draft",json.dumps(body).encode(),{"Content-Type":"application/json","X-CSRFToken":token})
        try: d=api._opener.open(r).read()
        except Exception as e: print("look", e.read()); raise
        return 1000*(time.perf_counter()-t)
    for look in (False,True):
        for n in (0,0.1,0.35):
            l=[ask(k,1200+k*0.05,look,n) for k in range(40)]
            print("look",look,"sound",n,"median",np.median(l[5:]),"max",max(l[5:]), "first",l[0])
