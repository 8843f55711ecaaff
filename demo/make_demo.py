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


def pair_csv(run, name, class_name, top, link="channel", cable=None, excess=0.0, next_spare=6.0,
             fault="none"):
    """Loss, return loss, NEXT and ACR-F of all pairs, as a tester would write them."""
    rng = random.Random(run["label"] + name)
    frequencies = [1 + (top - 1) * (i / 249) ** 1.6 for i in range(250)]
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
        lines.append(",".join([f"{f:.4f}"] + [f"{c[k]:.2f}" for c in columns.values()]))
    return write(name, "\n".join(lines) + "\n")


def two_port(run, ports, name, reference, frequencies, delay_nvp, return_loss=24.0, fault="none"):
    """One coax as .s2p, or one pair as the four single-ended ports of its differential two-port."""
    rng = random.Random(run["label"] + name)
    loss = model_loss(run, frequencies, channel=ports == 2)
    length = sum(s["lengthM"] for s in run["stretches"])
    head = [f"! {NOTE}", f"! run {run['label']}; fault: {fault}", f"# MHZ S RI R {reference}"]
    rows = []
    for f, db in zip(frequencies, loss):
        noisy = db + rng.gauss(0, 0.05)
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
        rows.append(f"{f:.6f} " + " ".join(f"{v.real:.6f} {v.imag:.6f}" for v in matrix))
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


def run(label, service, cable, near, far, *stretches, cords=(3, 3), connection=None, **more):
    letters = label.split("-")[0]
    cable_cords = cable.startswith("cat")
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

a = run("FD-D01", "1g", "cat6-utp", "Panel A port 01", "desk, left jack", ("riser shaft", 12, 24, 5),
        ("tray", 18, 24, 11), ("wall drop", 8, 20, 1), connection="conn-cat6")
measured(a, pair_csv(a, "FD-D01-before.csv", "E", 250, next_spare=-4.0,
                     fault="40 mm untwisted at the jack: NEXT of 3-6/4-5 worse"),
         "2026-10-05T09:10:00.000")
measured(a, pair_csv(a, "FD-D01-after.csv", "E", 250, fault="none: re-terminated"),
         "2026-10-05T10:02:00.000")
a = run("FD-V01", "voice", "cat3-utp", "Block 1 pair 4", "desk, telephone", ("riser shaft", 12, 24, 5),
        ("tray", 43, 24, 11), cords=(0, 2), connection="conn-cat3")
measured(a, when="2026-10-05T09:20:00.000", tester=whole(lengthM=56.8, loopOhm=9.4))

run("FD-C01", "tv", "coax-s6", "splitter shelf", "desk, television", ("riser shaft", 12, 24, 5),
    ("tray", 30, 24, 11), ("wall drop", 6, 20, 0), connection="f-compression")

a = run("SL-D01", "10g", "cat6a-utp", "Panel A port 05", "bench wall, left jack",
        ("riser shaft", 12, 24, 5), ("tray", 21, 31, 23), ("wall drop", 9, 20, 1),
        connection="conn-cat6a")
measured(a, pair_csv(a, "SL-D01.csv", "EA", 500))
a = run("SL-D02", "10g", "cat6a-utp", "Panel A port 06", "bench wall, right jack",
        ("riser shaft", 12, 24, 5), ("tray over machine shop", 34, 31, 23),
        ("wall drop", 15.5, 20, 1), connection="conn-cat6a")
open5 = whole(lengthM=66.9, negotiatedMbit=100)
open5["wireMap"]["farPin"][4] = 0
measured(a, when="2026-10-05T11:00:00.000", tester=open5)
a = run("SL-D03", "10g", "cat6-utp", "Panel A port 07", "bench wall, middle jack",
        ("riser shaft", 12, 24, 5), ("tray over machine shop", 34, 31, 23),
        ("wall drop", 15.5, 20, 1), connection="conn-cat6")
a = run("SL-C01", "sat-if", "coax-s6", "multiswitch output 3", "sail loft, screen",
        ("riser shaft", 12, 24, 2), ("tray", 14, 31, 23), ("wall drop", 6, 20, 0),
        connection="f-compression", headLevel=72.0)
measured(a, two_port(a, 2, "SL-C01.s2p", 75, grid(2201, 10), 0.83))

a = run("MS-D01", "10g", "cat6a-futp", "Panel A port 11", "lathe, drop box",
        ("riser shaft", 12, 24, 5), ("tray past the motors", 73, 38, 17), ("conduit", 14, 38, 1),
        connection="conn-cat6a")
measured(a, pair_csv(a, "MS-D01.csv", "EA", 500, excess=0.08, fault="none but its length"))
a = run("MS-D02", "10g", "cat6a-futp", "Panel A port 12", "mill, drop box",
        ("riser shaft", 12, 24, 5), ("tray past the motors", 62, 38, 17), ("conduit", 12, 38, 1),
        connection="conn-cat6a")
measured(a, pair_csv(a, "MS-D02.csv", "EA", 500, excess=0.035, fault="3.5 % more loss than the model"))
run("MS-R01", "rs485", "bus-120", "door controller", "machine shop door", ("tray", 22, 31, 17),
    ("wall drop", 6, 20, 1), cords=(0, 0), connection="screw")

a = run("SO-D01", "10g", "cat6a-utp", "Panel A port 15", "slip desk", ("riser shaft", 12, 24, 5),
        ("tray", 66, 28, 11), ("wall drop", 8, 20, 1), connection="conn-cat6a")
measured(a, pair_csv(a, "SO-D01.csv", "EA", 500, cable="cat5e-utp", next_spare=2.5,
                     fault="a Cat 5e cable was pulled instead of Cat 6A"))
run("SO-R01", "rs485", "bus-120", "machine shop door", "slip door", ("outside wall", 41, 20, 0),
    ("wall drop", 5, 20, 0), cords=(0, 0), connection="screw")
run("SO-C01", "tv", "coax-s6", "splitter shelf", "slip office, television",
    ("riser shaft", 12, 24, 5), ("tray", 66, 28, 11), ("wall drop", 21, 20, 0),
    connection="f-compression")
run("SO-S01", "sdi-2970", "coax-s59", "patch bay 2", "slipway camera", ("tray", 30, 28, 11),
    ("outside wall", 24, 20, 0), connection="bnc")

a = run("CR-D01", "10g", "cat6a-utp", "Panel A port 19", "chart table", ("riser shaft", 12, 24, 5),
        ("tray", 16, 28, 11), ("wall drop", 5, 20, 1), connection="conn-cat6a")
measured(a, two_port(a, 4, "CR-D01-12.s4p", 50, grid(500, 0.8), 0.67),
         link="permanent", pair="1-2")
run("CR-C01", "tv", "coax-s6", "splitter shelf", "chart table, television",
    ("riser shaft", 12, 24, 5), ("tray", 16, 28, 11), ("wall drop", 3, 20, 0),
    connection="f-compression")
run("CR-R01", "rs485", "bus-120", "slip door", "chart room door", ("tray", 27, 28, 11),
    ("wall drop", 5, 20, 1), cords=(0, 0), connection="screw")
run("CR-T01", "t1", "cat6-utp", "demarcation jack", "router", ("cellar", 16, 20, 2),
    ("riser shaft", 8, 24, 5), cords=(2, 2), connection="conn-cat6")

a = run("RF-A01", "feedline", "coax-ll10", "VHF set", "mast, aerial", ("riser shaft", 9, 24, 5),
        ("roof", 19, 35, 0), connection="n", lossBudgetDb=3.0, bandFromMhz=156.0, bandToMhz=162.5,
        powerW=25, loadRatio=1.6)
measured(a, two_port(a, 2, "RF-A01.s2p", 50, grid(200, 1), 0.85))

run("RF-C01", "tv", "coax-s11-quad", "television aerial", "splitter shelf", ("roof", 16, 35, 0),
    ("riser shaft", 9, 24, 5), connection="f-compression-11")
run("RF-C02", "sat-if", "coax-sat46", "satellite head", "multiswitch", ("roof", 14, 35, 0),
    ("riser shaft", 9, 24, 5), connection="f-compression")


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
         part("splitter", "RF-C01", name="splitter shelf", ways=4, terminators=1),
         *(part("outlet", label, "splitterRF-C01") for label in ("FD-C01", "CR-C01", "SO-C01"))]},
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
    "info": {"id": "job", "name": "Kittiwake Wharf", "limitSet": "iso", "bundleSchool": "guideline",
             "wiring": "T568B",
             "accuracy": {"lossDb": 0.5, "lossShare": 0.02, "crosstalkDb": 1.5,
                          "crosstalkAtTopDb": 3.0, "returnLossDb": 1.5, "lengthM": 0.5,
                          "lengthShare": 0.01, "resistanceOhm": 0.3, "resistanceShare": 0.01,
                          "delayNs": 10.0}},
    "rooms": [{"id": ident("room " + letters), "letters": letters, "name": name, "tape": i, "order": i}
              for i, (letters, name) in enumerate(ROOMS)],
    "runs": runs, "measurements": measurements, "cables": [],
    "distributions": distributions, "buses": buses}
out = {"format": "burin-job", "version": 2, "job": job,
       "files": [{"hash": h, "name": n, "base64": base64.b64encode(d).decode()}
                 for h, (n, d) in sorted(files.items())]}
(HERE / "kittiwake.json").write_text(json.dumps(out, indent=2, ensure_ascii=False) + "\n",
                                     encoding="utf-8")
print(f"{len(runs)} runs, {len(measurements)} tests, {len(files)} files")
