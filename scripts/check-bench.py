#!/usr/bin/env python3
"""Runs the benchmarks and holds them against what docs/speed.md promises.

Usage: check-bench.py build/release/bin
"""
import json
import os
import re
import subprocess
import sys
import tempfile

BIN = sys.argv[1]
ROOT = os.path.dirname(os.path.dirname(os.path.abspath(__file__)))
LIMITS = {"oneRunPredicted1000": 1.0, "oneRunMeasured1000": 1.0, "job500Runs": 200.0}
failed = False


def check(name, value, limit, unit="ms"):
    global failed
    good = value < limit
    failed = failed or not good
    print(f"{'ok  ' if good else 'SLOW'} {name}: {value:.2f} {unit} (under {limit} {unit})")


out = subprocess.run([f"{BIN}/bench_findings", "--benchmark_format=json",
                      "--benchmark_repetitions=5"], check=True,
                     capture_output=True, text=True, cwd=ROOT)
best = {}
for row in json.loads(out.stdout)["benchmarks"]:
    # The best of five: what else the machine does is not ours.
    if row["run_type"] == "iteration":
        best[row["name"]] = min(row["cpu_time"], best.get(row["name"], 1e9))
for name, value in best.items():
    check(name, value, LIMITS[name])
with tempfile.TemporaryDirectory() as folder:
    job = f"{folder}/demo.burin"
    subprocess.run([f"{BIN}/burin-cli", "import", f"{ROOT}/demo/kittiwake.json", job], check=True,
                   capture_output=True)
    env = dict(os.environ, QT_QPA_PLATFORM="offscreen")
    times = []
    for _ in range(3):
        said = subprocess.run([f"{BIN}/burin", "--first-paint", job], check=True, capture_output=True,
                              text=True, env=env).stdout
        times.append(float(re.search(r"(\d+) ms", said).group(1)))
    check("demo open to first paint", min(times), 1000)
for rounds in ("6", "12", "24"):  # a busy machine slows one of the two: longer, then
    readers = subprocess.run(["/usr/bin/python3", f"{ROOT}/bench/compare_readers.py",
                              f"{BIN}/bench_readers", rounds])
    if readers.returncode in (0, 77):
        break
failed = failed or readers.returncode not in (0, 77)
sys.exit(1 if failed else 0)
