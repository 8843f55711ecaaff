#!/bin/bash
# cppcheck over everything in src/, unless all of it is as it was when it was last found good; clang-tidy
# over each source of src/ that is not as it was when it was last found clean: itself, the header of its
# name, the rules and the tool (scripts/lint-clean.txt has their sums). Sources named are linted whatever
# is known of them, with --all every one. --record writes down what is clean now.
set -euo pipefail
cd "$(dirname "$0")/.."
known=scripts/lint-clean.txt
touch "$known"
record=no
all=no
files=()
for word in "$@"; do
    case $word in
    --record) record=yes ;;
    --all) all=yes ;;
    *) files+=("$word") ;;
    esac
done
# cppcheck reads all of it together: known as a whole.
whole="$( (cppcheck --version; cat .cppcheck-suppressions; git ls-files -co --exclude-standard src |
    LC_ALL=C sort -u | xargs -d '\n' sha256sum) | sha256sum | cut -c 1-32) cppcheck"
if [ $all = yes ] || ! grep -qxF "$whole" "$known"; then
    cppcheck --quiet --error-exitcode=1 --std=c++20 --language=c++ --enable=warning,performance,portability \
        --inline-suppr --suppressions-list=.cppcheck-suppressions -j 2 -I src src
else
    echo "lint: cppcheck found it good as it is"
fi
rules=$( (clang-tidy --version | grep version; cat .clang-tidy) | sha256sum)
# "sum path" of a source as it is.
sum() {
    local header=${1%.cpp}.h
    [ -f "$header" ] || header=/dev/null
    echo "$( (echo "$rules"; cat "$1" "$header") | sha256sum | cut -c 1-32) $1"
}
sources=$(git ls-files 'src/*.cpp')
if [ ${#files[@]} -eq 0 ]; then
    for path in $sources; do
        if [ $all = yes ] || ! grep -qxF "$(sum "$path")" "$known"; then files+=("$path"); fi
    done
fi
echo "lint: ${#files[@]} of $(echo "$sources" | wc -l) sources"
clean=$(mktemp)
trap 'rm -f "$clean"' EXIT
if [ ${#files[@]} -gt 0 ]; then
    # clang has no use for the compiler's precompiled headers, and knows fewer warnings' names.
    cmake -S . -B build/tidy -G Ninja -DCMAKE_DISABLE_PRECOMPILE_HEADERS=ON -DCMAKE_CXX_COMPILER=clang++ \
        -DCMAKE_EXPORT_COMPILE_COMMANDS=ON -DBURIN_BENCH=OFF >/dev/null
    one() {
        was=$(sum "$1")
        clang-tidy --quiet -p build/tidy --extra-arg=-Wno-unknown-warning-option "$1" 2>/dev/null || return 1
        echo "$was" >>"$clean"
    }
    export -f one sum
    export rules clean
    failed=0
    printf '%s\n' "${files[@]}" | xargs -P 2 -I{} bash -c 'one {}' || failed=1
    if [ $failed = 1 ]; then
        echo "lint: $((${#files[@]} - $(wc -l <"$clean"))) sources are not clean"
    fi
fi
if [ $record = yes ]; then
    # What was clean and still is, and what was found clean now.
    { for path in $sources; do sum "$path"; done; echo "$whole"; } | sort >"$clean.now"
    echo "$whole" >>"$clean"
    sort -u "$clean" "$known" | comm -12 - "$clean.now" | sort -k 2 >"$clean.kept"
    mv "$clean.kept" "$known"
    rm -f "$clean.now"
fi
[ "${failed:-0}" = 0 ]
echo "lint: clean"
