#!/usr/bin/env python3
"""Adds boxes, and what was pulled from them, to demo/kittiwake.json as demo/make_demo.py leaves it.

Marks are made up: each piece as long as the plan asks, rounded up to a whole spacing, and what is
cut off it is what the plan does not need. CR-T01 came out 0.4 m short at the router, where its box
stood; a mark of FD-V01 was typed wrongly, so that it is half as long again as planned; of the pull to
the sail loft, whose wall closes first, three cables are in and the start of the fourth is noted.

Usage: demo/pulls.py path/to/burin-cli
"""
import json
import math

from asking import Asking, ident

FOOT = 0.3048

# name: cable, box or reel, colour, what it held when it came, unit and spacing of marks, way they
# count, the mark at its free end
BOXES = {
    "A1": ("cat6a-utp", "box", "blue", 305, "ft", 2, True, 412),
    "A2": ("cat6a-utp", "box", "blue", 118, "ft", 2, True, 9806),
    "B1": ("cat6-utp", "box", "grey", 305, "ft", 2, True, 36),
    "B2": ("cat6-utp", "box", "grey", 74, "m", 1, False, 231),
    "F1": ("cat6a-futp", "reel", "blue", 500, "m", 1, True, 1204),
    "F2": ("cat6a-futp", "box", "blue", 128, "m", 1, True, 377),
    "F3": ("cat6a-futp", "box", "blue", 96, "m", 1, False, 2096),
    "V1": ("cat3-utp", "box", "white", 305, "ft", 2, False, 988),
    "C1": ("coax-s6", "box", "black", 152, "m", 1, True, 17),
    "C2": ("coax-s6", "reel", "black", 305, "m", 1, False, 640),
    "S1": ("coax-s59", "reel", "black", 152, "m", 1, True, 208),
    "L1": ("coax-ll10", "reel", "black", 100, "m", 1, True, 0),
    "D1": ("bus-120", "reel", "green", 305, "m", 1, True, 455),
    "K1": ("coax-s11-quad", "reel", "black", 152, "m", 1, True, 903),
}
# What was pulled together, each run from a box of its own; the day; and the end the boxes stood at.
PULLS = [
    ("2026-11-23", "near", {"MS-D01": "F1", "MS-D02": "F2", "MS-D03": "F3"}),
    ("2026-11-23", "near", {"FD-D01": "B1", "FD-D02": "B2", "FD-V01": "V1", "FD-C01": "C1"}),
    ("2026-11-24", "near", {"SO-D01": "A1", "SO-D02": "B1", "SO-S01": "S1"}),
    ("2026-11-24", "near", {"CR-D01": "A1", "CR-C01": "C1"}),
    ("2026-11-24", "far", {"CR-T01": "B1"}),
    ("2026-11-25", "far", {"RF-A01": "L1"}),
    ("2026-11-25", "near", {"PR-D01": "B1"}),
    ("2026-11-25", "near", {"SL-D04": "A1", "SL-D02": "A2", "SL-C01": "C2", "SL-D03": "B1"}),
]
SHORT, MISTYPED, BEGUN = "CR-T01", "FD-V01", "SL-D03"


asking = Asking()


def changes_of(job):
    found = {r["label"]: r for r in json.loads(asking.ask("findings", job))["runs"]}
    changes = []
    for order, (name, box) in enumerate(BOXES.items()):
        cable, kind, colour, held, unit, spacing, up, mark = box
        changes.append({"op": "add", "kind": "box", "value": {
            "id": ident("box " + name), "name": name, "cableId": cable, "kind": kind,
            "colour": colour, "heldM": held, "markUnit": unit, "spacing": spacing,
            "countsUp": up, "freeMark": mark, "order": order}})
    at = {name: box[7] for name, box in BOXES.items()}

    def put(label, field, value):
        changes.append({"op": "set", "kind": "run", "label": label, "field": field,
                        "value": value})

    for number, (day, boxes_at, runs) in enumerate(PULLS):
        row = ident(f"pull {number}")
        changes.append({"op": "add", "kind": "pull",
                        "value": {"id": row, "order": 0, "boxesAt": boxes_at}})
        for label, name in runs.items():
            _, _, _, _, unit, spacing, up, _ = BOXES[name]
            put(label, "pullId", row)
            put(label, "boxId", ident("box " + name))
            put(label, "startMark", at[name])
            if label == BEGUN:
                continue
            per = FOOT if unit == "ft" else 1
            link = found[label]["route"]["linkM"]
            pull = found[label]["route"]["pullM"]
            if label == MISTYPED:
                pull *= 1.5
            if label == SHORT:
                pull = link + 0.2
            count = spacing * math.ceil(pull / per / spacing)
            at[name] = (at[name] + count if up else at[name] - count) % 10000
            put(label, "endMark", at[name])
            put(label, "pulledOn", day)
            if label != MISTYPED:
                cut = count * per - link + (0.4 if label == SHORT else 0)
                put(label, "cutM", round(cut - 0.001, 3))
    rules = {"pull.crew": 2, "pull.hoursADay": 7, "pull.startsOn": "2026-11-23"}
    for field, value in rules.items():
        changes.append({"op": "set", "kind": "job", "id": "job", "field": field, "value": value})
    return changes


asking.edited("boxes and what was pulled", changes_of)
