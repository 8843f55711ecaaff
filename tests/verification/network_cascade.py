#!/usr/bin/env python3
"""Holds `burin-cli network` against scikit-rf's cascade of the same parts: |ΔS| < 1e-6 from 1 MHz to
3 GHz, no gain, and the same both ways. Ends with 77 where scikit-rf is missing.

Usage: network_cascade.py path/to/burin-cli
"""
import json
import subprocess
import sys
import tempfile
import warnings

try:
    import numpy as np
    import line_model

    line_model.old_numpy_names()
    warnings.simplefilter("ignore")
    import skrf
except ImportError as missing:
    print(f"skipped: {missing}")
    sys.exit(77)

CHAINS = {
    "feedline": {"referenceOhm": 50, "parts": [
        {"kind": "line", "cable": "coax-ll10", "lengthM": 12},
        {"kind": "line", "impedanceOhm": 35, "velocity": 0.66, "lossDbPer100m": 0, "lengthM": 0.025},
        {"kind": "line", "cable": "coax-rg58", "lengthM": 1.5}]},
    "faults": {"referenceOhm": 75, "parts": [
        {"kind": "line", "cable": "coax-s6", "lengthM": 20},
        {"kind": "series", "ohm": 2.5, "nanohenry": 1.5, "picofarad": None},
        {"kind": "line", "cable": "coax-s6", "lengthM": 7.3},
        {"kind": "shunt", "ohm": 120, "nanohenry": 0, "picofarad": 3.3},
        {"kind": "line", "cable": "coax-s11-quad", "lengthM": 31},
        {"kind": "stub", "cable": "coax-s59", "lengthM": 0.45, "end": "open"},
        {"kind": "splitter", "ways": 4},
        {"kind": "line", "cable": "coax-sat46", "lengthM": 3}]},
    "stubs": {"referenceOhm": 120, "parts": [
        {"kind": "stub", "impedanceOhm": 120, "velocity": 0.7, "lengthM": 0.3, "end": "short"},
        {"kind": "line", "cable": "cat5e-utp", "lengthM": 5},
        {"kind": "stub", "cable": "cat6-utp", "lengthM": 1.1, "end": 330},
        {"kind": "line", "cable": "cat5e-utp", "lengthM": 4}]},
}
for cable in line_model.CABLES:
    CHAINS[cable] = {"referenceOhm": 60, "parts": [{"kind": "line", "cable": cable, "lengthM": 9.7}]}

f = np.linspace(1, 3000, 601)
worst = gain = 0.0
with tempfile.TemporaryDirectory() as folder:
    for name, chain in CHAINS.items():
        json.dump(chain, open(f"{folder}/c.json", "w"))
        out = f"{folder}/c.s2p"
        subprocess.run([sys.argv[1], "network", f"{folder}/c.json", "--from", "1", "--to", "3000",
                        "--points", "601", "--out", out], check=True, capture_output=True)
        ours = skrf.Network(out).s
        frequency = skrf.Frequency(1, 3000, 601, "mhz")
        theirs = None
        for part in chain["parts"]:
            s = skrf.a2s(line_model.part_abcd(part, f, chain["referenceOhm"]),
                         chain["referenceOhm"] * np.ones((601, 2), dtype=complex))
            network = skrf.Network(frequency=frequency, s=s, z0=chain["referenceOhm"])
            theirs = network if theirs is None else theirs ** network
        off = np.abs(ours - theirs.s).max()
        most = np.linalg.norm(ours, 2, axis=(1, 2)).max()
        same = np.abs(ours[:, 0, 1] - ours[:, 1, 0]).max()
        worst, gain = max(worst, off), max(gain, most)
        print(f"{'ok ' if off < 1e-6 else 'BAD'} {name}: |dS| {off:.1e}, largest singular value "
              f"{most:.9f}, S12-S21 {same:.1e}")
        if off >= 1e-6 or most > 1 + 1e-8 or same > 1e-9:
            sys.exit(1)
print(f"{len(CHAINS)} chains, 601 frequencies: |dS| at most {worst:.1e}")
