#!/usr/bin/env python3
# SPDX-License-Identifier: Apache-2.0
"""Makes src/fonts/glyph_list.inc, src/fonts/encoding_tables.inc and src/fonts/standard_widths.inc.

Glyph names come from Debian's package aglfn, the built-in encodings and the widths of the standard
fonts from the metrics files of fonts-urw-base35, which are as wide, the others from Python's codecs with the differences that
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


# MacExpertEncoding (ISO 32000-2, table D.4): names in the order of their codes.
MAC_EXPERT = """
32 space exclamsmall Hungarumlautsmall centoldstyle dollaroldstyle dollarsuperior ampersandsmall Acutesmall
parenleftsuperior parenrightsuperior twodotenleader onedotenleader comma hyphen period fraction zerooldstyle
oneoldstyle twooldstyle threeoldstyle fouroldstyle fiveoldstyle sixoldstyle sevenoldstyle eightoldstyle
nineoldstyle colon semicolon
61 threequartersemdash 63 questionsmall
68 Ethsmall
71 onequarter onehalf threequarters oneeighth threeeighths fiveeighths seveneighths onethird twothirds
86 ff fi fl ffi ffl parenleftinferior 93 parenrightinferior Circumflexsmall hypheninferior Gravesmall Asmall
Bsmall Csmall Dsmall Esmall Fsmall Gsmall Hsmall Ismall Jsmall Ksmall Lsmall Msmall Nsmall Osmall Psmall Qsmall
Rsmall Ssmall Tsmall Usmall Vsmall Wsmall Xsmall Ysmall Zsmall colonmonetary onefitted rupiah Tildesmall
129 asuperior centsuperior
135 Aacutesmall Agravesmall Acircumflexsmall Adieresissmall Atildesmall Aringsmall Ccedillasmall Eacutesmall
Egravesmall Ecircumflexsmall Edieresissmall Iacutesmall Igravesmall Icircumflexsmall Idieresissmall Ntildesmall
Oacutesmall Ogravesmall Ocircumflexsmall Odieresissmall Otildesmall Uacutesmall Ugravesmall Ucircumflexsmall
Udieresissmall
161 eightsuperior fourinferior threeinferior sixinferior eightinferior seveninferior Scaronsmall
169 centinferior twoinferior
172 Dieresissmall 174 Caronsmall osuperior fiveinferior
178 commainferior periodinferior Yacutesmall 182 dollarinferior
185 Thornsmall 187 nineinferior zeroinferior Zcaronsmall AEsmall Oslashsmall questiondownsmall oneinferior
Lslashsmall
201 Cedillasmall
207 OEsmall figuredash hyphensuperior
214 exclamdownsmall 216 Ydieresissmall
218 onesuperior twosuperior threesuperior foursuperior fivesuperior sixsuperior sevensuperior ninesuperior
zerosuperior 228 esuperior rsuperior tsuperior
233 isuperior ssuperior dsuperior
241 lsuperior Ogoneksmall Brevesmall Macronsmall bsuperior nsuperior msuperior commasuperior periodsuperior
Dotaccentsmall Ringsmall
"""

# The standard fonts whose widths differ, and the metrics files of fonts that are as wide.
STANDARD_FONTS = {'Helvetica': 'NimbusSans-Regular', 'HelveticaBold': 'NimbusSans-Bold',
                  'TimesRoman': 'NimbusRoman-Regular', 'TimesBold': 'NimbusRoman-Bold',
                  'TimesItalic': 'NimbusRoman-Italic', 'TimesBoldItalic': 'NimbusRoman-BoldItalic',
                  'Symbol': 'StandardSymbolsPS', 'ZapfDingbats': 'D050000L'}

STANDARD_NAMES = set()


def by_order(text):
    table = [''] * 256
    code = 0
    for word in text.split():
        if word.isdigit():
            code = int(word)
        else:
            table[code] = word
            code += 1
    return table


def widths(font, wanted):
    """Of the glyphs that a font's own encoding has, or of those wanted."""
    found = {}
    for line in (METRICS / (font + '.afm')).read_text(encoding='latin-1').splitlines():
        if line.startswith('C '):
            fields = dict(part.split(None, 1) for part in line.split(';') if len(part.split()) == 2)
            name = fields['N'].strip()
            if name in wanted:
                found[name] = int(float(fields['WX']))
    return found


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
                         ('kMacExpert', by_order(MAC_EXPERT)),
                         ('kSymbol', by_metrics('StandardSymbolsPS.afm')),
                         ('kZapfDingbats', by_metrics('D050000L.afm'))):
        out += 'constexpr Table %s = {\n' % title
        out += '\n'.join(rows('"%s",' % name for name in table)) + '\n};\n'
    pathlib.Path('src/fonts/encoding_tables.inc').write_text(out)
    out = NOTE % 'Apache-2.0'
    for title, font in STANDARD_FONTS.items():
        own = by_metrics(font + '.afm') if title in ('Symbol', 'ZapfDingbats') else []
        near = {name for name in latin if names.get(name, 0x180) < 0x180}
        wanted = set(own) if own else set(standard) | set(win) | set(mac) | near
        out += 'constexpr NamedWidth k%s[] = {\n' % title
        out += '\n'.join(rows('{"%s", %d},' % item for item in sorted(widths(font, wanted - {''}).items())))
        out += '\n};\n'
    pathlib.Path('src/fonts/standard_widths.inc').write_text(out)


main()
