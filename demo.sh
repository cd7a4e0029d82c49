#!/bin/sh
# SPDX-License-Identifier: Apache-2.0
# Builds Lumvet and runs the main job on made-up documents of the Ostrel Valley bridge office: look,
# draw, read, bind, cut, arrange. Everything it makes is under build/demo. Run it again as often as you like.
set -eu
cd "$(dirname "$0")"
tools/install_packages.sh
[ -f build/build.ninja ] || cmake --preset release -DLUMVET_TESTS=OFF -DLUMVET_BENCH=OFF >/dev/null
cmake --build build --target lumvet-tool make-demo office-services

lumvet=build/bin/lumvet
demo=build/demo
say() { printf '\n\033[1m$ %s\033[0m\n' "$*"; "$@"; }

[ -f "$demo/inspection.pdf" ] || build/bin/make-demo "$demo"
[ -f "$demo/manual.pdf" ] || build/bin/make-demo --manual "$demo/manual.pdf" 3200
rm -rf "$demo/made" && mkdir -p "$demo/made"

say $lumvet inspect $demo/report.pdf
say $lumvet inspect $demo/inspection.pdf --show form,annotations,layers
say $lumvet render $demo/report.pdf --pages 1,4,8 --dpi 100 -o $demo/made/
# Some entries of the outline have to stay behind, which is noted.
say $lumvet merge $demo/report.pdf $demo/annex.pdf@1-2,last $demo/scans/ -o $demo/made/day-12.pdf
say $lumvet split $demo/report.pdf -o $demo/made/chapters --outline 1 --names '{part} {title}'
say $lumvet arrange $demo/report.pdf 'move 11-12 before 1' 'rotate 2 right' -o $demo/made/arranged.pdf
say $lumvet arrange $demo/report.pdf "write '{page} of {pages}' on 2-last" 'booklet A4' -o $demo/made/booklet.pdf
say $lumvet merge $demo/manual.pdf@10last-last demo/producers/notice.pdf -o $demo/made/extract.pdf --without outlines
say $lumvet render $demo/made/day-12.pdf --pages 12last-last --width 500 -o $demo/made/sheets/

say $lumvet text $demo/report.pdf --pages 4
say $lumvet find 'suspension bridge' $demo/report.pdf --pictures $demo/made/found

say $lumvet annotate $demo/annex.pdf --add demo/marks/annex.json -o $demo/made/marked.pdf
say $lumvet annotate $demo/made/marked.pdf --list

say $lumvet annotate $demo/made/marked.pdf --export $demo/made/marks.xfdf

say $lumvet fill $demo/inspection.pdf --list
say $lumvet fill $demo/inspection.pdf --from demo/forms/round.csv --each --names '{bridge}' -o $demo/made/round

say $lumvet compose demo/briefs/costs.json --data demo/briefs/costs-data.json -o $demo/made/costs.pdf --preview $demo/made/costs.png
say $lumvet compose demo/briefs/letter.md --style demo/briefs/office.json -o $demo/made/letter.pdf
say $lumvet redact $demo/made/letter.pdf --text 'Ilse Marren' --pattern '[0-9.]+ mm' --overlay withheld -o $demo/made/letter-public.pdf

# The office's authorities, made up and on this machine alone; the keys' passphrases are all the same.
build/bin/office-services "$demo/made/keys" &
services=$!
trap 'kill $services' EXIT
while [ ! -f "$demo/made/keys/address.txt" ]; do sleep 0.1; done
keys=$demo/made/keys
address=$(cat "$keys/address.txt")
say $lumvet sign $demo/report.pdf --key-file $keys/chief.p12 --key-password-file $keys/passphrase.txt --reason 'Inspected and found safe' --place Ostrel --at 12:64,330,240,72 --mark demo/marks/verlan.png -o $demo/made/signed.pdf
say $lumvet sign $demo/made/signed.pdf --key-file $keys/seal.p12 --key-password-file $keys/passphrase.txt --level b-t --timestamps $address/time -o $demo/made/countersigned.pdf
say $lumvet verify $demo/made/countersigned.pdf --trust $keys/root.pem --online
# A signed form is filled in further, and laid beside what was signed.
say $lumvet sign $demo/inspection.pdf --key-file $keys/chief.p12 --key-password-file $keys/passphrase.txt --field signature --certify fill-in -o $demo/made/certified.pdf
say $lumvet fill $demo/made/certified.pdf --set weather=snow --set 'notes=The fourth hanger as well.' --append -o $demo/made/certified-filled.pdf
say $lumvet verify $demo/made/certified-filled.pdf --trust $keys/root.pem --online
say $lumvet verify $demo/made/certified-filled.pdf --trust $keys/root.pem --online --compare 2 $demo/made/then-and-now.pdf
say $lumvet prolong $demo/made/countersigned.pdf --trust $keys/root.pem --online --timestamps $address/time -o $demo/made/kept.pdf
# Somebody changes one byte of a copy, and is caught.
cp "$demo/made/countersigned.pdf" "$demo/made/tampered.pdf"
printf 'x' | dd of="$demo/made/tampered.pdf" bs=1 seek=200000 conv=notrunc 2>/dev/null
say $lumvet verify $demo/made/tampered.pdf --trust $keys/root.pem --online || [ $? = 4 ]

say $lumvet linearize $demo/manual.pdf -o $demo/made/web.pdf --sizes --loading --load-pages 1,1600 --waterfall $demo/made/loading.png
say $lumvet inspect $demo/made/web.pdf --show overview
# What a server would do with files that are sent to it; one of them is no document.
mkdir -p "$demo/made/uploads"
cp "$demo/report.pdf" "$demo/annex.pdf" "$demo/made/uploads/"
cp "$demo/scans/notes.txt" "$demo/made/uploads/notes.pdf"
say $lumvet linearize $demo/made/uploads -o $demo/made/published --watch --once --settled-after 0.2 || [ $? = 1 ]

head -c 400000 "$demo/report.pdf" > "$demo/made/cut-off.pdf"
say $lumvet repair $demo/made/cut-off.pdf -o $demo/made/mended.pdf
echo ostrel > "$demo/made/password.txt"
say $lumvet inspect demo/producers/locked-r6.pdf --password-file $demo/made/password.txt
say $lumvet protect $demo/report.pdf -o $demo/made/locked.pdf --user-password-file $demo/made/password.txt --refuse copying

printf '\nMade in %s/made:\n' "$demo"
ls "$demo/made"
