#!/bin/sh
# Installs into a fresh folder and runs both programs from there, with the source tree out of reach.
set -e
cd "$(dirname "$0")/.."
place=$(mktemp -d)
trap 'rm -rf "$place"' EXIT
cmake --install build/release --prefix "$place/usr" >/dev/null
for file in share/burin/catalogue/cables.json share/burin/fonts/B612-Regular.otf \
    share/applications/burin.desktop share/icons/hicolor/scalable/apps/burin.svg \
    share/metainfo/burin.metainfo.xml share/mime/packages/burin-mime.xml; do
    [ -s "$place/usr/$file" ] || { echo "not installed: $file"; exit 1; }
done
cd /
"$place/usr/bin/burin-cli" loss --cable cat6-utp --length 100m --at 100 | grep -q '"lossDb":19.8'
"$place/usr/bin/burin-cli" import "$place/usr/share/burin/demo/kittiwake.json" "$place/demo.burin" >/dev/null
QT_QPA_PLATFORM=offscreen "$place/usr/bin/burin" --screenshot "$place/out.png" "$place/demo.burin" 2>"$place/err"
if grep -q "missing" "$place/err"; then cat "$place/err"; exit 1; fi
[ "$(stat -c %s "$place/out.png")" -gt 50000 ]
echo "installed and run from a folder of its own"
