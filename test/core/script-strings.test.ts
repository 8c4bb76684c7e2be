import assert from 'node:assert/strict';
import { test } from 'node:test';
import { parse, type Token } from 'acorn';
import fc from 'fast-check';
import { plainStrings } from '../../src/core/read/script/strings.ts';
import { readScriptSource } from '../../src/core/read/script.ts';
import { makeSource } from '../../src/core/read/source.ts';
import { bytesOf } from '../support/site.ts';

/** The strings of a script that hold a dot, by a full parser; null for what is no script. */
function stringsByParser(text: string): string[] | null {
  const tokens: Token[] = [];
  for (const sourceType of ['script', 'module'] as const) {
    tokens.length = 0;
    try {
      parse(text, { ecmaVersion: 'latest', sourceType, allowHashBang: true, onToken: tokens });
      return tokens
        .filter(({ type }) => type.label === 'string')
        .map(({ start, end }) => text.slice(start, end))
        .filter((literal) => literal.includes('.'));
    } catch {}
  }
  return null;
}

const pieces = fc.constantFrom(
  ...[
    '"a.png"',
    "'b.css'",
    '"c\\".js"',
    "'it\\\\'",
    '"',
    "'",
    '\\',
    '`',
    '`$' + '{"d.js"}`',
    '/',
    '//',
    '/*',
    '*/',
    '\n',
  ],
  ...[
    '[',
    ']',
    '{',
    '}',
    '(',
    ')',
    ',',
    ':',
    ';',
    '=',
    '+',
    '.',
    ' ',
    '<!--',
    '-->',
    '--',
    '<',
    '>',
    '#',
    '#!',
  ],
  ...[
    'var a',
    'a',
    'import',
    'export',
    'fetch',
    'URL',
    'f',
    'get',
    '1.5',
    'é',
    '$x',
    'default',
    'as',
    'from',
  ],
);

test('strings found without a parser are those that a parser finds', () => {
  let compared = 0;
  fc.assert(
    fc.property(fc.array(pieces, { maxLength: 14 }), (parts) => {
      const text = parts.join('');
      const found = plainStrings(text)?.map(({ start, end }) => text.slice(start, end));
      const expected = stringsByParser(text);
      if (found === undefined || expected === null) return;
      assert.deepEqual(found, expected, text);
      compared++;
    }),
    { numRuns: 20_000 },
  );
  assert.ok(compared > 500, `${compared} compared`);
});

test('large data says which files it names, and code with addresses is never taken for data', () => {
  const filler = '"word",'.repeat(4000);
  const hintsIn = (code: string) =>
    readScriptSource(makeSource(bytesOf(code)), 'utf-8', false).hints.map(({ written, offset, length }) => [
      written,
      bytesOf(code).subarray(offset, offset + length).length,
    ]);
  assert.deepEqual(
    hintsIn(`set({é: [${filler}"images/pier.png", "images\\/quay.svg", "no file"]}) // "x.png`),
    [
      ['images/pier.png', 15],
      ['images/quay.svg', 16],
    ],
  );
  for (const call of ['fetch("a.json")', 'new Worker("a.js")', 'import("./a.js")'])
    assert.equal(plainStrings(`f([${filler}]); ${call}`), null, call);
  const reading = readScriptSource(makeSource(bytesOf(`f([${filler}]); fetch("a.json")`)), 'utf-8', false);
  assert.deepEqual(
    reading.references.map(({ written }) => written),
    ['a.json'],
  );
});
