#!/usr/bin/env python3
"""Makes the demo job, Kittiwake Wharf: demo/kittiwake.json and the files in demo/measured/.

Nothing here was measured on a real cable. Loss comes from the core's own model (burin-cli loss)
with Gaussian noise of 0.08 dB; return loss and crosstalk are the class limit (burin-cli limit)
plus a stated spare, a ripple and noise of 0.6 dB; faults are what FAULTS says of each run. Every
file repeats this in its head. The numbers are the same on every machine: the noise is seeded by
the run's name.

Usage: demo/make_demo.py path/to/burin-cli
"""
import base64
import cmath
import hashlib
import json
import math
import random
import subprocess
import sys
import tempfile
from pathlib import Path

HERE = Path(__file__).parent
CLI = sys.argv[1] if len(sys.argv) > 1 else str(HERE.parent / "build/release/bin/burin-cli")
PAIRS = ["1-2", "3-6", "4-5", "7-8"]
NOTE = "Kittiwake Wharf demo: made by demo/make_demo.py from Burin's own model, not measured"


def cli(*words):
    out = subprocess.run([CLI, *words], check=True, capture_output=True, text=True)
    return json.loads(out.stdout)


def at(frequencies):
    return ",".join(f"{f:.6g}" for f in frequencies)


def model_loss(run, frequencies, channel=True, cable=None, length=None):
    words = ["loss", "--cable", cable or run["cableId"], "--length",
             f"{length or sum(s['lengthM'] for s in run['stretches'])}m", "--at", at(frequencies)]
    warm = sum(s["lengthM"] * s["temperatureC"] for s in run["stretches"])
    words += ["--temperature", f"{warm / sum(s['lengthM'] for s in run['stretches']):.3f}"]
    if channel:
        for cord in run["cords"]:
            words += ["--cord", f"{cord['cableId']}:{cord['lengthM']}m"]
    for connection in run["connections"]:
        words += ["--connection", connection["connectionId"]]
    return [p["lossDb"] for p in cli(*words)["points"]]


def limit(class_name, link, parameter, frequencies):
    points = cli("limit", "--class", class_name, "--link", link, "--parameter", parameter,
                 "--at", at(frequencies))["points"]
    return [p["limit"] for p in points]


def ripple(rng, frequencies, spare):
    phase, period = rng.uniform(0, 6), rng.uniform(3, 6)
    return [spare + 1.2 * math.sin(phase + f / period) + rng.gauss(0, 0.6) for f in frequencies]


def tester_grid(top):
    """The steps IEC 61935-1 asks of field testers."""
    out, f = [], 1.0
    while f < top - 1e-6:
        out.append(f)
        step = 0.15 if f < 31.25 else 0.25 if f < 100 else 0.5 if f < 250 else 1.0
        edge = next((e for e in (31.25, 100, 250) if f < e), top)
        f = round(min(f + step, max(edge, f + 1e-3)) if f + step > edge else f + step, 4)
    return out + [float(top)]


def pair_csv(run, name, class_name, top, link="channel", cable=None, excess=0.0, next_spare=7.0,
             fault="none"):
    """Loss, return loss, NEXT and ACR-F of all pairs, as a tester would write them."""
    rng = random.Random(run["label"] + name)
    frequencies = tester_grid(top)
    loss = model_loss(run, frequencies, link == "channel", cable)
    columns = {}
    for i, pair in enumerate(PAIRS):
        lay = 1 + 0.004 * i  # the pairs' lays differ: so do their lengths
        columns[f"IL {pair} (dB)"] = [v * lay * (1 + excess) + rng.gauss(0, 0.08) for v in loss]
    curves = {p: limit(class_name, link, p, frequencies) for p in ("return-loss", "next", "acr-f")}
    add = lambda curve, spare: [a + b for a, b in zip(curves[curve], ripple(rng, frequencies, spare))]
    for pair in PAIRS:
        columns[f"RL {pair} (dB)"] = add("return-loss", 6.0)
    for i, a in enumerate(PAIRS):
        for b in PAIRS[i + 1:]:
            spare = next_spare if (a, b) == ("3-6", "4-5") else 7.5
            columns[f"NEXT {a}/{b} (dB)"] = add("next", spare)
            columns[f"ACR-F {a}/{b} (dB)"] = add("acr-f", 7.0)
    lines = [f"# {NOTE}", f"# run {run['label']}, {link}; fault: {fault}",
             ",".join(["Frequency (MHz)"] + list(columns))]
    for k, f in enumerate(frequencies):
        lines.append(",".join([f"{f:.2f}"] + [f"{c[k]:.{2 if h.startswith('IL') else 1}f}"
                                              for h, c in columns.items()]))
    return write(name, "\n".join(lines) + "\n")


def two_port(run, ports, name, reference, frequencies, delay_nvp, return_loss=24.0,
             fault="none", excess=0.0):
    """One coax as .s2p, or one pair as the four single-ended ports of its differential two-port."""
    rng = random.Random(run["label"] + name)
    loss = model_loss(run, frequencies, channel=ports == 2)
    length = sum(s["lengthM"] for s in run["stretches"])
    head = [f"! {NOTE}", f"! run {run['label']}; fault: {fault}", f"# MHZ S RI R {reference}"]
    rows = []
    for f, db in zip(frequencies, loss):
        noisy = db * (1 + excess) + rng.gauss(0, 0.05)
        through = 10 ** (-noisy / 20) * cmath.exp(-2j * math.pi * f * 1e6 * length / (delay_nvp * 299792458))
        near = 10 ** (-(return_loss + rng.gauss(0, 1.5)) / 20) * cmath.exp(2j * math.pi * rng.random())
        far = 10 ** (-(return_loss + rng.gauss(0, 1.5)) / 20) * cmath.exp(2j * math.pi * rng.random())
        if ports == 2:
            matrix = [near, through, through, far]
        else:
            # Each differential value as half on the straight path and minus half across, with the
            # common mode matched and passed on without loss of shape.
            def block(d, c):
                return [[(c + d) / 2, (c - d) / 2], [(c - d) / 2, (c + d) / 2]]
            n, t, e = block(near, 0), block(through, through * 0.3), block(far, 0)
            matrix = [*n[0], *t[0], *n[1], *t[1], *t[0], *e[0], *t[1], *e[1]]
        rows.append(f"{f:.3f} " + " ".join(f"{v.real:.5f} {v.imag:.5f}" for v in matrix))
    return write(name, "\n".join(head + rows) + "\n")


def write(name, text):
    path = HERE / "measured" / name
    path.write_text(text, encoding="utf-8")
    return name


def ident(text):
    return hashlib.sha256(text.encode()).hexdigest()[:16]


ROOMS = [("FD", "Front desk"), ("SL", "Sail loft"), ("MS", "Machine shop"), ("SO", "Slip office"),
         ("CR", "Chart room"), ("RF", "Roof"), ("PR", "Plant room")]
runs, measurements, files = [], [], {}

# The plan: metres right of and below the corner of a sheet of 68 by 44 m, drawn here by hand.
FLOORS = [("Cellar", -3.0, 2.4, 0.0), ("Main floor", 0.0, 2.8, 0.6), ("Roof", 4.2, 2.5, 0.0)]
OUTLINES = {"SL": (2, 2, 24, 18), "MS": (24, 2, 62, 18), "SO": (2, 24, 14, 40),
            "PR": (14, 24, 22, 40), "CR": (22, 24, 42, 40), "FD": (42, 24, 62, 40)}
PATHWAYS = [  # name, kind, floor, height, warmth, points, more
    ("main tray", "tray", "Main floor", 2.9, 24, [(4, 21), (60, 21)], {}),
    ("tray to the plant room", "tray", "Main floor", 2.9, 24, [(18, 21), (18, 28)], {}),
    ("tray past the motors", "tray", "Main floor", 2.9, 38, [(60, 21), (60, 8), (38, 8)], {}),
    ("tray over the machine shop", "tray", "Main floor", 2.9, 31,
     [(27, 21), (27, 8), (11, 8), (11, 18)], {}),
    ("conduit to the lathe", "conduit", "Main floor", 2.9, 38, [(40, 21), (40, 15)],
     {"boreMm": 17, "cornerRadiusMm": 102, "around": "conduit"}),
    ("outside wall", "outdoors", "Main floor", 2.9, 30, [(60, 21), (65, 21), (65, 40)], {}),
    ("quay wall", "outdoors", "Main floor", 2.9, 30, [(4, 21), (1, 21), (1, 42), (50, 42)], {}),
    ("riser shaft", "shaft", "Cellar", 0, 24, [(18, 28)], {"toFloorId": "Roof"}),
    ("cellar hooks", "hooks", "Cellar", 2.2, 18, [(4, 28), (18, 28)],
     {"perHook": 50, "supportM": 1.5}),
    ("roof way", "outdoors", "Roof", 0.3, 35, [(18, 28), (18, 10), (30, 10)], {})]
MAINS = [  # name, kind, height, kVA, enclosed, points
    ("230 V feeder", "circuit", 2.9, 15, True, [(42, 21.04), (51, 21.04)]),
    ("lathe motor", "motor", 1.0, 4, False, [(43, 12)]),
    ("hoist motor", "motor", 2.4, 4, False, [(56, 8.7)]),
    ("lighting circuit", "circuit", 3.0, 1.4, False, [(30, 2.5), (30, 39)])]
SURFACES = [  # name, kind, room, fire minutes, closes, points
    ("fire wall", "wall", "", 60, "", [(33, 18), (33, 24)]),
    ("sail loft wall", "wall", "SL", 0, "2026-11-26", [(2, 18), (24, 18)]),
    ("chart room ceiling", "ceiling", "CR", 0, "2026-12-03", [])]
PLACES = {  # name: kind, floor, room, x, y, height, ports, access
    "Panel A": ("panel", "Main floor", "PR", 18, 28, 1.5, 24, "easy"),
    "Block 1": ("block", "Main floor", "PR", 20, 28, 1.5, 25, "easy"),
    "splitter shelf": ("splitter-shelf", "Main floor", "PR", 16, 28, 1.8, 4, "ladder"),
    "multiswitch": ("splitter-shelf", "Main floor", "PR", 16, 31, 1.8, 4, "ladder"),
    "patch bay": ("panel", "Main floor", "PR", 20, 31, 1.5, 8, "easy"),
    "door controller": ("controller", "Main floor", "PR", 21.5, 26, 1.6, 1, "easy"),
    "demarcation jack": ("demarcation", "Cellar", "", 4, 28, 1.2, 2, "easy"),
    "VHF set": ("radio-shelf", "Main floor", "PR", 15, 33, 1.2, 1, "easy"),
    "router": ("device", "Main floor", "PR", 19, 30, 1.5, 1, "easy"),
    "front desk, left": ("outlet", "Main floor", "FD", 47, 24, 0.3, 2, "easy"),
    "front desk, right": ("outlet", "Main floor", "FD", 52, 24, 0.3, 2, "behind-furniture"),
    "front desk, television": ("outlet", "Main floor", "FD", 57, 24, 1.8, 1, "ladder"),
    "bench wall, left": ("outlet", "Main floor", "SL", 6, 18, 0.9, 2, "easy"),
    "bench wall, right": ("outlet", "Main floor", "SL", 11, 18, 0.9, 3, "easy"),
    "sail loft, screen": ("outlet", "Main floor", "SL", 16, 18, 1.8, 1, "ladder"),
    "cutting table": ("outlet", "Main floor", "SL", 20, 18, 0.3, 2, "easy"),
    "lathe, drop box": ("outlet", "Main floor", "MS", 40, 15, 1.1, 1, "behind-furniture"),
    "mill, drop box": ("outlet", "Main floor", "MS", 46, 9, 1.1, 1, "behind-furniture"),
    "tool crib": ("outlet", "Main floor", "MS", 56, 5, 0.3, 3, "easy"),
    "machine shop door": ("device", "Main floor", "MS", 39, 18, 1.2, 1, "easy"),
    "slip desk": ("outlet", "Main floor", "SO", 5, 24, 0.3, 3, "easy"),
    "slip office, window": ("outlet", "Main floor", "SO", 11, 24, 0.3, 2, "behind-furniture"),
    "slip door": ("device", "Main floor", "SO", 13, 24, 1.2, 1, "easy"),
    "slipway camera": ("device", "Main floor", "", 1, 36, 2.9, 1, "height"),
    "quay kiosk, television": ("outlet", "Main floor", "", 47, 42, 1.8, 1, "outdoors"),
    "chart table": ("outlet", "Main floor", "CR", 27, 24, 0.3, 3, "easy"),
    "chart room, east": ("outlet", "Main floor", "CR", 37, 24, 0.3, 3, "easy"),
    "chart room door": ("device", "Main floor", "CR", 24, 24, 1.2, 1, "easy"),
    "plant room, bench": ("outlet", "Main floor", "PR", 18, 24, 0.9, 1, "easy"),
    "mast, aerial": ("device", "Roof", "", 30, 10, 4.0, 1, "height"),
    "television aerial": ("device", "Roof", "", 24, 10, 2.0, 1, "height"),
    "satellite head": ("device", "Roof", "", 20, 10, 1.0, 1, "outdoors"),
    "roof camera": ("device", "Roof", "", 28, 10, 1.5, 1, "outdoors")}
ENDS = {  # run: near end, far end
    "FD-D01": ("Panel A", "front desk, left"), "FD-D02": ("Panel A", "front desk, left"),
    "FD-D03": ("Panel A", "front desk, right"), "FD-V01": ("Block 1", "front desk, right"),
    "FD-C01": ("splitter shelf", "front desk, television"),
    "SL-D01": ("Panel A", "bench wall, left"), "SL-D02": ("Panel A", "bench wall, right"),
    "SL-D03": ("Panel A", "bench wall, right"), "SL-D04": ("Panel A", "cutting table"),
    "SL-D05": ("Panel A", "cutting table"), "SL-V01": ("Block 1", "bench wall, left"),
    "SL-C01": ("multiswitch", "sail loft, screen"),
    "MS-D01": ("Panel A", "lathe, drop box"), "MS-D02": ("Panel A", "mill, drop box"),
    "MS-D03": ("Panel A", "tool crib"), "MS-D04": ("Panel A", "tool crib"),
    "MS-V01": ("Block 1", "tool crib"), "MS-R01": ("door controller", "machine shop door"),
    "SO-D01": ("Panel A", "slip desk"), "SO-D02": ("Panel A", "slip desk"),
    "SO-D03": ("Panel A", "slip office, window"), "SO-V01": ("Block 1", "slip desk"),
    "SO-R01": ("machine shop door", "slip door"), "SO-C01": ("splitter shelf", "quay kiosk, television"),
    "SO-S01": ("patch bay", "slipway camera"), "CR-D01": ("Panel A", "chart table"),
    "CR-D02": ("Panel A", "chart room, east"), "CR-D03": ("Panel A", "chart room, east"),
    "CR-V01": ("Block 1", "chart room, east"), "CR-C01": ("splitter shelf", "chart table"),
    "CR-C02": ("splitter shelf", "chart table"), "CR-R01": ("slip door", "chart room door"),
    "CR-T01": ("demarcation jack", "router"), "PR-D01": ("Panel A", "plant room, bench"),
    "RF-A01": ("VHF set", "mast, aerial"), "RF-C01": ("television aerial", "splitter shelf"),
    "RF-C02": ("satellite head", "multiswitch"), "RF-D01": ("Panel A", "roof camera")}


VIAS = {label: [{"floorId": hashlib.sha256(b"floor Main floor").hexdigest()[:16], "at": [11, 8]}]
        for label in ("SL-D02", "SL-D03")}  # the short way along the bench wall is full
VIAS["SO-C01"] = [{"floorId": hashlib.sha256(b"floor Main floor").hexdigest()[:16], "at": [1, 42]}]


def place_json(name, kind, floor, room, x, y, height, ports, access):
    return {"id": ident("place " + name), "name": name, "kind": kind,
            "floorId": ident("floor " + floor), "roomId": ident("room " + room) if room else "",
            "at": [x, y], "heightM": height, "ports": ports, "access": access}


def pathway_json(name, kind, floor, height, warmth, points, more):
    more = dict(more)
    if "toFloorId" in more:
        more["toFloorId"] = ident("floor " + more["toFloorId"])
    return {"id": ident("pathway " + name), "name": name, "kind": kind,
            "floorId": ident("floor " + floor), "points": [list(p) for p in points],
            "heightM": height, "temperatureC": warmth, **more}


def plan_json():
    return {
        "floors": [{"id": ident("floor " + n), "name": n, "order": i, "elevationM": e, "ceilingM": c,
                    "voidM": v, "widthM": 68.0, "depthM": 44.0}
                   for i, (n, e, c, v) in enumerate(FLOORS)],
        "places": [place_json(n, *p) for n, p in PLACES.items()],
        "pathways": [pathway_json(*p) for p in PATHWAYS],
        "mains": [{"id": ident("mains " + n), "name": n, "kind": k,
                   "floorId": ident("floor Main floor"), "points": [list(p) for p in points],
                   "heightM": h, "kva": kva, "enclosed": e}
                  for n, k, h, kva, e, points in MAINS],
        "surfaces": [{"id": ident("surface " + n), "name": n, "kind": k,
                      "floorId": ident("floor Main floor"),
                      "roomId": ident("room " + room) if room else "",
                      "points": [list(p) for p in points], "fireMinutes": fire,
                      **({"closesOn": closes} if closes else {})}
                     for n, k, room, fire, closes, points in SURFACES],
        "photographs": []}


def room_json(i, letters, name):
    out = {"id": ident("room " + letters), "letters": letters, "name": name, "tape": i, "order": i}
    if letters in OUTLINES:
        x, y, right, bottom = OUTLINES[letters]
        out |= {"floorId": ident("floor Main floor"),
                "outline": [[x, y], [right, y], [right, bottom], [x, bottom]]}
    return out


def laid(labels):
    """What the plan makes of the runs that follow it: their stretches, as burin-cli finds them."""
    with tempfile.TemporaryDirectory() as folder:
        bare = [{"id": ident(label), "roomId": ident("room " + label.split("-")[0]), "label": label,
                 "order": 0, "serviceId": "1g", "cableId": "cat6-utp", "nearEnd": "", "farEnd": "",
                 "stretches": [], "cords": [], "connections": [],
                 "followsPlan": True, "vias": VIAS.get(label, []), "nearPlaceId": ident("place " + ENDS[label][0]),
                 "farPlaceId": ident("place " + ENDS[label][1])} for label in labels]
        job = {"info": INFO, "rooms": [room_json(i, *r) for i, r in enumerate(ROOMS)], "runs": bare,
               "measurements": [], "cables": [], **plan_json()}
        path = Path(folder) / "plan.json"
        path.write_text(json.dumps({"format": "burin-job", "version": 5, "job": job, "files": []}))
        cli("import", str(path), f"{folder}/plan.burin")
        found = cli("findings", f"{folder}/plan.burin")
        return {r["label"]: [(s["name"], s["lengthM"], s["temperatureC"], s["bundle"] - 1)
                             for s in r["route"]["stretches"]] for r in found["runs"]}


INFO = {"id": "job", "name": "Kittiwake Wharf", "limitSet": "iso", "bundleSchool": "guideline",
        "wiring": "T568B",
        "accuracy": {"lossDb": 0.5, "lossShare": 0.02, "crosstalkDb": 1.5, "crosstalkAtTopDb": 3.0,
                     "returnLossDb": 1.5, "lengthM": 0.5, "lengthShare": 0.01,
                     "resistanceOhm": 0.3, "resistanceShare": 0.01, "delayNs": 10.0}}
LAID = laid(ENDS)


def run(label, service, cable, near, far, *stretches, cords=(3, 3), connection=None, **more):
    """Without stretches the plan measures it; with `over`, by way of that pathway's corners."""
    letters = label.split("-")[0]
    cable_cords = cable.startswith("cat")
    if not stretches:  # the plan measures it: see LAID
        more["followsPlan"] = True
        if label in VIAS:
            more["vias"] = VIAS[label]
        stretches = LAID.get(label, [])
    near_id, far_id = ENDS.get(label, ("", ""))
    if near_id:
        more |= {"nearPlaceId": ident("place " + near_id), "farPlaceId": ident("place " + far_id)}
    runs.append({
        "id": ident(label), "roomId": ident("room " + letters), "label": label,
        "order": len(runs), "serviceId": service, "cableId": cable, "nearEnd": near, "farEnd": far,
        "stretches": [dict(zip(("name", "lengthM", "temperatureC", "neighbours"), s))
                      for s in stretches],
        "cords": [{"end": end, "cableId": cable, "lengthM": metres}
                  for end, metres in zip(("near", "far"), cords) if metres] if cable_cords else [],
        "connections": [{"end": end, "connectionId": connection} for end in ("near", "far")]
        if connection else [], **more})
    return runs[-1]


def measured(of, name=None, when="2026-10-05T09:00:00.000", link="channel", pair="", tester=None):
    hash_ = ""
    if name:
        data = (HERE / "measured" / name).read_bytes()
        hash_ = hashlib.sha256(data).hexdigest()
        files[hash_] = (name, data)
    measurements.append({
        "id": ident(of["label"] + when + (name or "typed")), "runId": of["id"], "takenAt": when,
        "link": link, "pair": pair, "fileName": name or "", "fileHash": hash_, "frequencyUnit": "",
        "columns": "", "tester": tester or {}})


def whole(**more):
    return {"wireMap": {"farPin": [1, 2, 3, 4, 5, 6, 7, 8], "shortGroups": " " * 8}, **more}


grid = lambda top, step: [1 + step * i for i in range(int((top - 1) / step) + 1)]

a = run("FD-D01", "1g", "cat6-utp", "Panel A port 01", "desk, left jack", connection="conn-cat6")
measured(a, pair_csv(a, "FD-D01-before.csv", "E", 250, next_spare=-4.0,
                     fault="40 mm untwisted at the jack: NEXT of 3-6/4-5 worse"),
         "2026-10-05T09:10:00.000")
measured(a, pair_csv(a, "FD-D01-after.csv", "E", 250, fault="none: re-terminated"),
         "2026-10-05T10:02:00.000")
a = run("FD-V01", "voice", "cat3-utp", "Block 1 pair 4", "desk, telephone", cords=(0, 2), connection="conn-cat3")
measured(a, when="2026-10-05T09:20:00.000", tester=whole(lengthM=55.6, loopOhm=9.4))

a = run("FD-C01", "tv", "coax-s6", "splitter shelf", "desk, television", connection="f-compression", headLevel=66.0)
measured(a, two_port(a, 2, "FD-C01.s2p", 75, grid(1001, 4), 0.83))

a = run("SL-D01", "10g", "cat6a-utp", "Panel A port 05", "bench wall, left jack",
        ("riser shaft", 12, 24, 5), ("tray", 21, 31, 23), ("wall drop", 9, 20, 1),
        connection="conn-cat6a")
measured(a, pair_csv(a, "SL-D01.csv", "EA", 500))
a = run("SL-D02", "10g", "cat6a-utp", "Panel A port 06", "bench wall, right jack", connection="conn-cat6a")
open5 = whole(lengthM=67.9, negotiatedMbit=100)
open5["wireMap"]["farPin"][4] = 0
measured(a, when="2026-10-05T11:00:00.000", tester=open5)
a = run("SL-D03", "10g", "cat6-utp", "Panel A port 07", "bench wall, middle jack", connection="conn-cat6")
a = run("SL-C01", "sat-if", "coax-s6", "multiswitch output 3", "sail loft, screen", connection="f-compression", headLevel=72.0)
measured(a, two_port(a, 2, "SL-C01.s2p", 75, grid(2201, 4), 0.83))

a = run("MS-D01", "10g", "cat6a-futp", "Panel A port 11", "lathe, drop box", connection="conn-cat6a-s")
measured(a, pair_csv(a, "MS-D01.csv", "EA", 500))
a = run("MS-D02", "10g", "cat6a-futp", "Panel A port 12", "mill, drop box", connection="conn-cat6a-s")
measured(a, pair_csv(a, "MS-D02.csv", "EA", 500, next_spare=3.4,
                     fault="a jack with a little too much untwist: NEXT of 3-6/4-5 near its limit"))
run("MS-R01", "rs485", "bus-120", "door controller", "machine shop door", cords=(0, 0), connection="screw")

a = run("SO-D01", "10g", "cat6a-utp", "Panel A port 15", "slip desk", connection="conn-cat6a")
measured(a, pair_csv(a, "SO-D01.csv", "EA", 500, cable="cat5e-utp", next_spare=-7.0,
                     fault="a Cat 5e cable was pulled instead of Cat 6A"))
run("SO-R01", "rs485", "bus-120", "machine shop door", "slip door", cords=(0, 0), connection="screw")
run("SO-C01", "tv", "coax-s6", "splitter shelf", "quay kiosk, television", connection="f-compression")
a = run("SO-S01", "sdi-2970", "coax-s59", "patch bay 2", "slipway camera", connection="bnc")
measured(a, two_port(a, 2, "SO-S01.s2p", 75, grid(2991, 0.8), 0.83, return_loss=27.0))

a = run("CR-D01", "10g", "cat6a-utp", "Panel A port 19", "chart table", connection="conn-cat6a")
measured(a, two_port(a, 4, "CR-D01-12.s4p", 50, grid(500, 0.8), 0.67),
         link="permanent", pair="1-2")
a = run("CR-C01", "tv", "coax-s6", "splitter shelf", "chart table, television", connection="f-compression", headLevel=66.0)
measured(a, two_port(a, 2, "CR-C01.s2p", 75, grid(1001, 4), 0.83))
run("CR-R01", "rs485", "bus-120", "slip door", "chart room door", cords=(0, 0), connection="screw")
run("CR-T01", "t1", "cat6-utp", "demarcation jack", "router", cords=(2, 2), connection="conn-cat6")

a = run("RF-A01", "feedline", "coax-ll10", "VHF set", "mast, aerial", connection="n", lossBudgetDb=3.5, bandFromMhz=156.0, bandToMhz=162.5, powerW=25, loadRatio=1.6)
measured(a, two_port(a, 2, "RF-A01.s2p", 50, grid(200, 0.5), 0.85))

run("RF-C01", "tv", "coax-s11-quad", "television aerial", "splitter shelf", connection="f-compression-11")
run("RF-C02", "sat-if", "coax-sat46", "satellite head", "multiswitch", connection="f-compression")

# Runs that follow the plan: no stretches of their own.
DATA = [("FD-D02", "1g", "cat6-utp", 2, "desk, left jack 2", "E", 250),
        ("FD-D03", "1g", "cat6-utp", 3, "desk, right jack", "E", 250),
        ("SL-D04", "10g", "cat6a-utp", 8, "cutting table, left jack", "EA", 500),
        ("SL-D05", "10g", "cat6a-utp", 9, "cutting table, right jack", "EA", 500),
        ("MS-D03", "10g", "cat6a-futp", 13, "tool crib, left jack", "EA", 500),
        ("MS-D04", "10g", "cat6a-futp", 14, "tool crib, right jack", "EA", 500),
        ("SO-D02", "1g", "cat6-utp", 16, "slip desk, second jack", "E", 250),
        ("SO-D03", "1g", "cat6-utp", 17, "window, left jack", "E", 250),
        ("CR-D02", "10g", "cat6a-utp", 20, "east wall, left jack", "EA", 500),
        ("CR-D03", "10g", "cat6a-utp", 21, "east wall, right jack", "EA", 500),
        ("PR-D01", "1g", "cat6-utp", 23, "bench", "E", 250),
        ("RF-D01", "1g", "cat6-utp", 24, "roof camera", "E", 250)]
for i, (label, service, cable, port, far, class_name, top) in enumerate(DATA):
    a = run(label, service, cable, f"Panel A port {port:02}", far,
            connection="conn-cat6a-s" if "futp" in cable else "conn-cat6a" if "6a" in cable else "conn-cat6")
    measured(a, pair_csv(a, label + ".csv", class_name, top),
             f"2026-10-06T{9 + i // 4:02}:{10 + 10 * (i % 4)}:00.000")
for i, (label, pair, far, metres) in enumerate([("SL-V01", 5, "bench wall, telephone", None),
                                                ("MS-V01", 6, "tool crib, telephone", None),
                                                ("SO-V01", 7, "slip desk, telephone", None),
                                                ("CR-V01", 8, "east wall, telephone", None)]):
    a = run(label, "voice", "cat3-utp", f"Block 1 pair {pair}", far, cords=(0, 2),
            connection="conn-cat3")
    length = sum(s["lengthM"] for s in a["stretches"])
    measured(a, when=f"2026-10-06T13:{10 + 10 * i}:00.000",
             tester=whole(lengthM=round(length + 2.2, 1), loopOhm=round(0.168 * length + 0.4, 1)))
a = run("CR-C02", "tv", "coax-s6", "splitter shelf", "chart table, second television",
        connection="f-compression", headLevel=66.0)
measured(a, two_port(a, 2, "CR-C02.s2p", 75, grid(1001, 4), 0.83, return_loss=9.0, excess=4.5,
                     fault="water in the cable"))


def part(kind, of=None, behind="", **figures):
    label = of or figures.pop("name")
    name = figures.pop("name", "")
    return {"id": ident("part " + kind + label), "name": name or ("" if kind == "outlet" else label),
            "from": ident("part " + behind) if behind else "", "runId": ident(of) if of else "",
            "part": kind, **figures}


def device(name, of=None, **figures):
    return {"name": name, "runId": ident(of) if of else "", "stubM": 0, "unitLoads": 1,
            "picofarad": 50, "screwTerminals": True, "ampere": 0, "strikeAmpere": 0, "leastV": 0,
            **figures}


distributions = [
    {"id": ident("television"), "name": "television", "serviceId": "tv", "headLevel": 74.0,
     "slopeDb": 0.0, "channels": 30, "headOutputs": 0, "headAmpere": 0.25, "parts": [
         part("splitter", "RF-C01", name="splitter shelf", ways=4, terminators=0),
         *(part("outlet", label, "splitterRF-C01") for label in ("FD-C01", "CR-C01", "SO-C01", "CR-C02"))]},
    {"id": ident("satellite"), "name": "satellite", "serviceId": "sat-if", "headLevel": 78.0,
     "slopeDb": -2.0, "channels": 40, "headOutputs": 4, "headAmpere": 0.25, "parts": [
         part("multiswitch", "RF-C02", name="multiswitch", ways=4, throughDb=2.0, terminators=3),
         part("outlet", "SL-C01", "multiswitchRF-C02")]}]
reader = {"ampere": 0.12, "leastV": 10.8, "mostV": 15.0}
buses = [
    {"id": ident("doors"), "name": "door readers", "riseNs": 20.0, "bitRateKbit": 9.6,
     "supplyV": 13.6, "supplyToleranceShare": 0.05, "supplyPairs": 1, "devices": [
         device("door controller", terminatorOhm=120.0),
         device("machine shop door", "MS-R01", **reader),
         device("slip door", "SO-R01", **reader),
         device("chart room door", "CR-R01", terminatorOhm=120.0, **reader)]}]

job = {
    "info": INFO, "rooms": [room_json(i, *room) for i, room in enumerate(ROOMS)],
    "runs": runs, "measurements": measurements, "cables": [],
    "distributions": distributions, "buses": buses, **plan_json()}
for each in runs:  # what the plan lays is found, not kept
    if each.get("followsPlan"):
        each["stretches"] = []
out = {"format": "burin-job", "version": 5, "job": job,
       "files": [{"hash": h, "name": n, "base64": base64.b64encode(d).decode()}
                 for h, (n, d) in sorted(files.items())]}
(HERE / "kittiwake.json").write_text(json.dumps(out, indent=2, ensure_ascii=False) + "\n",
                                     encoding="utf-8")
print(f"{len(runs)} runs, {len(measurements)} tests, {len(files)} files")
for step in ("pulls.py", "ends.py"):
    subprocess.run([sys.executable, str(HERE / step), CLI], check=True)
