#!/usr/bin/env python3
"""Fails on an include that runs against the arrows: app -> instrument, files -> core; no Qt in the
core; no widgets outside the app; no stage that knows another stage; no room of the core that knows one
after it."""
import re
import subprocess
import sys

ALLOWED = {"core": {"core"}, "files": {"core", "files"}, "instrument": {"core", "instrument"},
           "cli": {"core", "files", "cli"},
           "picture": {"core", "files", "picture"}, "standin": {"core", "standin"},
           "app": {"core", "files", "instrument", "app"}}
# The rooms of the core, each knowing only those before it.
ROOMS = ["base", "units", "describe", "plan", "catalogue", "job", "link", "line", "balanced", "supply", "connector",
         "coax", "bus", "site", "measure", "pull", "edit", "history", "finding"]
STAGES = {"survey", "budget", "pull", "terminate", "test", "handover", "drill"}
SHARED = {"frame", "look"}
bad = []
files = subprocess.run(["git", "ls-files", "src"], capture_output=True, text=True, check=True).stdout.split()
for path in files:
    if not path.endswith((".cpp", ".h")):
        continue
    parts = path.split("/")
    room = parts[1]
    inner = parts[2] if room == "app" and len(parts) > 3 else ""
    for number, line in enumerate(open(path, encoding="utf-8"), 1):
        match = re.match(r'\s*#\s*include\s*([<"])([^>"]+)', line)
        if not match:
            continue
        kind, name = match.groups()
        where = f"{path}:{number}: {name}"
        if kind == "<":
            if room == "core" and (re.match(r"Q[A-Z]", name) or name.startswith("Qt") or name == "qcustomplot.h"):
                bad.append(f"{where}: Qt in the core")
            if room in ("files", "cli") and re.match(r"Q(Widget|Application|Main|Dialog|Push)", name):
                bad.append(f"{where}: widgets outside the app")
            continue
        target = name.split("/")
        if target[0] not in ALLOWED[room]:
            bad.append(f"{where}: {room} may not know {target[0]}")
        if room == "core" and target[0] == "core":
            mine, other = parts[2], target[1]
            if mine not in ROOMS or other not in ROOMS:
                bad.append(f"{where}: a room that is not in the order of scripts/check-rooms.py")
            elif ROOMS.index(other) > ROOMS.index(mine):
                bad.append(f"{where}: room {mine} comes before {other} and may not know it")
        if target[0] == "app" and len(target) > 2:
            if inner in STAGES and target[1] in STAGES and target[1] != inner:
                bad.append(f"{where}: stage {inner} may not know stage {target[1]}")
            if inner in SHARED and target[1] in STAGES:
                bad.append(f"{where}: {inner} may not know stage {target[1]}")
            if inner == "look" and target[1] == "frame":
                bad.append(f"{where}: look may not know frame")

print("\n".join(bad) if bad else f"{len(files)} files, every arrow runs the right way")
sys.exit(1 if bad else 0)
