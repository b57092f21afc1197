# SPDX-FileCopyrightText: Thin Line contributors
# SPDX-License-Identifier: GPL-3.0-or-later
#
# Sourced by ./run and ./test. Every failure ends with a sentence that says what to do.

build_packages="g++ cmake ninja-build pkg-config qt6-base-dev libpugixml-dev nlohmann-json3-dev libpolyclipping-dev
  libopencv-core-dev libopencv-imgproc-dev libzip-dev libfreetype-dev libharfbuzz-dev libfontconfig-dev
  libdxflib-dev libqrencode-dev libzint-dev libpoppler-glib-dev libqpdf-dev libsqlite3-dev nettle-dev libheif-dev libqt6widgets6 libqt6printsupport6 qt6-qpa-plugins qt6-image-formats-plugins"
test_packages="libgtest-dev libzxing-dev librsvg2-bin poppler-utils qpdf"

fail() {
  echo "$1" >&2
  exit 1
}

# install_missing PACKAGE...: calls apt only when something is missing, so that all works without a network.
install_missing() {
  command -v dpkg-query > /dev/null || fail "This is no Debian system. Install what README.md lists, then build with cmake --preset release."
  missing=""
  for package in "$@"; do
    dpkg-query -W -f '${Status}' "$package" 2> /dev/null | grep -q "install ok installed" || missing="$missing $package"
  done
  [ -n "$missing" ] || return 0
  echo "Installing:$missing"
  line="apt-get install -y --no-install-recommends$missing"
  if [ "$(id -u)" = 0 ]; then
    as_root=""
  elif command -v sudo > /dev/null && { sudo -n true 2> /dev/null || [ -t 0 ]; }; then
    as_root="sudo"
  else
    fail "Packages are missing. Type this as root, then call again:
  apt-get update && $line"
  fi
  export DEBIAN_FRONTEND=noninteractive
  $as_root apt-get -o DPkg::Lock::Timeout=600 update -q > /dev/null 2>&1 ||
    echo "The package lists could not be refreshed; trying with the old ones." >&2
  $as_root apt-get -o DPkg::Lock::Timeout=600 install -y -q --no-install-recommends $missing > build/apt.log 2>&1 || {
    tail -n 3 build/apt.log >&2
    fail "Installing failed. Check the network and the package sources, then call again; the whole log is build/apt.log."
  }
}

# configure PRESET: only when there is no build yet, the preset differs, or a list of sources has changed (ninja tells).
configure() {
  if [ ! -f build/release/build.ninja ] || [ "$(cat build/release/preset 2> /dev/null)" != "$1" ]; then
    cmake --preset "$1" > build/configure.log 2>&1 || {
      tail -n 15 build/configure.log >&2
      fail "Configuring failed; the whole log is build/configure.log. Removing the folder build/ starts afresh."
    }
    echo "$1" > build/release/preset
  fi
}

# build TARGET...
build() {
  ninja -C build/release "$@" > build/build.log 2>&1 || {
    grep -m 10 -E 'error|FAILED|undefined|No space' build/build.log >&2
    fail "Building failed; the whole log is build/build.log. Removing the folder build/ starts afresh."
  }
}
