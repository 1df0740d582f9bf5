"""Make a piece, render it, keep a clip of it and download the MIDI file. It needs a token that may write."""

import json
import os
import urllib.request
from pathlib import Path


def ask(method, path, body=None):
    headers = {"Authorization": "Bearer " + os.environ["JOLLY_TOKEN"], "Content-Type": "application/json"}
    data = None if body is None else json.dumps(body).encode()
    request = urllib.request.Request(os.environ["JOLLY_SERVER"] + "/api" + path, data, headers, method=method)
    return urllib.request.urlopen(request).read()


source = {"kind": "euclidean", "hits": 5, "steps": 13}
lane = {"id": "bottle", "name": "Bottle", "voice": "bottle", "source": source}
piece = {"name": "By script", "patterns": [{"id": "a", "name": "A", "dice": 7, "lanes": [lane]}]}
made = json.loads(ask("POST", "/pieces", {"document": piece}))
asked = json.loads(ask("GET", f"/pieces/{made['id']}/patterns/a/score"))  # a score and its dice
heard = json.loads(ask("POST", "/render/sounds", asked | {"window": {"first_bar": 0, "bars": 4}}))
take = asked | {"piece": "By script", "pattern": "A", "bars": 4, "count": 1}
sheet = json.loads(ask("POST", "/takes", take))["sheet"]
clip = json.loads(ask("POST", f"/takes/{sheet['id']}/1/keep"))
Path("by script.mid").write_bytes(ask("GET", f"/clips/{clip['id']}.mid"))
print(f"{len(heard['events']['starts'])} notes in 4 bars: by script.mid")
