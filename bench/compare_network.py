#!/usr/bin/env python3
"""Computes the S-parameters of one ten-part chain at 1,001 frequencies with Burin and with scikit-rf
in the same session and prints the ratio. Fails when Burin is less than 75 times as fast. Ends with 77
where scikit-rf is missing.

Usage: compare_network.py path/to/bench_line
"""
import json
import os
import subprocess
import sys
import time
import warnings

sys.path.insert(0, os.path.join(os.path.dirname(os.path.abspath(__file__)), "../tests/verification"))
try:
    import line_model
    import numpy as np

    line_model.old_numpy_names()
    warnings.simplefilter("ignore")
    import skrf
except ImportError as missing:
    print(f"skipped: {missing}")
    sys.exit(77)

f = 1 + 2.999 * np.arange(1001)
PARTS = [{"kind": "line", "cable": c, "lengthM": 3 + i} for i, c in enumerate(
    ["coax-ll10", "coax-rg58", "coax-ll10", "coax-rg213", "coax-rg58", "coax-ll10", "coax-rg213",
     "coax-ll10"])]
PARTS += [{"kind": "series", "ohm": 2.5, "nanohenry": 1},
          {"kind": "shunt", "ohm": 500, "picofarad": 2.2}]
z0 = 50 * np.ones((1001, 2), dtype=complex)
frequency = skrf.Frequency.from_f(f, unit="mhz") if hasattr(skrf.Frequency, "from_f") else \
    skrf.Frequency(f[0], f[-1], 1001, "mhz")


def theirs():
    start = time.perf_counter()
    out = None
    for part in PARTS:
        s = skrf.a2s(line_model.part_abcd(part, f, 50), z0)
        network = skrf.Network(frequency=frequency, s=s, z0=50)
        out = network if out is None else out ** network
    return time.perf_counter() - start


def ours():
    said = subprocess.run([sys.argv[1], "--benchmark_format=json",
                           "--benchmark_filter=tenPartChain|bareExp"],
                          check=True, capture_output=True, text=True)
    return {row["name"]: row["cpu_time"] / 1e3 for row in json.loads(said.stdout)["benchmarks"]}


best = {"tenPartChain": 1e9, "bareExponentials": 1e9}
their_best = 1e9
for _ in range(4):
    their_best = min(their_best, theirs())
    for name, value in ours().items():
        best[name] = min(best[name], value)
chain, bare = best["tenPartChain"], best["bareExponentials"]
print(f"ten-part chain: Burin {chain * 1e3:.2f} ms, scikit-rf {their_best * 1e3:.0f} ms: "
      f"{their_best / chain:.0f} times as fast; bare exponentials {bare * 1e3:.2f} ms: "
      f"{chain / bare:.2f} times them")
sys.exit(0 if their_best / chain >= 75 and chain / bare <= 2 else 1)
