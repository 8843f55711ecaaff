#!/usr/bin/env python3
"""Reads one 10,000-point .s4p with Burin and with scikit-rf in the same session and prints the
ratio. Ends with 3 when Burin is less than 20 times as fast, with 4 when less than 13 times, with 77
where scikit-rf is missing.

Usage: compare_readers.py path/to/bench_readers [rounds]
"""
import subprocess
import sys
import tempfile
import time
import warnings

try:
    import numpy as np

    for name, kind in (("complex", complex), ("float", float), ("int", int), ("bool", bool),
                       ("object", object)):
        if name not in np.__dict__:
            setattr(np, name, kind)
    import skrf
except ImportError as missing:
    print(f"skipped: {missing}")
    sys.exit(77)

warnings.simplefilter("ignore")
with tempfile.TemporaryDirectory() as folder:
    path = folder + "/big.s4p"
    subprocess.run([sys.argv[1], "make", path], check=True)
    ours = theirs = 1e9
    # By turns, the best of each: what else the machine does falls on both.
    for _ in range(int(sys.argv[2]) if len(sys.argv) > 2 else 6):
        ours = min(ours, float(subprocess.run([sys.argv[1], "read", path], check=True,
                                              capture_output=True, text=True).stdout))
        start = time.perf_counter()
        skrf.Network(path)
        theirs = min(theirs, time.perf_counter() - start)
print(f"Burin {ours * 1e3:.1f} ms, scikit-rf {theirs * 1e3:.1f} ms: {theirs / ours:.1f} times as fast")
# 3: short of it, which another machine may be; 4: a step back.
sys.exit(0 if theirs / ours >= 20 else 3 if theirs / ours >= 13 else 4)
