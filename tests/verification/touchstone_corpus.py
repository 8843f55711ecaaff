#!/usr/bin/env python3
"""Reads every Touchstone file that ships with scikit-rf with Burin and with scikit-rf, and compares
frequencies and S-parameters to 1e-6 relative. Ends with 77 where scikit-rf is not installed.

Usage: touchstone_corpus.py path/to/burin-cli
"""
import json
import re
import subprocess
import sys
import warnings
from pathlib import Path

try:
    import numpy as np

    for name, kind in (("complex", complex), ("float", float), ("int", int), ("bool", bool),
                       ("object", object)):
        if name not in np.__dict__:
            setattr(np, name, kind)  # scikit-rf 0.15.4 still names the removed aliases
    import skrf
except ImportError as missing:
    print(f"skipped: {missing}")
    sys.exit(77)

warnings.simplefilter("ignore")


def burin(path):
    out = subprocess.run([sys.argv[1], "read", str(path)], capture_output=True, text=True)
    if out.returncode != 0:
        return None, out.stderr.strip()
    data = json.loads(out.stdout)
    n = data["ports"]
    sign = "_" if n > 9 else ""
    s = np.zeros((len(data["points"]), n, n), complex)
    for k, point in enumerate(data["points"]):
        for to in range(n):
            for start in range(n):
                entry = point[f"s{to + 1}{sign}{start + 1}"]
                if entry["db"] is not None:
                    s[k, to, start] = 10 ** (entry["db"] / 20) * np.exp(1j * np.radians(entry["degrees"]))
    f = np.array([p["frequencyMhz"] for p in data["points"]])
    return (f, s), ""


def main():
    alike, refused, different = 0, [], []
    files = sorted(p for p in Path(skrf.__file__).parent.rglob("*")
                   if re.fullmatch(r"\.s\d+p", p.suffix.lower()))
    for path in files:
        mine, why = burin(path)
        try:
            # Raw values, without the port renormalisation some exporters' comments ask for.
            touchstone = skrf.io.touchstone.Touchstone(str(path))
            f, s = touchstone.get_sparameter_arrays()
            theirs = (np.asarray(f, float) / 1e6, s)
        except Exception as error:  # what scikit-rf cannot read proves nothing
            theirs = None
            why = why or f"scikit-rf: {error}"
        if mine is None or theirs is None:
            refused.append((path.name, why))
            continue
        good = (len(mine[0]) == len(theirs[0])
                and np.allclose(mine[0], theirs[0], rtol=1e-6, atol=0)
                and np.allclose(mine[1], theirs[1], rtol=1e-6, atol=1e-12))
        if good:
            alike += 1
        else:
            different.append(path.name)
    for name, why in refused:
        print(f"not compared: {name}: {why}")
    for name in different:
        print(f"DIFFERENT: {name}")
    print(f"{len(files)} files, {alike} alike, {len(different)} different, {len(refused)} not compared")
    small = [n for n, w in refused if re.search(r"\.s[1-4]p$", n) and "Touchstone 2" not in w
             and not w.startswith("scikit-rf")]
    for name in small:
        print(f"REFUSED: {name}")
    sys.exit(1 if different or small or alike < 40 else 0)


main()
