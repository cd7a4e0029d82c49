#!/usr/bin/env python3
# SPDX-License-Identifier: Apache-2.0
"""Makes src/fonts/collection_tables.inc: the characters of Adobe's collections in the order of their
CIDs, and what is left to say of them. Run from the top of the project; --root names a folder into
which the packages were taken apart, in place of the system's.

Sources, all of Debian: the Unicode code map of the Japanese typesetter's fonts and the CID-keyed
fonts of the collections Japan1 and GB1 (texlive-lang-japanese, texlive-lang-chinese), the tables of
Chinese characters of the Unicode database (unicode-data), Python's codecs. python3-fonttools reads
the fonts. Where a collection follows the order of a national standard its CIDs are counted, and each
count must end where the next part of the collection is known to begin: the script ends with an error
otherwise.

Japan1 is whole, as far as code maps lead. GB1 lacks Extension A (its supplement 4), Korea1 its Chinese characters, CNS1 what
came after Big5 (its supplements 1 to 7): their sources do not tell them.
"""
import argparse
import bz2
import pathlib
import re
import unicodedata
import zlib

from fontTools.ttLib import TTFont

NONE = 0xFFFD
TEX = 'usr/share/texlive/texmf-dist/fonts/'


def check(ok, what):
    if not ok:
        raise SystemExit('the sources do not fit together: ' + what)


def code_map(path):
    """Characters to CIDs, of a code map of UTF-16."""
    found = {}
    text = path.read_text()

    def put(code, cid):
        found[ord(bytes.fromhex(code).decode('utf-16-be'))] = cid
    for block in re.findall(r'begincidchar(.*?)endcidchar', text, re.S):
        for code, cid in re.findall(r'<([0-9a-fA-F]+)>\s*(\d+)', block):
            put(code, int(cid))
    for block in re.findall(r'begincidrange(.*?)endcidrange', text, re.S):
        for first, last, cid in re.findall(r'<([0-9a-fA-F]+)>\s*<([0-9a-fA-F]+)>\s*(\d+)', block):
            for i in range(int(last, 16) - int(first, 16) + 1):
                put('%0*x' % (len(first), int(first, 16) + i), int(cid) + i)
    return found


def glyph_cid(name):
    return int(name[3:]) if name.startswith('cid') else 0


def font_characters(font):
    return {code: glyph_cid(name) for code, name in font.getBestCmap().items()
            if glyph_cid(name) and not is_private(code)}


def substitutions(font, tags):
    """Pairs of CIDs: what is replaced, and by what."""
    table = font['GSUB'].table
    for tag in tags:
        for record in table.FeatureList.FeatureRecord:
            if record.FeatureTag != tag:
                continue
            for index in record.Feature.LookupListIndex:
                for part in table.LookupList.Lookup[index].SubTable:
                    part = getattr(part, 'ExtSubTable', part)
                    if part.LookupType == 1:
                        yield from ((glyph_cid(a), glyph_cid(b)) for a, b in part.mapping.items())
                    elif part.LookupType == 3:
                        for a, others in part.alternates.items():
                            yield from ((glyph_cid(a), glyph_cid(b)) for b in others)


def is_private(code):
    return 0xE000 <= code < 0xF900 or code >= 0xF0000 or code < 0x20 or code == 0xA0


def is_second_choice(code):
    """Radicals and compatibility forms, beside the characters that they look like."""
    return 0x2E80 <= code < 0x2FE0 or 0xF900 <= code < 0xFB00 or 0x2F800 <= code < 0x2FA20


def plainest(codes):
    return min(codes, key=lambda code: (is_second_choice(code), code))


class Collection:
    def __init__(self, size):
        self.characters = [NONE] * size  # by CID
        self.cids = {}  # by character
        self.wide = {}  # by character, of codes of two bytes
        self.newer = {}  # by character, as it was drawn anew in 2004
        self.vertical = {}  # CIDs by CID

    def put(self, cid, code):
        self.characters[cid] = code
        self.cids.setdefault(code, cid)

    def take(self, cids):
        by_cid = {}
        for code, cid in cids.items():
            by_cid.setdefault(cid, []).append(code)
        for cid, codes in by_cid.items():
            self.characters[cid] = plainest(codes)
        for code, cid in cids.items():
            self.cids.setdefault(code, cid)

    def count(self, first, codes, codec, last, what):
        """Puts the characters of codes one after the other, and checks where that ends."""
        cid = first
        for code in codes:
            character = code if isinstance(code, int) and codec is None else decoded(codec, code)
            if character is None:
                continue
            if self.characters[cid] == NONE:
                self.put(cid, character)
            else:
                check(same(self.characters[cid], character), '%s, CID %d' % (what, cid))
            self.cids.setdefault(character, cid)
            cid += 1
        check(cid == last + 1, '%s ends at %d, not at %d' % (what, cid - 1, last))

    def vertical_forms(self):
        """Those that Unicode keeps as characters of their own."""
        for code in list(range(0xFE10, 0xFE1A)) + list(range(0xFE30, 0xFE45)):
            plain = unicodedata.normalize('NFKC', chr(code))
            base = wide_form(plain) or (ord(plain) if len(plain) == 1 else 0)
            if base in self.cids and code in self.cids:
                self.vertical[self.cids[base]] = self.cids[code]


def wide_form(text):
    code = ord(text[0])
    return code + 0xFEE0 if 0x21 <= code <= 0x7E and len(text) == 1 else 0


def same(one, other):
    return unicodedata.normalize('NFKC', chr(one)) == unicodedata.normalize('NFKC', chr(other))


def decoded(codec, code):
    size = 1 if code < 0x100 else 2 if code < 0x10000 else 4
    try:
        text = code.to_bytes(size, 'big').decode(codec)
    except UnicodeDecodeError:
        return None
    return ord(text) if len(text) == 1 else None


def block(rows, cells):
    return [row << 8 | cell for row in rows for cell in cells]


def japan1(root):
    fonts = root / TEX / 'opentype/public/haranoaji'
    maps = root / TEX / 'cmap/uptex-fonts'
    made = Collection(23060)
    older = code_map(maps / 'UniJISup-UTF16-H')
    newer = code_map(maps / 'UniJIS2004up-UTF16-H')
    font = TTFont(fonts / 'HaranoAjiMincho-Regular.otf')
    own = font_characters(font)
    # The typesetter's maps have the wide forms of quotes, the font the narrow ones.
    changed = {code: older[code] for code in older if code in own and
               own[code] not in (older[code], newer[code])}
    check(set(changed) == {0x2018, 0x2019, 0x201C, 0x201D}, 'quotes of Japan1')
    taken = {code: cid for code, cid in older.items() if not is_private(code)}
    taken.update({code: own[code] for code in changed})
    made.take({**own, **taken})
    made.take(newer)
    made.newer = {code: newer[code] for code in older if newer[code] != older[code]}
    # JIS X 0208 in its own order: 1125 to 7477 are its Chinese characters of 1983.
    for number, code in enumerate(block(range(0xB0, 0xF5), range(0xA1, 0xFF))):
        character = decoded('euc_jp', code)
        if character and code < 0xF4A5:
            skipped = 43 if code >= 0xD0A1 else 0  # row 47 ends early
            check(older[character] == 1125 + number - skipped, 'JIS X 0208, code %X' % code)
    made.wide = {**changed, 0xA2: 713, 0xA3: 714, 0xAC: 751, 0xA7: 720, 0xA8: 647, 0xB0: 707,
                 0xB1: 694, 0xB4: 645, 0xB6: 778, 0xD7: 695, 0xF7: 696}
    for code, cid in made.wide.items():
        check(cid in range(633, 780), 'wide forms of JIS X 0208')
    for i in range(95):
        made.characters[231 + i] = made.characters[1 + i]
    made.vertical = dict(substitutions(font, ['vert']))
    upright = code_map(maps / 'UniJISup-UTF16-V')
    for code, cid in upright.items():
        if 0x239B <= code <= 0x23AD:
            made.vertical[older[code]] = cid
    # What is left are other forms of characters that are known.
    tags = ['vert', 'vrt2', 'hwid', 'fwid', 'pwid', 'hkna', 'vkna', 'pkna', 'ruby', 'trad', 'nlck',
            'jp78', 'jp83', 'jp90', 'hojo', 'expt', 'hist', 'aalt']
    for _ in range(3):
        for base, other in substitutions(font, tags):
            if made.characters[other] == NONE:
                made.characters[other] = made.characters[base]
    return made


def gb1(root):
    made = Collection(30284)
    taken = {}
    for path in sorted((root / TEX / 'opentype/public/fandol').glob('Fandol[FHKS]*.otf')):
        for code, cid in font_characters(TTFont(path)).items():
            check(taken.setdefault(code, cid) == cid, 'fonts of GB1')
    made.take(taken)
    for i in range(95):
        made.characters[814 + i] = made.characters[1 + i] if i != 4 else 0xA5
    made.characters[7716] = 0x20
    # Supplement 1: the traditional characters of GB/T 12345 that the standard for simplified ones
    # lacks; two of them were kept as they were.
    simplified = {code: decoded('gb2312', code) for code in block(range(0xA1, 0xFF), range(0xA1, 0xFF))}
    have = set(simplified.values())
    traditional = []
    for code, character in sorted((int(v), u) for u, v in unihan(root, 'kGB1')):
        place = (code // 100 + 0xA0) << 8 | (code % 100 + 0xA0)
        kept = chr(character) in '後麽' and code < 8800
        if character not in have and simplified.get(place) != character and not kept:
            have.add(character)
            traditional.append(character)
    made.count(7717, traditional, None, 9896, 'GB/T 12345')
    # Supplement 2: the signs of GBK, then its characters.
    cells = [cell for cell in range(0x40, 0xFF) if cell != 0x7F]
    signs = block([0xA2], range(0xA1, 0xAB)) + block([0xA8, 0xA9], [c for c in cells if c < 0xA1])
    known = {made.characters[cid] for cid in range(1, 9897)}
    signs = [code for code in signs if code not in (0xA95B,)]
    have = set(made.characters[:9897]) | {ord(unicodedata.normalize('NFKC', chr(code)))
                                          for code in made.characters[:9897] if 0x2E80 <= code < 0x2FE0}
    made.count(9897, [code for code in signs if (decoded('gb18030', code) or 0x4E00) not in known
                      and not 0xE000 <= decoded('gb18030', code) < 0xF900], 'gb18030', 10071, 'signs of GBK')
    han = block(range(0x81, 0xA1), cells) + block(range(0xAA, 0xFE), [c for c in cells if c < 0xA1])
    # Five forms for compatibility share the CIDs of the characters that they are forms of.
    han = [code for code in han if not 0xFD9C <= code <= 0xFDA0] + block([0xFE], range(0x40, 0x50))
    made.count(10072, [code for code in han if decoded('gb18030', code) not in have and
                       not 0xE000 <= decoded('gb18030', code) < 0xF900], 'gb18030', 22046,
               'characters of GBK')
    made.count(22047, [code for code in block([0xFE], range(0x50, 0xA1)) if code != 0xFE7F], 'gb18030',
               22126, 'what GBK has beyond Unicode 1.1')
    made.vertical_forms()
    return made


def korea1(root):
    del root
    made = Collection(18352)
    for i in range(95):
        made.put(1 + i, 0x20 + i if i != 60 else 0x20A9)
        made.characters[8094 + i] = made.characters[1 + i]
    cells = range(0xA1, 0xFF)
    # The filler has no CID, two signs came later.
    signs = [code for code in block(range(0xA1, 0xAD), cells) if code not in (0xA4D4, 0xA2E6, 0xA2E7)]
    made.count(101, signs, 'cp949', 1085, 'signs of KS X 1001')
    made.count(1086, block(range(0xB0, 0xC9), cells), 'cp949', 3435, 'syllables of KS X 1001')
    more = list(range(0x41, 0x5B)) + list(range(0x61, 0x7B)) + list(range(0x81, 0xFF))
    made.count(9333, [code for code in block(range(0x81, 0xC7), more)
                      if code >> 8 <= 0xA0 or code & 0xFF <= 0xA0], 'cp949', 18154, 'other syllables')
    return made


def cns1(root):
    made = Collection(19179)
    for i in range(95):
        made.put(1 + i, 0x20 + i)
        made.characters[13648 + i] = made.characters[1 + i]
    cells = list(range(0x40, 0x7F)) + list(range(0xA1, 0xFF))
    signs = [code for code in block([0xA1, 0xA2, 0xA3], cells) if code <= 0xA3BF
             and code != 0xA3BC]
    at = signs.index(0xA1F6)
    signs[at], signs[at + 1] = signs[at + 1], signs[at]
    # Four lines of rows of dashes have CIDs elsewhere; their places stay free.
    for number, code in enumerate(signs):
        character = decoded('big5', code) or decoded('cp950', code)
        if character and not 0xA159 <= code <= 0xA15C:
            made.put(99 + number, character)
    check(99 + len(signs) - 1 == 505, 'signs of Big5')
    planes = {1: [], 2: []}
    for character, place in unihan(root, 'kCNS1992'):
        plane, code = place.split('-')
        if plane == '2' or plane == '1' and int(code, 16) >= 0x4421:  # before it are signs
            planes[int(plane)].append((int(code, 16), character))
    made.count(595, [u for _, u in sorted(planes[1])], None, 5995, 'plane 1 of CNS 11643')
    made.count(5996, [u for _, u in sorted(planes[2])], None, 13645, 'plane 2 of CNS 11643')
    made.vertical_forms()
    return made


def unihan(root, field):
    path = root / 'usr/share/unicode/Unihan_OtherMappings.txt.bz2'
    with bz2.open(path, 'rt', encoding='utf-8') as lines:
        for line in lines:
            if line.startswith('U+') and '\t' + field + '\t' in line:
                code, _, places = line.rstrip('\n').split('\t')
                for place in places.split():
                    yield int(code[2:], 16), place


def literal(characters):
    """Rows of a string of UTF-16."""
    escapes = {0x22: '\\"', 0x5C: '\\\\', 0x3F: '\\?'}
    row = ''
    for number, code in enumerate(characters):
        hidden = (unicodedata.category(chr(code))[0] in 'MCZ' and code != 0x20)
        row += escapes.get(code) or (('\\U%08x' if code > 0xFFFF else '\\u%04x') % code if hidden or
                                     code == NONE else chr(code))
        if number % 32 == 31:
            yield row
            row = ''
    if row:
        yield row


def runs(pairs):
    """Of pairs whose halves both grow by one: first, other, how many."""
    out = []
    for one, other in sorted(pairs.items()):
        if out and one == out[-1][0] + out[-1][2] and other == out[-1][1] + out[-1][2]:
            out[-1][2] += 1
        else:
            out.append([one, other, 1])
    return out


def table(name, pairs):
    out = 'constexpr Run %s[] = {\n' % name
    line = ''
    for run in runs(pairs):
        item = '{0x%X, %d, %d},' % tuple(run)
        if len(line) + len(item) > 95:
            out += '    ' + line.rstrip() + '\n'
            line = ''
        line += item + ' '
    return out + '    ' + line.rstrip() + '\n};\n'


def main():
    options = argparse.ArgumentParser()
    options.add_argument('--root', type=pathlib.Path, default=pathlib.Path('/'))
    root = options.parse_args().root
    out = ('// SPDX-License-Identifier: BSD-3-Clause\n'
           '// Made by tools/make_collections.py, which names the sources; not edited by hand.\n'
           '// Of code maps: Copyright 1990-2019 Adobe, 2017-2020 Japanese TeX Development Community; '
           'LICENSES/\n// BSD-3-Clause-CMap.txt. Of the Unicode database: LICENSES/Unicode-Data.txt.\n')
    for name, make in (('Japan1', japan1), ('Gb1', gb1), ('Korea1', korea1), ('Cns1', cns1)):
        made = make(root)
        while made.characters[-1] == NONE:
            made.characters.pop()
        first = {}
        for cid, code in enumerate(made.characters):
            if code != NONE:
                first.setdefault(code, cid)
        others = {code: cid for code, cid in made.cids.items() if first.get(code) != cid}
        known = sum(code != NONE for code in made.characters)
        print('%s: %d of %d CIDs, %d characters otherwise, %d upright' % (
            name, known, len(made.characters), len(others), len(made.vertical)))
        out += 'constexpr std::u16string_view k%s =\n' % name
        out += '\n'.join('    u"%s"' % row for row in literal(made.characters)) + ';\n'
        for title, pairs in (('Others', others), ('Vertical', made.vertical), ('Wide', made.wide),
                             ('Newer', made.newer)):
            if pairs:
                out += table('k%s%s' % (name, title), pairs)
    pathlib.Path('src/fonts/collection_tables.inc').write_text(out)
    print('%d bytes, %d packed' % (len(out.encode()), len(zlib.compress(out.encode(), 9))))


main()
