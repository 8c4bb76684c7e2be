import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { parseURL, serializePath } from 'whatwg-url';
import { relativePath } from '../../src/core/mend/address.ts';
import { baseAddress, plainPath, resolve } from '../../src/core/resolve/resolve.ts';
import { folderOf } from '../../src/core/site/inventory.ts';

const rows: readonly (readonly [written: string, base: string, expected: string | null])[] = [
  ['b.html', 'a.html', 'b.html'],
  ['b.html', 'x/y/a.html', 'x/y/b.html'],
  ['../b.html', 'x/y/a.html', 'x/b.html'],
  ['./.././b', 'x/y/a.html', 'x/b'],
  ['', 'x/a.html', 'x/a.html'],
  ['?q=1', 'x/a.html', 'x/a.html'],
  ['#f', 'x/a.html', 'x/a.html'],
  ['.', 'x/a.html', 'x/'],
  ['..', 'x/a.html', ''],
  ['../', 'x/y/a.html', 'x/'],
  ['/b.html?q#f', 'x/a.html', 'b.html'],
  ['/', 'x/a.html', ''],
  [' b\n.html\t', 'a.html', 'b.html'],
  ['..\\b.html', 'x/a.html', 'b.html'],
  ['%2e%2E/b%20c.html', 'x/a.html', 'b c.html'],
  ['caf%C3%A9.html', 'a.html', 'café.html'],
  ['b%2Fc.html', 'a.html', 'b%2Fc.html'],
  ['100%.html', 'a.html', '100%.html'],
  ['b.html?x=../..', 'x/a.html', 'x/b.html'],
  ['../b.html', 'a.html', 'beyond'],
  ['../../b.html', 'x/a.html', 'beyond'],
  ['/../b.html', 'x/a.html', 'beyond'],
  ['https://gullhaven.example/', 'a.html', null],
  ['//gullhaven.example/', 'a.html', null],
  ['\\\\gullhaven.example', 'a.html', null],
  ['mailto:crew@gullhaven.example', 'a.html', null],
  ['data:,x', 'a.html', null],
  ['javascript:void 0', 'a.html', null],
];

test('an address resolves as the URL standard says', () => {
  for (const [written, base, expected] of rows) {
    const target = resolve(written, base);
    const got = target.in === 'site' ? target.path : target.in === 'beyond' ? 'beyond' : null;
    assert.equal(got, expected, `${written} from ${base}`);
  }
});

test('a base element moves the folder that addresses start from', () => {
  const from = (base: string) => {
    const target = resolve('b.html', baseAddress('x/a.html', base));
    return target.in === 'site' ? target.path : target.in;
  };
  assert.deepEqual(['y/', '../', '/z/q', 'https://gullhaven.example/'].map(from), [
    'x/y/b.html',
    'b.html',
    'z/b.html',
    'elsewhere',
  ]);
});

test('any relative address leads where the reference parser of the URL standard takes it', () => {
  const part = fc.oneof(
    fc.constantFrom('..', '.', 'a', 'B-c', '%41', 'é', ' ', '%2e', ';', '~', '%zz'),
    fc.string({ maxLength: 3 }),
  );
  const written = fc.array(part, { maxLength: 6 }).map((parts) => parts.join('/'));
  const base = 'one/two/three/four/five/six/page.html';
  fc.assert(
    fc.property(written, (text) => {
      const target = resolve(text, base);
      const page = parseURL(`https://site.invalid/${base}`);
      assert.ok(page);
      const led = parseURL(text, { baseURL: page });
      const path = led === null ? '' : serializePath(led);
      // Empty steps, control characters and encoded slashes are ours to judge; the rest is the standard's.
      fc.pre(target.in === 'site' && !/\/\/|%2f|[\0-\x1f]/i.test(path + text.replace(/\\/g, '/')));
      const expected = path.slice(1);
      assert.equal(encodeURI(target.path.toWellFormed()), encodeURI(percentDecoded(expected)));
    }),
    { numRuns: 2000 },
  );
});

test('a plain address leads where it leads when nothing is taken for granted', () => {
  const step = fc.constantFrom(
    '..',
    'a',
    'a',
    'b.html',
    'b.html',
    '.',
    '...',
    '',
    '?',
    '%',
    'a:b',
    ':',
    '\\',
    'c d',
    'é',
  );
  const written = fc.array(step, { maxLength: 6 }).map((steps) => steps.join('/'));
  const base = fc.constantFrom('a.html', 'b/a.html', 'b/c/', 'b/c/d/e.html', '');
  let plain = 0;
  fc.assert(
    fc.property(written, base, (address, from) => {
      const path = plainPath(address, from);
      if (path === null) return;
      const target = resolve(address, from);
      assert.deepEqual(
        [target.in, target.in === 'site' && target.path],
        ['site', path],
        `${address} in ${from}`,
      );
      plain++;
    }),
    { numRuns: 5000 },
  );
  assert.ok(plain > 300, `${plain} plain`);
});

test('the address written for a file leads to that file from any folder', () => {
  const name = fc
    .string({ minLength: 1, maxLength: 6, unit: 'grapheme' })
    .filter((text) => !/[/\0]|^\.{1,2}$/.test(text) && text.isWellFormed());
  const path = fc.array(name, { minLength: 1, maxLength: 4 }).map((parts) => parts.join('/'));
  fc.assert(
    fc.property(path, path, (from, to) => {
      const target = resolve(relativePath(folderOf(from), to), from);
      assert.equal(target.in === 'site' && target.path, to);
    }),
  );
});

function percentDecoded(path: string): string {
  const bytes = path.replace(/%([0-9a-f]{2})/gi, (_whole, hex: string) =>
    String.fromCharCode(Number.parseInt(hex, 16)),
  );
  return new TextDecoder().decode(Uint8Array.from(bytes, (character) => character.charCodeAt(0)));
}

test('query, fragment and steps of an address are told apart', () => {
  const rows: readonly (readonly [
    written: string,
    path: string,
    segments: readonly string[],
    query: string,
    fragment: string | null,
  ])[] = [
    ['a', 'x/a', ['a'], '', null],
    ['a?b', 'x/a', ['a'], '?b', null],
    ['a?b#c', 'x/a', ['a'], '?b', 'c'],
    ['a#c?b', 'x/a', ['a'], '', 'c?b'],
    ['a?b?c', 'x/a', ['a'], '?b?c', null],
    ['?b', 'x/p.html', ['p.html'], '?b', null],
    ['#', 'x/p.html', ['p.html'], '', ''],
    ['', 'x/p.html', ['p.html'], '', null],
    ['  a\t/\n\nb ', 'x/a/b', ['a', 'b'], '', null],
    [' ', 'x/p.html', ['p.html'], '', null],
    ['.', 'x/', [''], '', null],
    ['a/..', 'x/', ['a', '..', ''], '', null],
    ['..', '', ['..', ''], '', null],
  ];
  for (const [written, path, segments, query, fragment] of rows) {
    const target = resolve(written, 'x/p.html');
    assert.deepEqual(
      target,
      { in: 'site', path, folder: 'x/', segments, query, fragment },
      JSON.stringify(written),
    );
  }
});

test('a plain address is resolved in one go, and comes to the same', () => {
  for (const base of ['p.html', 'x/p.html', 'x/y/p.html'])
    for (const address of [
      'a',
      'a/b',
      '../a',
      '../../a',
      '../a/b?c',
      'a?b',
      'a..b',
      '.a',
      'a.',
      'a/.b',
      '..a/b',
    ]) {
      const plain = plainPath(address, base);
      const target = resolve(address, base);
      assert.equal(plain, target.in === 'site' ? target.path : null, `${address} in ${base}`);
    }
  for (const address of [
    '',
    '.',
    './a',
    'a/.',
    'a/..',
    'a//b',
    '/a',
    'a b',
    'a%20b',
    'a\\b',
    'x:a',
    '../',
    '?a',
  ])
    assert.equal(plainPath(address, 'x/y/p.html'), null, address);
});
