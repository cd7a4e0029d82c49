#!/bin/sh
# SPDX-License-Identifier: Apache-2.0
# Draws the table of speeds in the README as bars, on standard output as SVG:
#   tools/speed_chart.sh >docs/how-fast.svg
set -eu
cd "$(dirname "$0")/.."
sed -n '/^## How fast/,/^## /p' README.md | awk -F'|' '
  function escaped(text) { gsub(/&/, "\\&amp;", text); gsub(/</, "\\&lt;", text); return text }
  function trimmed(text) { gsub(/^ +| +$/, "", text); return text }
  NF == 6 && $5 ~ /[0-9]/ && $2 !~ /^ *beside/ {
    ratio = trimmed($5); sub(/ in the median.*/, "", ratio)
    number = ratio; sub(/.* to /, "", number)
    rows++; label[rows] = trimmed($3); text[rows] = ratio; value[rows] = number + 0
  }
  END {
    step = 26; left = 470; width = 640; most = 5
    height = 70 + rows * step
    printf "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 1180 %d\" font-family=\"sans-serif\" font-size=\"14\">\n", height
    printf "<rect width=\"1180\" height=\"%d\" fill=\"#fbfaf7\"/>\n", height
    print "<text x=\"24\" y=\"28\" font-size=\"17\" fill=\"#1f2933\">Time, beside a limit measured in the same run (1 is as fast as the limit)</text>"
    for (i = 1; i <= most; i++) {
      x = left + i * width / most
      printf "<line x1=\"%d\" y1=\"42\" x2=\"%d\" y2=\"%d\" stroke=\"%s\"/>\n", x, x, height - 20, i == 1 ? "#b3261e" : "#ddd9d0"
      printf "<text x=\"%d\" y=\"%d\" text-anchor=\"middle\" fill=\"#6b7280\" font-size=\"12\">%d</text>\n", x, height - 6, i
    }
    for (i = 1; i <= rows; i++) {
      y = 48 + (i - 1) * step
      long = value[i] > most ? most : value[i]
      printf "<text x=\"%d\" y=\"%d\" text-anchor=\"end\" fill=\"#1f2933\">%s</text>\n", left - 10, y + 15, escaped(label[i])
      printf "<rect x=\"%d\" y=\"%d\" width=\"%.1f\" height=\"18\" fill=\"%s\"/>\n", left, y + 1, long * width / most, value[i] <= 1 ? "#216b70" : "#c78529"
      printf "<text x=\"%.1f\" y=\"%d\" fill=\"#1f2933\" paint-order=\"stroke\" stroke=\"#fbfaf7\" stroke-width=\"4\">%s</text>\n", left + long * width / most + 6, y + 15, escaped(text[i])
    }
    print "</svg>"
  }'
