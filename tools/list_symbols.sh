#!/bin/sh
# SPDX-License-Identifier: Apache-2.0
# Prints what the libraries of a static build export, one demangled symbol a line: the public
# ones, which headers mark, and those that only the libraries above may use.
#   tools/list_symbols.sh BUILD public core|page|sign
#   tools/list_symbols.sh BUILD private core|page
# To accept changes: tools/list_symbols.sh BUILD update
set -eu
export LC_ALL=C
build=$1

# Global symbols of an archive, defined there, of a visibility.
defined() {
  readelf -sW "$build/liblumvet-$1.a" |
    awk -v seen="$2" '$7 != "UND" && ($5 == "GLOBAL" || $5 == "WEAK") && (seen == "" || $6 == seen) {print $8}' |
    c++filt | grep -E '^(vtable for |typeinfo (name )?for )?lumvet::' | sort -u
}

# Without what only looks public, since it stands within a public class or takes private types; with
# what the templates of result.h call.
public() { defined "$1" DEFAULT | awk '/^lumvet::results::/ || !/::Impl::|lumvet::[a-z_]+::/'; }

private() {
  case $1 in core) above="page sign" ;; *) above=sign ;; esac
  for user in $above; do
    readelf -sW "$build/liblumvet-$user.a"
  done | awk '$7 == "UND" {print $8}' | c++filt | sort -u >"$work/wanted"
  defined "$1" "" >"$work/all"
  public "$1" >"$work/public"
  comm -12 "$work/wanted" "$work/all" | comm -23 - "$work/public"
}

work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
case $2 in
  public) public "$3" ;;
  private) private "$3" ;;
  update)
    for component in core page sign; do
      public $component >cmake/symbols/$component.txt
    done
    private core >cmake/symbols/core-private.txt
    private page >cmake/symbols/page-private.txt
    ;;
esac
