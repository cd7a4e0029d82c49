#!/bin/sh
# SPDX-License-Identifier: Apache-2.0
# Prints a public header with its comments as Doxygen reads them: the first is the file's, those
# above a declaration belong to it, and so do those behind one on its line; examples are indented.
exec sed -E -e '1s|.*|/// \\file|' \
  -e 's|^( *)//( .*)?$|\1///\2|' \
  -e 's|^( *)///   ([^ ])|\1///     \2|' \
  -e 's|^([^/"]*[^/" ])( +)// (.*)$|\1\2///< \3|' "$1"
