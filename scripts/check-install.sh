#!/bin/sh
# Installs into fresh folders, also the documented prefixes, and runs the programs from there with the
# source tree out of reach. The picture shows whether the shipped faces are the ones really used.
set -e
cd "$(dirname "$0")/.."
place=$(mktemp -d)
made=""
step="start"
trap 'code=$?; [ $code -eq 0 ] || { echo "failed at: $step"; cat "$place/err" 2>/dev/null; }; rm -rf "$place" $made' EXIT
source_root=$PWD
want=""
look() {
    prefix=$1
    cmake --install "$source_root/build/release" --prefix "$prefix" >/dev/null
    for file in share/burin/catalogue/cables.json share/burin/fonts/B612-Regular.otf share/burin/fonts/none.conf \
        share/applications/burin.desktop share/icons/hicolor/scalable/apps/burin.svg \
        share/man/man1/burin.1 share/man/man1/burin-cli.1 share/burin/demo/kittiwake.json share/doc/burin/README.md \
        share/metainfo/burin.metainfo.xml share/mime/packages/burin-mime.xml; do
        [ -s "$prefix/$file" ] || { echo "not installed: $prefix/$file"; exit 1; }
    done
    cd /
    step="a loss from $prefix"
    "$prefix/bin/burin-cli" loss --cable cat6-utp --length 100m --at 100 | grep -q '"lossDb":19.8'
    step="the demo imported from $prefix"
    rm -f "$place/demo.burin"
    "$prefix/bin/burin-cli" import "$prefix/share/burin/demo/kittiwake.json" "$place/demo.burin" >/dev/null
    step="the window from $prefix: $place/err"
    QT_QPA_PLATFORM=offscreen "$prefix/bin/burin" --screenshot "$place/out.png" "$place/demo.burin" 2>"$place/err"
    if grep -q "missing" "$place/err"; then cat "$place/err"; exit 1; fi
    [ "$(stat -c %s "$place/out.png")" -gt 50000 ]
    step="help, version and manual without a display"
    for word in --help --version --man; do
        env -u DISPLAY -u WAYLAND_DISPLAY -u QT_QPA_PLATFORM "$prefix/bin/burin" $word | grep -qi burin
    done
    step="a picture read from $prefix"
    "$prefix/bin/burin-cli" picture "$place/out.png" --out "$place/small.png" --most 200 | grep -q '"widthPx":200'
    # The same job looks the same wherever Burin is, to the pixel.
    now=$(sha256sum <"$place/out.png")
    [ -z "$want" ] || [ "$want" = "$now" ] || { echo "$prefix: its text is in another face"; exit 1; }
    want=$now
    cd "$source_root"
}
look "$place/usr"
look "$place/home/.local"
# The documented prefix, where it may be written and nothing of Burin's is yet.
if [ -w /usr/local ] && [ ! -e /usr/local/share/burin ] && [ ! -e /usr/local/bin/burin ]; then
    look /usr/local
    made="$(tr "\n" " " <build/release/install_manifest.txt) /usr/local/share/burin"
fi
echo "installed and run from folders of its own, in the same face everywhere"
