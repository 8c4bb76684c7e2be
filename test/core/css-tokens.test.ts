import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { test } from 'node:test';
import { TokenType, tokenize } from '@csstools/css-tokenizer';
import fc from 'fast-check';
import { decodeEscapes, scanCss } from '../../src/core/read/css/scan.ts';
import { realFiles } from '../support/real-files.ts';
import { bytesOf } from '../support/site.ts';

/** Everything that can hold or place an address, as one line for each token. */
function toldByCravel(css: string): string[] {
  const bytes = bytesOf(css);
  const told: string[] = [];
  const text = (start: number, end: number) =>
    decodeEscapes(new TextDecoder('utf-8', { ignoreBOM: true }).decode(bytes.subarray(start, end)));
  scanCss(bytes, {
    string: (start, end) => void told.push(`string ${text(start, end)}`),
    url: (start, end) => void told.push(`url ${text(start, end)}`),
    open: (start, end) => void told.push(`open ${text(start, end)}`),
    close: () => void told.push('close'),
    atKeyword: (start, end) => void told.push(`at ${text(start, end)}`),
    boundary: (byte) => void told.push(`boundary ${String.fromCharCode(byte)}`),
    comment: () => {},
    brokenString: () => {},
    stranger: () => {},
  });
  return told;
}

/** The same by the reference tokenizer. */
function toldByReference(css: string): string[] {
  return tokenize({ css }).flatMap((token) => {
    switch (token[0]) {
      case TokenType.String:
        return `string ${token[4].value}`;
      case TokenType.URL:
        return `url ${token[4].value}`;
      case TokenType.Function:
        return `open ${token[4].value}`;
      case TokenType.AtKeyword:
        return `at ${token[4].value}`;
      case TokenType.OpenParen:
        return 'open ';
      case TokenType.CloseParen:
        return 'close';
      case TokenType.Semicolon:
      case TokenType.OpenCurly:
      case TokenType.CloseCurly:
        return `boundary ${token[1]}`;
      default:
        return [];
    }
  });
}

/** Stylesheets that are easily read wrong. */
const cases = String.raw`
a{b:url(c)}|url()|url( )|url( c )|URL(c)|uRl("c")|url( "c" )|url('c')|url("c" d)|url(c d)|url(c"d)|url(c'd)|url(c(d)|url(c\)d)|url(c\ d)|url(c\
d)|url(\63)|url(\63 d)|u\72l(c)|\75\72\6c(c)|\75 rl(c)|url\28 c)|url(c|url( c |url("c|url("c")|url(/**/c)|/*url(c)*/url(d)|/*/url(c)*/|/**/url(c)|/* url(c)|
"url(c)"|'url(c)'|"a\"url(b)"|"a\\"url(b)|"a
url(b)|"a\
url(b)"|'a"b'url(c)|"a|'a|"\|"|'|aurl(b)|-url(b)|--url(b)|_url(b)|1url(b)|1.5url(b)|.5url(b)|1e3url(b)|1e+3url(b)|1e-3url(b)|1-url(b)|1.url(b)|+1url(b)|-1url(b)|#url(b)|#-url(b)|# url(b)|#\75rl(b)|@url(b)|@-url(b)|@1url(b)|@import "a"|@import url(a)|@\69mport "a"|@ import "a"|@@import|<!--url(a)-->url(b)|-->(a)|--(a)|-(a)|\(a)|\
url(a)|src("a")|image-set("a" 1x, url(b) 2x)|(url(a))|[url(a)]|{url(a)}|;url(a)|éurl(a)|url(é)|url(a)url(b)|url(a),url(b)|url(a)/url(b)|url(data:image/png;base64,AA==)|url(#a)|url(a#b)|url(a?b)|url(\))|url(\\)|url(a\)|U+26|u+url(a)|!url(a)|a:url(b)c|*url(a)|>url(a)|a.url(b)|a\.url(b)|format("a")|calc(1px + (2px))|@media(a){url(b)}|@charset "utf-8";|a{}b{}|}};|url(a;b)|url(a{b)|url({)|"{"|'}'|url(a)b(c)|b(url(a))|var(--url(a))|attr(url(a))|url (a)|url/**/(a)
`.split('|');

test('nasty stylesheets: strings, addresses and what places them are those of the reference tokenizer', () => {
  assert.ok(cases.length >= 100);
  for (const css of cases) assert.deepEqual(toldByCravel(css), toldByReference(css), JSON.stringify(css));
});

test('stylesheet soup: strings, addresses and what places them are those of the reference tokenizer', () => {
  const crumb = fc.constantFrom(
    'url(',
    'URL(',
    'src(',
    'u',
    'rl',
    '(',
    ')',
    '"',
    "'",
    '\\',
    '\\7',
    '\\75',
    '\\\n',
    '/*',
    '*/',
    '/',
    '*',
    '@',
    '@import',
    '#',
    '-',
    '--',
    '.',
    '1',
    'e',
    '+',
    '{',
    '}',
    ';',
    ',',
    ' ',
    '\n',
    '\r',
    '\f',
    '\t',
    'a',
    'é',
    '<!--',
    '-->',
    '\u007f',
    '\u0001',
    '_',
  );
  fc.assert(
    fc.property(fc.array(fc.oneof(crumb, fc.string({ maxLength: 2 })), { maxLength: 25 }), (parts) => {
      const css = parts.join('').replaceAll('\uFEFF', '').replaceAll('\0', '').toWellFormed();
      assert.deepEqual(toldByCravel(css), toldByReference(css), JSON.stringify(css));
    }),
    { numRuns: Number(process.env.CRAVEL_SOUP ?? 3000) },
  );
});

test('real stylesheets: strings, addresses and what places them are those of the reference tokenizer', () => {
  const sheets = realFiles(/\.css$/);
  assert.ok(sheets.length >= 4);
  for (const path of sheets) {
    const css = readFileSync(path, 'utf8').replace(/^\uFEFF/, '');
    assert.deepEqual(toldByCravel(css), toldByReference(css), path);
  }
});
