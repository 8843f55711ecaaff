#!/bin/bash
# The core, then files and the reader of pictures, under the address and undefined-behaviour sanitizers:
# each unless it is as it was when it was last found good (scripts/sanitized-good.txt has the sums of all
# that goes into it, the compiler and Qt among it). --all: whatever is known. --record writes down what is
# good now.
set -euo pipefail
cd "$(dirname "$0")/.."
. ./scripts/setup.sh
known=scripts/sanitized-good.txt
touch "$known"
record=no
all=no
for word in "$@"; do
    case $word in
    --record) record=yes ;;
    --all) all=yes ;;
    *)
        echo "sanitized: $word is neither --all nor --record" >&2
        exit 2
        ;;
    esac
done
core="src/core catalogue tests/core tests/fixtures tests/verification tests/*.h tests/CMakeLists.txt cmake CMakeLists.txt CMakePresets.json"
files="$core src/files src/picture tests/files tests/trials demo assets"
tools=$(clang++ --version | head -1
    dpkg-query -W -f '${Package} ${Version}\n' qt6-base-dev libsqlite3-dev libpoppler-qt6-dev libexif-dev \
        nlohmann-json3-dev libfftw3-dev libglpk-dev libeigen3-dev libstdc++-12-dev 2>/dev/null || true)
# "sum part" of what there is in those paths.
sum() {
    part=$1
    shift
    # shellcheck disable=SC2068
    echo "$( (echo "$tools"; git ls-files -co --exclude-standard -- $@ | LC_ALL=C sort -u | xargs -d '\n' sha256sum) |
        sha256sum | cut -c 1-32) $part"
}
# part, its paths, and what is done where it is not known; written down as soon as it has passed.
check() {
    now=$(sum "$1" "$2")
    if [ $all = no ] && grep -qxF "$now" "$known"; then
        echo "sanitized: $1 is as it was when it was found good"
    else
        echo "sanitized: $1"
        "$3"
    fi
    if [ $record = yes ]; then
        others=$(grep -v " $1\$" "$known" || true)
        printf '%s\n' ${others:+"$others"} "$now" >"$known"
    fi
}
core_part() {
    burin_build core-only >/dev/null
    ctest --preset core-only
}
files_part() {
    burin_build asan-ubsan --target test_readers test_store test_join test_job_file test_whole_file test_pictures \
        test_fuzz test_kill edit_session burin-picture test_trials_jobs test_trials_pictures >/dev/null
    ctest --preset asan-ubsan \
        -R '^(readers|store|join|job_file|whole_file|pictures|fuzz|kill|trials_jobs|trials_pictures)$'
}
check core "$core" core_part
check files "$files" files_part
