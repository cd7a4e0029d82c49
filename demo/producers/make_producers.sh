#!/bin/sh
# SPDX-License-Identifier: Apache-2.0
# Prints the small documents in this folder from their sources, each with another general producer.
# Run rarely: the results are committed. Needs Debian's groff, g++ with libcairo2-dev, chromium,
# texlive-latex-base and lmodern.
set -eu
cd "$(dirname "$0")"
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
export SOURCE_DATE_EPOCH=1791963000
tbl notice.ms | groff -ms -Tpdf > notice.pdf
g++ -std=c++20 drawing.cpp -o "$work/drawing" $(pkg-config --cflags --libs cairo)
"$work/drawing" drawing.pdf
chromium --headless --no-sandbox --disable-gpu --disable-background-networking --disable-component-update \
  --disable-sync --no-first-run --user-data-dir="$work/profile" --no-pdf-header-footer \
  --print-to-pdf=tariff.pdf tariff.html
pdflatex -interaction=batchmode -output-directory="$work" loads.tex
cp "$work/loads.pdf" loads.pdf
