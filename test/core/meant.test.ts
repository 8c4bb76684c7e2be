/** What was meant is found by indexes, which must find what a look at every file would. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { nameDistance } from '../../src/core/mend/name-distance.ts';
import { NearIndex } from '../../src/core/mend/near-index.ts';
import { decoderFor } from '../../src/core/read/encoding.ts';
import { positionsIn } from '../../src/core/read/lines.ts';
import { byteOffsets } from '../../src/core/read/offsets.ts';
import { makeSource } from '../../src/core/read/source.ts';
import { globMatcher } from '../../src/core/site/globs.ts';
import { makeInventory } from '../../src/core/site/inventory.ts';
import { lookalikesOf } from '../../src/core/site/lookalikes.ts';
import { segmentsTo } from '../../src/core/site/walk.ts';

const step = fc.constantFrom('a', 'b', 'c');
const folder = fc.array(step, { maxLength: 5 }).map((steps) => steps.map((name) => `${name}/`).join(''));

test('of the files that end alike, those that share most steps and lie nearest come first', () => {
  const paths = fc
    .uniqueArray(folder, { minLength: 1, maxLength: 120 })
    .map((all) => all.map((one) => `${one}x.css`));
  fc.assert(
    fc.property(paths, folder, fc.array(step, { maxLength: 3 }), (files, from, steps) => {
      const wanted = [...steps, 'x.css'];
      const shared = (path: string) => {
        const own = path.split('/');
        let count = 0;
        while (count < own.length && count < wanted.length && own.at(-1 - count) === wanted.at(-1 - count))
          count++;
        return count;
      };
      const distance = (path: string) => segmentsTo(from, path).length;
      const expected = files.toSorted(
        (a, b) => shared(b) - shared(a) || distance(a) - distance(b) || (a < b ? -1 : 1),
      );
      const found = lookalikesOf(makeInventory(files)).sameEnd(wanted, from, 1);
      assert.deepEqual(
        found,
        expected.slice(0, 16).map((path) => ({ path, shared: shared(path) })),
      );
    }),
    { numRuns: 300 },
  );
});

test('names that are nearly another one are found by the index as by a look at each', () => {
  const word = fc.stringMatching(/^[a-c]{1,4}$/);
  const name = fc
    .tuple(fc.array(word, { minLength: 1, maxLength: 3 }), fc.constantFrom('svg', 'png', 'min.js', 'js'))
    .map(([words, extension]) => `${words.join('-')}.${extension}`);
  fc.assert(
    fc.property(
      fc.uniqueArray(name, { minLength: 250, maxLength: 400 }),
      fc.array(name, { minLength: 50, maxLength: 50 }),
      (names, written) => {
        const paths = names.toSorted();
        const index = new NearIndex(paths);
        // From so many look-ups on the index is made.
        for (let round = 0; round < 400; round++) index.of('zzzzzz');
        for (const one of written) {
          const near = paths
            .map((path) => ({ path, distance: nameDistance(one, path) }))
            .filter(({ distance }) => distance <= 2)
            .sort((a, b) => a.distance - b.distance || (a.path < b.path ? -1 : 1));
          assert.deepEqual(index.of(one), near, one);
        }
      },
    ),
    { numRuns: 8 },
  );
});

test('lines and columns are those of the decoded text, in every encoding and order', () => {
  const piece = fc.oneof(
    fc.constantFrom('a', ' ', '\n', '\r\n', '\r', 'é', '渡', '🚢', '\t"'),
    fc.string({ minLength: 1, maxLength: 3 }),
  );
  const bytes = fc.oneof(
    fc.array(piece, { maxLength: 60 }).map((pieces) => Buffer.from(pieces.join('').repeat(40))),
    fc.uint8Array({ maxLength: 60 }).map((raw) => Buffer.concat(Array.from({ length: 60 }, () => raw))),
  );
  const encodings = fc.constantFrom('utf-8', 'windows-1252', 'shift_jis', 'gbk', 'euc-jp');
  fc.assert(
    fc.property(
      bytes,
      encodings,
      fc.boolean(),
      fc.array(fc.nat(5000), { maxLength: 12 }),
      (raw, encoding, isMarked, places) => {
        const file = isMarked && encoding === 'utf-8' ? Buffer.concat([Buffer.from('\uFEFF'), raw]) : raw;
        const positionOf = positionsIn(file, encoding);
        for (const place of places) {
          const offset = Math.min(place, file.length);
          // Where a tag or a value starts, ASCII stands before.
          if (offset > 0 && ((file[offset - 1] as number) >= 0x30 || (file[offset] ?? 0x80) >= 0x80))
            continue;
          const before = file.subarray(0, offset).toString('latin1');
          const cut = Math.max(before.lastIndexOf('\n'), before.lastIndexOf('\r')) + 1;
          const line = decoderFor(encoding)
            .decode(file.subarray(cut, offset))
            .replace(/^\uFEFF/, '');
          const expected = { line: before.split(/\r\n|\n|\r/).length, column: line.length + 1 };
          // Between a carriage return and its line feed there is no place.
          if (before.endsWith('\r') && file[offset] === 0x0a) continue;
          assert.deepEqual(positionOf(offset), expected, `${offset} in ${encoding}`);
        }
      },
    ),
    { numRuns: 300 },
  );
});

test('positions of a text and bytes of its file agree, whichever is asked for first', () => {
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom('a', 'é', '渡', '🚢', '\n'), { maxLength: 300 }),
      fc.array(fc.nat(300)),
      (pieces, asked) => {
        const text = pieces.join('').repeat(20);
        const offsetOf = byteOffsets(makeSource(Buffer.from(text)), text);
        const starts = [0];
        for (const character of text) starts.push((starts.at(-1) as number) + character.length);
        for (const one of asked) {
          const position = starts[(one * 17) % starts.length] as number;
          assert.equal(offsetOf(position), Buffer.byteLength(text.slice(0, position)));
        }
      },
    ),
    { numRuns: 100 },
  );
});

test('patterns mean what they say, and none takes longer than its path is long', () => {
  const rows: readonly (readonly [pattern: string, path: string, matches: boolean])[] = [
    ['*.psd', 'a.psd', true],
    ['*.psd', 'a/b.psd', false],
    ['**/*.psd', 'b.psd', true],
    ['**/*.psd', '.hidden/b.psd', true],
    ['drafts/**', 'drafts/a/.b.html', true],
    ['drafts/**', 'draft/a.html', false],
    ['piers/*.html', 'piers/north.html', true],
    ['{piers,boats}/*', 'boats/a.html', true],
    ['pier-[0-9].svg', 'pier-7.svg', true],
    ['pier-?.svg', 'pier-/.svg', false],
    ['!drafts/**', 'drafts/a', false],
    ['!drafts/**', 'piers/a', true],
    ['a(1).png', 'a(1).png', true],
    ['*a'.repeat(40), `${'a'.repeat(5000)}b`, false],
    ['**/*a*/'.repeat(12), `${'ba/'.repeat(400)}b`, false],
  ];
  for (const [pattern, path, matches] of rows)
    assert.equal(globMatcher([pattern])(path), matches, `${pattern} ${path}`);
  for (const bad of ['!(a)', '*'.repeat(70_000), ''])
    assert.throws(() => globMatcher([bad]), /is no pattern that can be matched/, bad.slice(0, 20));
});
