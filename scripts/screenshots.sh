#!/bin/sh
# The pictures in docs/screenshots/, from the demo: offscreen and with no fonts but the shipped ones,
# so that they are the same on every machine.
set -e
cd "$(dirname "$0")/.."
bin=$PWD/build/release/bin
place=$(mktemp -d)
trap 'rm -rf "$place"' EXIT
echo '<fontconfig/>' >"$place/fonts.conf"
export FONTCONFIG_FILE="$place/fonts.conf" QT_QPA_PLATFORM=offscreen XDG_RUNTIME_DIR="$place" TZ=UTC
"$bin/burin-cli" import demo/kittiwake.json "$place/kittiwake.burin" >/dev/null
take() {
    name=$1
    shift
    "$bin/burin" --screenshot "docs/screenshots/$name.png" --size 1280x800 "$@" "$place/kittiwake.burin"
}
take survey-light --run FD-D02
take survey-dark --run MS-D03 --dark --imperial
take budget-light --stage budget --run SL-D03
take budget-dark --stage budget --run SL-D03 --dark
take budget-feedline --stage budget --run RF-A01
take budget-levels --stage budget --run SO-C01
take budget-bus --stage budget --run SO-R01
take pull-light --stage pull --run SL-D03 --today 2026-11-25
take pull-dark --stage pull --run CR-T01 --today 2026-11-25 --dark
take terminate-light --stage terminate --run FD-C01 --today 2026-11-25
take terminate-dark --stage terminate --run FD-D02 --today 2026-11-25 --dark
take test-light --stage test --run FD-D01
take test-dark --stage test --run SO-D01 --dark
