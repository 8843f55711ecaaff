# Sourced by run-demo, run-tests and .ci/run: installs missing Debian packages, builds.

BURIN_PACKAGES="g++ cmake ninja-build ccache lld pkg-config qt6-base-dev qt6-svg-dev \
libpoppler-qt6-dev libexif-dev libqrencode-dev libseccomp-dev libsqlite3-dev libqcustomplot-dev libqt6sql6-sqlite libeigen3-dev libfftw3-dev libglpk-dev nlohmann-json3-dev libcli11-dev libexpected-dev \
libbenchmark-dev libgtest-dev xvfb xauth fontconfig"
BURIN_CHECK_PACKAGES="clang clang-format clang-tidy cppcheck python3-scikit-rf ngspice"

burin_packages() {
    missing=""
    for package in $BURIN_PACKAGES "$@"; do
        dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q "ok installed" ||
            missing="$missing $package"
    done
    [ -z "$missing" ] && return 0
    echo "Installing:$missing"
    sudo=""
    [ "$(id -u)" -eq 0 ] || sudo="sudo"
    $sudo apt-get update -qq
    $sudo env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $missing >/dev/null
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
