#!/usr/bin/env python3
"""Holds `burin-cli bus` against ngspice on lossless lines: every device's volts within 2 % of the
swing, for ten circuits, two of them badly terminated and two with long stubs. Ends with 77 where
ngspice is missing.

Usage: bus_waveform.py path/to/burin-cli
"""
import csv
import json
import os
import shutil
import subprocess
import sys
import tempfile

try:
    import numpy as np
except ImportError as missing:
    print(f"skipped: {missing}")
    sys.exit(77)
if shutil.which("ngspice") is None:
    print("skipped: ngspice is not installed")
    sys.exit(77)

C0 = 299792458.0
# Every echo of an echo would be a breakpoint of its own: the step is small enough without them.
CALM = "rel=100 abs=100"


def line(z=120, v=0.66):
    return {"impedanceOhm": z, "velocity": v, "lossDbPer100m": 0}


def bus(lengths, ends=(120, 120), stub=0.0, z=120, rise=20, kbit=1000, driver=0, middle=None,
        farads=0, loads=1, stub_z=None):
    nodes = [{"name": "n0", "unitLoads": loads, "picofarad": farads}]
    for i, length in enumerate(lengths):
        node = {"name": f"n{i + 1}", "line": line(z), "lengthM": length, "unitLoads": loads,
                "picofarad": farads}
        if stub and i + 1 < len(lengths):
            node["stub"] = dict(line(stub_z or z), lengthM=stub)
        nodes.append(node)
    if ends[0]:
        nodes[0]["terminatorOhm"] = ends[0]
    if ends[1]:
        nodes[-1]["terminatorOhm"] = ends[1]
    if middle:
        nodes[middle]["terminatorOhm"] = 120
    return {"driver": f"n{driver}", "driverV": 3, "sourceOhm": 40, "riseNs": rise,
            "bitRateKbit": kbit, "nodes": nodes}


CIRCUITS = {
    "two ends": bus([40]),
    "five readers": bus([10, 12, 8, 15, 20]),
    "open far end": bus([30, 25], ends=(120, None)),
    "no terminators": bus([20, 10, 5], ends=(None, None)),
    "long stubs": bus([15, 15, 15], stub=6),
    "long stubs of 100 ohm": bus([10, 20, 10, 20], stub=9, stub_z=100),
    "driver inside": bus([25, 35, 10], driver=2),
    "100 ohm cable": bus([30, 40], z=100),
    "slow edge, capacitance": bus([5, 5, 5, 5], rise=100, farads=50, loads=4),
    "terminator in the middle": bus([20, 20, 20], middle=1),
}


def netlist(b, stop_ns, out):
    rows = ["* bus"]
    rise = b["riseNs"]
    swing = b["driverV"]
    rows.append(f"Vs src 0 PWL(0 {-swing} {rise}n {swing} 1 {swing})")
    step = rise / 40
    for i, node in enumerate(b["nodes"]):
        if i:
            td = node["lengthM"] / (node["line"]["velocity"] * C0)
            rows.append(f"T{i} c{i - 1} 0 c{i} 0 Z0={node['line']['impedanceOhm']} TD={td:.9e} {CALM}")
        device = f"c{i}"
        if "stub" in node:
            td = node["stub"]["lengthM"] / (node["stub"]["velocity"] * C0)
            rows.append(f"TS{i} c{i} 0 d{i} 0 Z0={node['stub']['impedanceOhm']} TD={td:.9e} {CALM}")
            device = f"d{i}"
        rows.append(f"RL{i} {device} 0 {12000 / node['unitLoads']}")
        if node["picofarad"]:
            rows.append(f"CL{i} {device} 0 {node['picofarad']}p")
        if "terminatorOhm" in node:
            rows.append(f"RT{i} c{i} 0 {node['terminatorOhm']}")
        node["device"] = device
        if node["name"] == b["driver"]:
            rows.append(f"RS src {device} {b['sourceOhm']}")
    names = " ".join(f"v({n['device']})" for n in b["nodes"])
    rows += [f".tran {step}n {stop_ns}n 0 {step}n", ".control", "run",
             f"wrdata {out} {names}", ".endc", ".end"]
    return "\n".join(rows) + "\n"


worst = 0.0
with tempfile.TemporaryDirectory() as folder:
    for name, b in CIRCUITS.items():
        json.dump({k: v for k, v in b.items()}, open(f"{folder}/b.json", "w"))
        subprocess.run([sys.argv[1], "bus", f"{folder}/b.json", "--out", f"{folder}/b.csv"],
                       check=True, capture_output=True)
        rows = list(csv.reader(open(f"{folder}/b.csv")))
        ours = np.array([[float(x) for x in row] for row in rows[1:]])
        stop = ours[-1, 0]
        open(f"{folder}/b.cir", "w").write(netlist(b, stop, f"{folder}/b.dat"))
        # ngspice ends in 1 after a control block without a plot; what it wrote is what counts.
        subprocess.run(["ngspice", "-b", f"{folder}/b.cir"], capture_output=True, timeout=60,
                       env=dict(os.environ, HOME=folder))
        data = np.loadtxt(f"{folder}/b.dat")
        off = 0.0
        for i in range(len(b["nodes"])):
            theirs = np.interp(ours[:, 0], data[:, 2 * i] * 1e9, data[:, 2 * i + 1])
            swing = theirs[-1] - theirs[0]
            off = max(off, np.abs(theirs - ours[:, i + 1]).max() / abs(swing))
        worst = max(worst, off)
        print(f"{'ok ' if off < 0.02 else 'BAD'} {name}: {100 * off:.2f} % of the swing over "
              f"{stop:.0f} ns")
print(f"{len(CIRCUITS)} circuits: at most {100 * worst:.2f} %")
sys.exit(0 if worst < 0.02 else 1)
