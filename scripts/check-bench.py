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
LIMITS = {"oneRunPredicted1000": 1.0, "oneRunMeasured1000": 1.0, "job500Runs": 200.0,
          "tree200Outlets": 20.0, "mixed500/1/real_time": 400.0, "mixed500/2/real_time": 400.0,
          "mixed500OneEdit/3/real_time": 100.0, "mixed500OneEdit/301/real_time": 100.0,
          "mixed500OneEdit/401/real_time": 100.0, "siteDragOneOutlet": 4.0,
          "sitePlanWhole": 120.0, "pullsPlanned": 1000.0, "pullsAfterOne": 200.0, "endsOf10000Runs": 200.0, "lengthOf10000Runs/iterations:3/real_time": 1000.0,
          "takenBackOn10000Runs/iterations:3/real_time": 1000.0, "siteOutletLetGo/real_time": 150.0,
          "oneRunWithCures/0": 16.0, "oneRunWithCures/3": 16.0,
          "oneRunFullTester": 16.0, "openWith20000Steps/iterations:3/real_time": 2000.0,
          "oneEditOf10000Runs": 5.0, "join5000Steps/iterations:3/real_time": 2000.0}
# Another machine may be slower than the one the bounds were met on, or this one at another hour: the same
# program has been seen to take 1.9 times as long. That is said and let pass.
STEP_BACK = 2.5
failed = False


def check(name, value, limit, unit="ms"):
    global failed
    good = value < limit
    failed = failed or not value < STEP_BACK * limit
    print(f"{'ok  ' if good else 'SLOW'} {name}: {value:.2f} {unit} (under {limit} {unit})")


best = {}


def measure(program, names, repetitions):
    out = subprocess.run([f"{BIN}/{program}", "--benchmark_format=json", f"--benchmark_filter={names}",
                          f"--benchmark_repetitions={repetitions}"],
                         check=True, capture_output=True, text=True, cwd=ROOT)
    found = set()
    for row in json.loads(out.stdout)["benchmarks"]:
        # The best of them: what else the machine does is not ours.
        if row["run_type"] == "iteration":
            time = row["real_time" if row["name"].endswith("real_time") else "cpu_time"]
            best[row["name"]] = min(time, best.get(row["name"], 1e9))
            found.add(row["name"])
    return found


for program in ("bench_findings", "bench_line", "bench_site", "bench_store"):
    found = measure(program, "-tenPart|bareExp", 2)
    # What would be a step back is measured again before that is said.
    slow = [name for name in found if not best[name] < STEP_BACK * LIMITS[name]]
    if slow:
        measure(program, "^(" + "|".join(map(re.escape, slow)) + ")$", 5)
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
for script, program, rounds in (("compare_readers.py", "bench_readers", ("6", "12", "24")),
                                ("compare_network.py", "bench_line", ("4", "8", "16"))):
    for count in rounds:  # a busy machine slows one of the two: longer, then
        compared = subprocess.run(["/usr/bin/python3", f"{ROOT}/bench/{script}", f"{BIN}/{program}",
                                   count])
        if compared.returncode in (0, 77):
            break
    if compared.returncode == 3:
        print(f"SLOW {script}: under what docs/speed.md promises")
    failed = failed or compared.returncode not in (0, 3, 77)
sys.exit(1 if failed else 0)
