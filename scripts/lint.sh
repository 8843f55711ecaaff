#!/bin/bash
# cppcheck over everything; clang-tidy over core, files and the reader of pictures, over what is named, or
# (`--since REV`) over what changed since then, sources and those that a changed header belongs to.
set -euo pipefail
cd "$(dirname "$0")/.."
cppcheck --quiet --error-exitcode=1 --std=c++20 --language=c++ --enable=warning,performance,portability \
    --inline-suppr --suppressions-list=.cppcheck-suppressions -j 2 -I src src
files=("$@")
if [ "${1:-}" = --since ] && git rev-parse --verify -q "$2^{commit}" >/dev/null; then
    mapfile -t files < <(git diff --name-only --diff-filter=d "$2" -- src/core src/files src/picture |
        sed 's/\.h$/.cpp/' | grep '\.cpp$' | sort -u | xargs -r ls -d 2>/dev/null)
elif [ $# -eq 0 ] || [ "${1:-}" = --since ]; then
    mapfile -t files < <(git ls-files 'src/core/*.cpp' 'src/files/*.cpp' 'src/picture/*.cpp')
fi
if [ ${#files[@]} -eq 0 ]; then
    echo "lint: nothing changed"
    exit 0
fi
# clang has no use for the compiler's precompiled headers, and knows fewer warnings' names.
tidy=build/tidy
cmake -S . -B $tidy -G Ninja -DCMAKE_DISABLE_PRECOMPILE_HEADERS=ON -DCMAKE_CXX_COMPILER=clang++ \
    -DCMAKE_EXPORT_COMPILE_COMMANDS=ON -DBURIN_BENCH=OFF >/dev/null
printf '%s\n' "${files[@]}" | xargs -P 2 -n 4 clang-tidy --quiet -p $tidy --extra-arg=-Wno-unknown-warning-option 2>/dev/null
echo "lint: ${#files[@]} files clean"
