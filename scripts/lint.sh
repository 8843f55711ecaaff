#!/bin/bash
# cppcheck over everything in src/; clang-tidy over each source of src/ that is not as it was when it was last
# found clean: itself, the header of its name, the rules and the tool (scripts/lint-clean.txt has what
# it was like). Sources named are linted whatever is known of them, with --all every one. --record writes
# down what is clean now.
set -euo pipefail
cd "$(dirname "$0")/.."
known=scripts/lint-clean.txt
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
cppcheck --quiet --error-exitcode=1 --std=c++20 --language=c++ --enable=warning,performance,portability \
    --inline-suppr --suppressions-list=.cppcheck-suppressions -j 2 -I src src
rules=$( (clang-tidy --version; cat .clang-tidy) | sha256sum)
# "key path" of a source as it is.
key() {
    header=${1%.cpp}.h
    [ -f "$header" ] || header=/dev/null
    echo "$( (echo "$rules"; cat "$1" "$header") | sha256sum | cut -c 1-32) $1"
}
if [ ${#files[@]} -eq 0 ]; then
    while read -r path; do
        if [ $all = yes ] || ! grep -qxF "$(key "$path")" "$known"; then files+=("$path"); fi
    done < <(git ls-files 'src/*.cpp')
fi
echo "lint: ${#files[@]} of $(git ls-files 'src/*.cpp' | wc -l) sources"
if [ ${#files[@]} -gt 0 ]; then
    # clang has no use for the compiler's precompiled headers, and knows fewer warnings' names.
    tidy=build/tidy
    cmake -S . -B $tidy -G Ninja -DCMAKE_DISABLE_PRECOMPILE_HEADERS=ON -DCMAKE_CXX_COMPILER=clang++ \
        -DCMAKE_EXPORT_COMPILE_COMMANDS=ON -DBURIN_BENCH=OFF >/dev/null
    printf '%s\n' "${files[@]}" | xargs -P 2 -n 1 clang-tidy --quiet -p $tidy \
        --extra-arg=-Wno-unknown-warning-option 2>/dev/null
fi
if [ $record = yes ]; then
    for path in $(git ls-files 'src/*.cpp'); do key "$path"; done >$known
fi
echo "lint: clean"
