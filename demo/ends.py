#!/usr/bin/env python3
"""Adds tools, and the ends that were made with them, to demo/kittiwake.json as demo/pulls.py leaves it.

The blades of the coax stripper were three weeks over their time when FD-C01 was ended: one try was
spoiled, and the far end was made with them; then new ones went in. Panel A is half written down, the
splitter shelf is half made; the pin at the quay kiosk (SO-C01) came out too long, so that end is to be
made again; the aerial at the mast is soldered, and its insulation not yet checked.

Usage: demo/ends.py path/to/burin-cli
"""
import json

from asking import JOB, Asking, ident

# name: kind, days that new blades went in, days it was held against its gauge
TOOLS = {
    "S1": ("stripper", ["2026-08-05", "2026-11-25"], []),
    "S2": ("stripper", ["2026-09-14"], []),
    "P1": ("punch-down", ["2026-08-28"], []),
    "C1": ("compression", [], ["2026-03-02"]),
    "K1": ("crimp", [], []),
    "I1": ("iron", [], []),
}
RIGGER, FIXER = "rigger", "second fixer"
GOOD = {"flush": None, "pin": 2.4, "open": None, "pull": None}
# run, end, connection, day, who, stripped with, closed with, spoiled, checks, note
ENDS = [
    ("FD-C01", "near", "f-compression", "2026-11-24", FIXER, "S1", "C1", True, {},
     "strand across to the centre"),
    ("FD-C01", "near", "f-compression", "2026-11-24", FIXER, "S1", "C1", False, GOOD, ""),
    ("FD-C01", "far", "f-compression", "2026-11-24", FIXER, "S1", "C1", False, {}, ""),
    ("CR-C01", "near", "f-compression", "2026-11-25", FIXER, "S1", "C1", False, GOOD, ""),
    ("CR-C02", "near", "f-compression", "2026-11-25", FIXER, "S1", "C1", False, GOOD, ""),
    ("SO-C01", "far", "f-compression", "2026-11-25", RIGGER, "S1", "C1", False,
     {"flush": None, "pin": 3.9, "open": None}, ""),
    ("RF-A01", "far", "uhf", "2026-11-25", RIGGER, "S1", "I1", False,
     {"holes": None, "centre": None}, ""),
    ("MS-R01", "near", "screw", "2026-11-25", FIXER, "S2", "K1", False,
     {}, "ferrules on, screen to earth here alone"),
]
PANEL = ["FD-D01", "FD-D02", "FD-D03", "SL-D01", "SL-D02", "SL-D04", "SL-D05", "MS-D01", "MS-D02",
         "MS-D03"]
for label in PANEL:
    ENDS.append((label, "near", None, "2026-11-24", FIXER, "S2", "P1",
                 label == "SL-D02", {}, ""))
ENDS.append(("SL-D02", "near", None, "2026-11-24", FIXER, "S2", "P1", False, {}, ""))


def changes(_):
    runs = {r["label"]: r for r in
            json.loads(JOB.read_text(encoding="utf-8"))["job"]["runs"]}
    aerial = next(c for c in runs["RF-A01"]["connections"] if c["end"] == "far")
    out = [{"op": "set", "kind": "connection", "id": aerial["id"], "field": "connectionId",
            "value": "uhf"}]
    for order, (name, (kind, blades, gauged)) in enumerate(TOOLS.items()):
        value = {"id": ident("tool " + name), "name": name, "kind": kind, "bladeDays": 90,
                 "bladeEnds": 300, "gaugeDays": 365, "order": order}
        if blades:
            value["bladesOn"] = blades
        if gauged:
            value["gaugedOn"] = gauged
        out.append({"op": "add", "kind": "tool", "value": value})
    for entry, (label, end, part, day, who, strip, close, spoiled, checks, note) in enumerate(ENDS, 1):
        run = runs[label]
        part = part or next(c["connectionId"] for c in run["connections"] if c["end"] == end)
        value = {"id": ident(f"end {entry} {label} {end}"), "runId": run["id"], "end": end,
                 "connectionId": part, "madeOn": day, "madeBy": who,
                 "stripToolId": ident("tool " + strip), "closeToolId": ident("tool " + close),
                 "entry": entry}
        if spoiled:
            value["spoiled"] = True
        if checks:
            value["checks"] = [{"proofId": proof, "good": True, **({"mm": mm} if mm else {})}
                               for proof, mm in sorted(checks.items())]
        if note:
            value["note"] = note
        out.append({"op": "add", "kind": "termination", "value": value})
    return out


Asking().edited("tools, and ends made with them", changes)
