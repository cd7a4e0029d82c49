#!/bin/sh
# SPDX-License-Identifier: Apache-2.0
# Installs the Debian packages that are missing: those to build with, and those for what is named:
#   tools/install_packages.sh [tests|bench|docs]…
# Asks for root through sudo only when there is something to install.
set -eu
packages="g++ cmake ninja-build pkg-config ccache libdeflate-dev zlib1g-dev libssl-dev libicu-dev libpugixml-dev libfreetype-dev libharfbuzz-dev libhyphen-dev libcmark-dev libp11-kit-dev
  libfontconfig-dev libjpeg62-turbo-dev libpng-dev libopenjp2-7-dev libjbig2dec0-dev liblcms2-dev libtiff-dev libwebp-dev libcli11-dev nlohmann-json3-dev libcurl4-openssl-dev libcpp-httplib-dev
  fonts-liberation fonts-urw-base35 fonts-dejavu-core hyphen-en-us"
for purpose in "$@"; do
  case $purpose in
    tests) packages="$packages fonts-inter-variable fonts-ipafont-gothic fonts-noto-color-emoji catch2 libcairo2-dev openssl softhsm2 opensc clang-14 libclang-rt-14-dev lld-14 clang-format-14 clang-tidy-14" ;;
    bench) packages="$packages libbenchmark-dev libcairo2-dev" ;;
    docs) packages="$packages doxygen" ;;
    *) echo "usage: tools/install_packages.sh [tests|bench|docs]…" >&2; exit 2 ;;
  esac
done
missing=""
for package in $packages; do
  dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q 'ok installed' || missing="$missing $package"
done
[ -z "$missing" ] && exit 0
echo "Installing:$missing"
as_root=""
if [ "$(id -u)" != 0 ]; then
  command -v sudo >/dev/null || { echo "Please run as root: apt-get install$missing" >&2; exit 1; }
  as_root=sudo
fi
$as_root apt-get update -qq
# shellcheck disable=SC2086
DEBIAN_FRONTEND=noninteractive $as_root apt-get install -y -qq --no-install-recommends $missing >/dev/null
