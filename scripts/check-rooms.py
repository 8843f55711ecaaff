#!/usr/bin/env python3
"""Fails on an include that runs against the arrows: app -> instrument, files -> core; no Qt in the
core; no widgets outside the app; no stage that knows another stage; no circle among the core's rooms."""
import re
import subprocess
import sys

ALLOWED = {"core": {"core"}, "files": {"core", "files"}, "instrument": {"core", "instrument"},
           "cli": {"core", "files", "cli"},
           "picture": {"core", "files", "picture"}, "standin": {"core", "standin"},
           "app": {"core", "files", "instrument", "app"}}
STAGES = {"survey", "budget", "pull", "terminate", "test", "handover", "drill"}
SHARED = {"frame", "look"}
bad = []
knows = {}  # core rooms
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
        if room == "core" and target[0] == "core" and len(parts) > 3 and len(target) > 2 and parts[2] != target[1]:
            knows.setdefault(parts[2], {}).setdefault(target[1], where)
        if target[0] == "app" and len(target) > 2:
            if inner in STAGES and target[1] in STAGES and target[1] != inner:
                bad.append(f"{where}: stage {inner} may not know stage {target[1]}")
            if inner in SHARED and target[1] in STAGES:
                bad.append(f"{where}: {inner} may not know stage {target[1]}")
            if inner == "look" and target[1] == "frame":
                bad.append(f"{where}: look may not know frame")


def circle(path):
    """The rooms of a circle that a way through the core's rooms comes to, or none."""
    for other in sorted(knows.get(path[-1], {})):
        if other in path:
            return path[path.index(other):] + [other]
        if other not in seen:
            seen.add(other)
            if found := circle(path + [other]):
                return found
    return None


for start in sorted(knows):
    seen = {start}
    if found := circle([start]):
        bad.append("a circle of rooms: " + " -> ".join(found) + ": " + knows[found[0]][found[1]])
        break
print("\n".join(bad) if bad else f"{len(files)} files, every arrow runs the right way")
sys.exit(1 if bad else 0)
