#!/usr/bin/env python3
# SPDX-License-Identifier: Apache-2.0
"""Makes src/fonts/glyph_list.inc and src/fonts/encoding_tables.inc.

Glyph names come from Debian's package aglfn, the built-in encodings of the standard fonts from the
metrics files of fonts-urw-base35, the others from Python's codecs with the differences that
ISO 32000-2, annex D, states. Run from the top of the project.
"""
import pathlib

AGL = pathlib.Path('/usr/share/aglfn/glyphlist.txt')
METRICS = pathlib.Path('/usr/share/fonts/type1/urw-base35')
NOTE = ('// SPDX-License-Identifier: %s\n// Made by tools/make_font_tables.py; not edited by hand.\n')


def glyph_list():
    names = {}
    for line in AGL.read_text().splitlines():
        if line and not line.startswith('#'):
            name, codes = line.split(';')
            names[name] = int(codes.split()[0], 16)
    return names


def by_metrics(font):
    table = [''] * 256
    for line in (METRICS / font).read_text(encoding='latin-1').splitlines():
        if line.startswith('C '):
            fields = dict(part.split(None, 1) for part in line.split(';') if len(part.split()) == 2)
            code = int(fields['C'])
            if code >= 0:
                table[code] = fields['N'].strip()
    return table


def by_codec(codec, names, changes):
    plain = {}
    for name, code in names.items():
        # Of several names for one character the one that the standard's tables use is the shortest
        # that is not a variant.
        if code not in plain or preferred(name, plain[code]):
            plain[code] = name
    table = [''] * 256
    for code in range(32, 256):
        try:
            table[code] = plain.get(ord(bytes([code]).decode(codec)), '')
        except UnicodeDecodeError:
            pass
    table[127] = ''
    for code, name in changes.items():
        table[code] = name
    return table


STANDARD_NAMES = set()


def preferred(name, than):
    if (name in STANDARD_NAMES) != (than in STANDARD_NAMES):
        return name in STANDARD_NAMES
    return (len(name), name) < (len(than), than)


def rows(values):
    line = ''
    for value in values:
        if len(line) + len(value) > 96:
            yield '    ' + line.rstrip()
            line = ''
        line += value + ' '
    yield '    ' + line.rstrip()


def main():
    names = glyph_list()
    standard = by_metrics('NimbusRoman-Regular.afm')
    latin = {line.split(' N ')[1].split(' ;')[0].strip()
             for line in (METRICS / 'NimbusRoman-Regular.afm').read_text(encoding='latin-1').splitlines()
             if line.startswith('C ')}
    STANDARD_NAMES.update(latin)
    win = by_codec('cp1252', names, {160: 'space', 173: 'hyphen'})
    for code in range(127, 256):
        win[code] = win[code] or 'bullet'
    mac = by_codec('mac_roman', names, {189: 'Omega', 202: 'space', 219: 'currency'})
    out = NOTE % 'BSD-3-Clause'
    out += ('// Names and Unicode values of the Adobe Glyph List 2.0. Copyright 2002-2019 Adobe; its license '
            'is\n// in LICENSES/BSD-3-Clause-AGL.txt.\n')
    out += '\n'.join('{"%s", 0x%04X},' % (name, code) for name, code in sorted(names.items())) + '\n'
    pathlib.Path('src/fonts/glyph_list.inc').write_text(out)
    out = NOTE % 'Apache-2.0'
    for title, table in (('kStandard', standard), ('kWinAnsi', win), ('kMacRoman', mac),
                         ('kSymbol', by_metrics('StandardSymbolsPS.afm')),
                         ('kZapfDingbats', by_metrics('D050000L.afm'))):
        out += 'constexpr Table %s = {\n' % title
        out += '\n'.join(rows('"%s",' % name for name in table)) + '\n};\n'
    pathlib.Path('src/fonts/encoding_tables.inc').write_text(out)


main()
