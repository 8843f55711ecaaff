#!/bin/bash
# cppcheck over everything; clang-tidy over core, files and the reader of pictures, or what is named.
set -euo pipefail
cd "$(dirname "$0")/.."
cppcheck --quiet --error-exitcode=1 --std=c++20 --language=c++ --enable=warning,performance,portability \
    --inline-suppr --suppressions-list=.cppcheck-suppressions -j 2 -I src src
files=("$@")
if [ ${#files[@]} -eq 0 ]; then
    mapfile -t files < <(git ls-files 'src/core/*.cpp' 'src/files/*.cpp' 'src/picture/*.cpp')
fi
# clang has no use for the compiler's precompiled headers, and knows fewer warnings' names.
tidy=build/tidy
cmake -S . -B $tidy -G Ninja -DCMAKE_DISABLE_PRECOMPILE_HEADERS=ON -DCMAKE_CXX_COMPILER=clang++ \
    -DCMAKE_EXPORT_COMPILE_COMMANDS=ON -DBURIN_BENCH=OFF >/dev/null
printf '%s\n' "${files[@]}" | xargs -P 2 -n 4 clang-tidy --quiet -p $tidy --extra-arg=-Wno-unknown-warning-option 2>/dev/null
echo "lint: ${#files[@]} files clean"
