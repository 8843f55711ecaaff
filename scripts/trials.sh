#!/bin/sh
# All of the hard trials: damaged jobs, mutated imports, odd command lines, hostile pictures, random
# hands. Every run of the tests does a few of each. BURIN_TRIALS_SEED=N draws others;
# `scripts/trials.sh asan-ubsan` runs them under the sanitizers.
set -e
cd "$(dirname "$0")/.."
. ./scripts/setup.sh
preset=${1:-release}
burin_build "$preset"
export BURIN_TRIALS=all QT_QPA_PLATFORM=offscreen QTEST_FUNCTION_TIMEOUT=7200000
for trial in kill trials_jobs trials_commands trials_pictures trials_events; do
    "build/$preset/bin/test_$trial" -nocrashhandler
done
