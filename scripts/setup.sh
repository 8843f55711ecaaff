# Sourced by run-demo, run-tests and .ci/run: installs missing Debian packages, builds.

BURIN_PACKAGES="g++ cmake ninja-build ccache lld pkg-config qt6-base-dev qt6-svg-dev \
libpoppler-qt6-dev libexif-dev libqrencode-dev libseccomp-dev libsqlite3-dev libqcustomplot-dev libqt6sql6-sqlite libeigen3-dev libfftw3-dev libglpk-dev nlohmann-json3-dev libcli11-dev libexpected-dev \
libbenchmark-dev libgtest-dev xvfb xauth fontconfig"
BURIN_CHECK_PACKAGES="clang libclang-rt-dev clang-format clang-tidy cppcheck python3-scikit-rf ngspice qt6-l10n-tools"

burin_packages() {
    missing=""
    for package in $BURIN_PACKAGES "$@"; do
        dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q "ok installed" ||
            missing="$missing $package"
    done
    [ -z "$missing" ] && return 0
    echo "Installing:$missing"
    sudo=""
    if [ "$(id -u)" -ne 0 ]; then
        sudo="sudo"
        sudo -v
    fi
    ${BURIN_TELL:-burin_quiet} "Packages" $sudo apt-get update -qq
    # shellcheck disable=SC2086
    ${BURIN_TELL:-burin_quiet} "Packages" $sudo env DEBIAN_FRONTEND=noninteractive \
        apt-get install -y -qq --no-install-recommends $missing
}
burin_quiet() {
    shift
    "$@" >/dev/null
}

# Does a step that takes long, and says every second what it does and how far it is: on a terminal in
# one line. What the step itself says is shown where it fails.
burin_tell() {
    words=$1
    shift
    log=$(mktemp)
    began=$(date +%s)
    "$@" >"$log" 2>&1 &
    step=$!
    while kill -0 $step 2>/dev/null; do
        far=$(sed -n 's|^\[\([0-9]*\)/\([0-9]*\)\].*|, \1 of \2 parts|p' "$log" | tail -1)
        if [ -t 2 ]; then
            printf '\r\033[K%s%s, %s s' "$words" "$far" $(($(date +%s) - began)) >&2
        else
            printf '%s%s, %s s\n' "$words" "$far" $(($(date +%s) - began)) >&2
        fi
        sleep 1
    done
    done=0
    wait $step || done=$?
    [ ! -t 2 ] || printf '\r\033[K' >&2
    [ $done -eq 0 ] || tail -40 "$log" >&2
    rm -f "$log"
    return $done
}

# Debian's Qt wants a private folder at run time; where no session made one, a temporary one serves.
if [ -z "${XDG_RUNTIME_DIR:-}" ]; then
    XDG_RUNTIME_DIR=$(mktemp -d)
    export XDG_RUNTIME_DIR
fi

burin_build() {
    wanted=${1:-release}
    [ $# -gt 0 ] && shift
    # Its core is the one that was tested without Qt.
    [ "$wanted" != asan-ubsan ] || burin_build_tree core-only --target burin_core
    burin_build_tree "$wanted" "$@"
}

# A preset, and what `cmake --build` takes besides.
burin_build_tree() {
    tree=$1
    shift
    mkdir -p "build/$tree"
    cmake --preset "$tree" >"build/$tree/configure.log" 2>&1 || {
        cat "build/$tree/configure.log"
        return 1
    }
    cmake --build --preset "$tree" "$@"
}
