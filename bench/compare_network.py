#!/usr/bin/env python3
"""Computes the S-parameters of one ten-part chain at 1,001 frequencies with Burin and with scikit-rf
in the same session and prints the ratio. Ends with 3 when Burin is less than 75 times as fast or takes
over twice its bare exponentials, with 4 when far off, with 77 where scikit-rf is missing.

Usage: compare_network.py path/to/bench_line [rounds]
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

from skrf.media import DefinedGammaZ0

f = 1 + 2.999 * np.arange(1001)
CABLES = ["coax-ll10", "coax-rg58", "coax-ll10", "coax-rg213", "coax-rg58", "coax-ll10",
          "coax-rg213", "coax-ll10"]
frequency = skrf.Frequency(f[0], f[-1], 1001, "mhz")


def theirs():
    """Eight lines of three cables, a contact and a strand across, with scikit-rf's own parts. The
    media are made once a cable, as Burin shares a cable's constants."""
    start = time.perf_counter()
    out = None
    media = {}
    for i, cable in enumerate(CABLES):
        if cable not in media:
            gamma, z = line_model.constants(cable, f)
            media[cable] = DefinedGammaZ0(frequency, z0=50, Z0=z, gamma=gamma)
        line = media[cable].line(3 + i, "m")
        out = line if out is None else out ** line
    m = media["coax-ll10"]
    out = out ** m.resistor(2.5) ** m.inductor(1e-9) ** m.shunt(m.resistor(500) ** m.open())
    return time.perf_counter() - start


def ours():
    said = subprocess.run([sys.argv[1], "--benchmark_format=json",
                           "--benchmark_filter=tenPartChain|bareExp"],
                          check=True, capture_output=True, text=True)
    return {row["name"]: row["cpu_time"] / 1e3 for row in json.loads(said.stdout)["benchmarks"]}


best = {"tenPartChain": 1e9, "bareExponentials": 1e9}
their_best = 1e9
for _ in range(int(sys.argv[2]) if len(sys.argv) > 2 else 4):
    their_best = min(their_best, theirs())
    for name, value in ours().items():
        best[name] = min(best[name], value)
chain, bare = best["tenPartChain"], best["bareExponentials"]
print(f"ten-part chain: Burin {chain * 1e3:.2f} ms, scikit-rf {their_best * 1e3:.0f} ms: "
      f"{their_best / chain:.0f} times as fast; bare exponentials {bare * 1e3:.2f} ms: "
      f"{chain / bare:.2f} times them")
# 3: short of it, which another machine may be; 4: a step back.
sys.exit(0 if their_best / chain >= 75 and chain / bare <= 2 else
         3 if their_best / chain >= 50 and chain / bare <= 3 else 4)
