#!/bin/sh
# SPDX-License-Identifier: Apache-2.0
# Makes the reference of the public headers as web pages; anything that Doxygen warns of is an error.
#   tools/make_reference.sh [FOLDER]     otherwise build/reference
set -eu
cd "$(dirname "$0")/.."
tools/install_packages.sh docs
LUMVET_REFERENCE=${1:-build/reference}
LUMVET_VERSION=$(sed -n 's/^project(lumvet VERSION \([0-9.]*\).*/\1/p' CMakeLists.txt)
export LUMVET_REFERENCE LUMVET_VERSION
mkdir -p "$LUMVET_REFERENCE"
doxygen docs/api/Doxyfile
