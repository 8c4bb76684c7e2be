/** What was meant is found by indexes, which must find what a look at every file would. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { letterIndex } from '../../src/core/mend/letter-index.ts';
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
import { checkFiles, type Files } from '../support/site.ts';

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

test('what was meant is sure where no other answer makes sense, and at most three are told', () => {
  const meant = (files: Files) => {
    const wrong = checkFiles(files).findings.filter(({ rule }) => RULES.has(rule));
    assert.equal(wrong.length, 1, JSON.stringify(files));
    return (wrong[0]?.mends ?? []).map(
      ({ sure, edits: [edit] }) => `${sure ? 'sure' : 'maybe'} ${edit?.text}`,
    );
  };
  const img = (address: string): Files => ({ 'x/a.html': `<img src="${address}" alt>` });
  const of = (...names: readonly string[]): Files => Object.fromEntries(names.map((name) => [name, '']));
  const rows: readonly (readonly [files: Files, meant: readonly string[]])[] = [
    // One file of the name, wherever it is, and one of several that shares more steps.
    [{ ...img('pier.svg'), ...of('y/pier.svg') }, ['sure ../y/pier.svg']],
    [
      { ...img('pier.svg'), ...of('y/pier.svg', 'z/pier.svg') },
      ['maybe ../y/pier.svg', 'maybe ../z/pier.svg'],
    ],
    [
      { ...img('b/pier.svg'), ...of('y/b/pier.svg', 'z/pier.svg') },
      ['sure ../y/b/pier.svg', 'maybe ../z/pier.svg'],
    ],
    [
      { ...img('b/pier.svg'), ...of('y/b/pier.svg', 'z/b/pier.svg') },
      ['maybe ../y/b/pier.svg', 'maybe ../z/b/pier.svg'],
    ],
    [
      { ...img('c/pier.svg'), ...of('y/pier.svg', 'z/c/pier.svg') },
      ['sure ../z/c/pier.svg', 'maybe ../y/pier.svg'],
    ],
    [{ ...img('../../pier.svg'), ...of('y/pier.svg') }, ['sure ../y/pier.svg']],
    [
      { ...img('pier.svg'), ...of('1/pier.svg', '2/pier.svg', '3/pier.svg', '4/pier.svg') },
      ['maybe ../1/pier.svg', 'maybe ../2/pier.svg', 'maybe ../3/pier.svg'],
    ],
    // A letter or two off, in its own folder; short names are never sure.
    [{ ...img('lighthuse.svg'), ...of('x/lighthouse.svg') }, ['sure lighthouse.svg']],
    [{ ...img('lighthus.svg'), ...of('x/lighthouse.svg') }, ['maybe lighthouse.svg']],
    [{ ...img('q.svg'), ...of('x/b.svg') }, ['maybe b.svg']],
    [
      { ...img('boats1.svg'), ...of('x/boats2.svg', 'x/boats3.svg') },
      ['maybe boats2.svg', 'maybe boats3.svg'],
    ],
    [{ ...img('boat.svg'), ...of('x/harbour.svg') }, []],
    [{ ...img('pier.svg'), ...of('x/pier-north.svg') }, ['maybe pier-north.svg']],
    [{ ...img('sea.svg'), ...of('x/sea-north-west.svg') }, []],
    [{ ...img('pier-north.svg'), ...of('x/pier.svg') }, ['maybe pier.svg']],
    [{ ...img('pier.png'), ...of('x/pier.svg') }, ['sure pier.svg']],
    [{ ...img('north.png'), ...of('x/norths.svg') }, []],
    // Letter case and Unicode form: one is sure, of two nobody can tell.
    [{ ...img('Pier.svg'), ...of('x/pier.svg') }, ['sure pier.svg']],
    [{ ...img('PIER.svg'), ...of('x/pier.svg', 'x/Pier.svg') }, ['maybe pier.svg', 'maybe Pier.svg']],
    [{ 'a.html': '<a href="X/">x</a>', 'x/index.html': '' }, ['sure x/']],
    [{ 'a.html': '<a href="X">x</a>', 'x/index.html': '' }, ['sure x/']],
    // Spots: by letter case only, and only in pages that have them.
    [{ 'a.html': '<a href="b.html#Day">x</a>', 'b.html': '<p id=day>' }, ['sure b.html#day']],
    [
      { 'a.html': '<a href="b.html#DAY">x</a>', 'b.html': '<p id=day><p id=Day>' },
      ['maybe b.html#day', 'maybe b.html#Day'],
    ],
    [{ 'a.html': '<a href="b.html#D">x</a>', 'b.html': '<p id=day>' }, []],
    [{ 'a.html': '<a href="c.html#day">x</a>', 'y/c.html': '<p id=day>' }, ['sure y/c.html#day']],
    [{ 'a.html': '<a href="c.html#day">x</a>', 'y/c.html': '<p id=night>' }, []],
    // A disk's address ends with a path of the site; it is written from the file.
    [
      { 'x/a.html': '<img src="file:///home/ida/site/images/p.svg">', 'images/p.svg': '' },
      ['sure ../images/p.svg'],
    ],
    [
      { 'x/a.html': '<img src="C:\\site\\images\\p.svg">', 'images/p.svg': '', 'p.svg': '' },
      ['sure ../images/p.svg'],
    ],
    [{ 'x/a.html': '<img src="file:///images/q.svg">', 'images/p.svg': '' }, []],
    // An address of this machine, by what follows its host; a name further in is sure only with its folder.
    [{ ...img('http://localhost:5500/images/p.svg?v=2'), 'images/p.svg': '' }, ['sure ../images/p.svg?v=2']],
    [{ ...img('http://127.0.0.1/ferry/images/p.svg'), 'images/p.svg': '' }, ['sure ../images/p.svg']],
    [{ ...img('//localhost/ferry/p.svg'), 'p.svg': '' }, ['maybe ../p.svg']],
    [{ ...img('http://localhost/ferry/q.svg'), 'p.svg': '' }, []],
    [
      { 'x/a.html': '<a href="http://localhost:3000/piers/">x</a>', 'piers/index.html': '' },
      ['sure ../piers/'],
    ],
    [{ 'x/a.html': '<a href="http://localhost:3000">x</a>', 'index.html': '' }, ['sure ../']],
    [{ 'x/a.html': '<a href="http://localhost:3000/q/">x</a>', 'index.html': '' }, []],
    // A folder with an index page, from another folder.
    [{ 'x/a.html': '<a href="piers/">x</a>', 'piers/index.html': '' }, ['sure ../piers/']],
    [{ 'x/a.html': '<a href="piers/">x</a>', 'piers/north.html': '' }, []],
    // Written as it stands: from the root, with its query and fragment, escaped as its file needs it.
    [
      { 'x/a.html': '<img src="/pier.svg?a=1&amp;b=2#c">', 'y/pier.svg': '' },
      ['sure ../y/pier.svg?a=1&amp;b=2#c'],
    ],
    [{ 'x/a.css': 'p{b:url(pier.svg?a&b)}', 'y/pier.svg': '' }, ['sure ../y/pier.svg?a&b']],
    [{ 'x/a.js': 'import "./tide.js?a&b"', 'y/tide.js': 'a' }, ['sure ../y/tide.js?a&b']],
    [{ 'x/a.js': 'import "./tide.js"', 'x/b/tide.js': 'a' }, ['sure ./b/tide.js']],
    [
      { 'sitemap.xml': '<urlset><url><loc>pier.html?a&amp;b</loc></url></urlset>', 'y/pier.html': '' },
      ['sure y/pier.html?a&amp;b'],
    ],
    [{ ...img(' pier.svg '), ...of("y/it's (é).svg", 'y/pier.svg') }, ['sure ../y/pier.svg']],
    [{ ...img("it's (é).svg"), ...of("y/it's (é).svg") }, ['sure ../y/it%27s%20%28%C3%A9%29.svg']],
    // More of what is nearly the name: builds, endings, words in another order, numbers, short names.
    [{ ...img('../../pier.svg'), ...of('y/pier.svg', 'y/pier.png') }, ['sure ../y/pier.svg']],
    [{ 'x/a.html': '<a href="../../pier.svg">x</a>', 'y/pier.svg': '' }, ['sure ../y/pier.svg']],
    [
      { 'x/a.html': '<a href="../../fares.html#dogs">x</a>', 'y/fares.html': '' },
      ['sure ../y/fares.html#dogs'],
    ],
    [{ 'x/a.html': '<a href="../../piers/">x</a>', 'y/piers/index.html': '' }, ['sure ../y/piers/']],
    [{ 'x/a.html': '<a href="pier">x</a>', 'y/pier': '' }, []],
    [{ 'x/a.html': '<iframe src="pier"></iframe>', 'y/pier': '' }, []],
    [{ 'x/a.html': '<a href="index.html">x</a>', 'y/index.html': '' }, []],
    [{ 'x/a.html': '<a href="y/index.html">x</a>', 'y/index.html': '' }, ['sure ../y/index.html']],
    [
      { 'x/a.html': '<a href="y/index.html">x</a>', 'y/index.html': '', 'z/y/index.html': '' },
      ['maybe ../y/index.html', 'maybe ../z/y/index.html'],
    ],
    [{ ...img('north-pier.svg'), ...of('x/pier-north.svg') }, ['maybe pier-north.svg']],
    [{ ...img('pier north.svg'), ...of('x/pier-north.svg') }, ['sure pier-north.svg']],
    [{ ...img('boat-1.png'), ...of('x/boat-12.png') }, ['maybe boat-12.png']],
    [{ ...img('boat-1.2.png'), ...of('x/boat-1.3.png') }, ['sure boat-1.3.png']],
    [{ ...img('ab.png'), ...of('y/ab.svg') }, []],
    [{ ...img('abc.png'), ...of('y/abc.svg') }, ['maybe ../y/abc.svg']],
    [{ ...img('abc.png'), ...of('y/abc.svg', 'y/abc.css') }, ['maybe ../y/abc.svg']],
    [{ ...img('abc.png'), ...of('x/abc.svg') }, ['sure abc.svg']],
    [{ ...img('ab.png'), ...of('x/ab.svg') }, ['maybe ab.svg']],
    [{ ...img('abc.svg'), ...of('x/abd.svg') }, ['sure abd.svg']],
    [{ ...img('ab.svg'), ...of('x/ac.svg') }, ['maybe ac.svg']],
    [{ 'x/a.html': '<script src="abc.js"></script>', 'x/abd.js': 'a' }, ['sure abd.js']],
    [{ 'x/a.html': '<script src="ab.js"></script>', 'x/ac.js': 'a' }, ['maybe ac.js']],
    [{ 'x/a.html': '<script src="tide.js"></script>', 'x/tide.min.js': 'a' }, ['maybe tide.min.js']],
    [{ 'x/a.html': '<script src="tide.min.js"></script>', 'x/tide.js': 'a' }, ['maybe tide.js']],
    [
      { 'x/a.html': '<script src="tide.js"></script>', 'x/tide.css': '', 'y/tide.mjs': 'a' },
      ['maybe ../y/tide.mjs'],
    ],
    [{ ...img('a'), ...of('x/b') }, []],
    [
      { ...img('lighthouse.svg'), ...of('x/lighthousa.svg', 'x/lighthouze.svg') },
      ['maybe lighthousa.svg', 'maybe lighthouze.svg'],
    ],
    [{ ...img('lighthouse.svg'), ...of('x/lighthousa.svg', 'x/lighthoues.png') }, ['sure lighthousa.svg']],
    [{ ...img('pier.png'), ...of('x/pier.svg', 'x/pier.gif') }, ['maybe pier.gif', 'maybe pier.svg']],
    // Folders with an index page, nearly called so.
    [{ 'a.html': '<a href="pier/">x</a>', 'piers/index.html': '' }, ['maybe piers/']],
    [{ 'a.html': '<a href="timetabel/#d">x</a>', 'timetable/index.html': '<p id=d>' }, ['sure timetable/#d']],
    [{ 'a.html': '<a href="timetabel/#d">x</a>', 'timetable/index.html': '<p id=e>' }, []],
    [
      { 'x/a.html': '<a href="../y/timetabel/">x</a>', 'y/timetable/index.html': '' },
      ['sure ../y/timetable/'],
    ],
    [{ 'a.html': '<a href="timetabel/">x</a>', 'timetable/fares.html': '' }, []],
    [{ 'a.html': '<img src="timetabel/" alt>', 'timetable/index.html': '' }, []],
    [{ 'a.html': '<a href="pi/">x</a>', 'pa/index.html': '' }, []],
    [{ 'a.html': '<a href="/timetabel/">x</a>', 'timetable/index.html': '' }, ['sure timetable/']],
    // Letter case of folders without an index page.
    [{ 'a.html': '<a href="X/">x</a>', 'x/b.html': '' }, []],
    [{ 'a.html': '<a href="X/B.html#d">x</a>', 'x/b.html': '<p id=d>' }, ['sure x/b.html#d']],
    [{ 'a.html': '<a href="X/B.html#d">x</a>', 'x/b.html': '<p id=e>' }, []],
    // Names that have what ends a path in an address.
    [{ ...img('pier?1.svg'), ...of('x/pier?1.svg') }, ['sure pier%3F1.svg']],
    [{ ...img('./pier#1.svg'), ...of('x/pier#1.svg') }, ['sure pier%231.svg']],
    [{ ...img(' ../y/./pier#1.svg '), ...of('y/pier#1.svg') }, ['sure ../y/pier%231.svg']],
    [{ ...img('../../pier#1.svg'), ...of('pier#1.svg') }, []],
    [{ ...img('/pier#1.svg'), ...of('x/pier#1.svg') }, []],
    [{ ...img('pier?1.svg'), ...of('y/pier?1.svg') }, []],
    // A page in a folder that means the entry page.
    [{ 'x/a.html': '<a href="index.html">x</a>', 'index.html': '' }, ['sure ../index.html']],
    [
      { 'x/a.html': '<a href="./index.html?a#b">x</a>', 'index.html': '<p id=b>' },
      ['sure ../index.html?a#b'],
    ],
    [{ 'x/a.html': '<a href="y/index.html">x</a>', 'index.html': '' }, []],
    [{ 'x/a.html': '<img src="index.html">', 'index.html': '' }, []],
    [{ 'x/a.html': '<link rel=next href="index.html">', 'index.html': '' }, ['sure ../index.html']],
    [{ 'x/a.html': '<a href="index.htm">x</a>', 'index.html': '' }, ['sure ../index.html']],
    // A disk's address: the file alone where there is one of its name.
    [{ 'x/a.html': '<img src="file:///home/ida/p.svg?x">', 'y/p.svg': '' }, ['sure ../y/p.svg?x']],
    [{ 'x/a.html': '<img src="file:///home/ida/p.svg">', 'y/p.svg': '', 'z/p.svg': '' }, []],
    [{ 'x/a.html': '<a href="file:///home/ida/index.html">x</a>', 'y/index.html': '' }, []],
    [{ 'x/a.html': '<a href="file:///home/ida/">x</a>', 'y/index.html': '' }, []],
    [{ 'x/a.html': '<img src="C:/p.svg">', 'a/b/c/d.svg': '', 'p.svg': '' }, ['sure ../p.svg']],
    [{ 'x/a.html': '<img src="file:///a//b/p.svg">', 'b/p.svg': '', 'a/b/p.svg': '' }, ['sure ../a/b/p.svg']],
    // Of this machine.
    [{ ...img('http://localhost/p.svg'), 'a/b/c/d.svg': '', 'p.svg': '' }, ['sure ../p.svg']],
    [{ ...img('http://localhost/a/b/c/d/e/f/images/p.svg'), 'images/p.svg': '' }, ['sure ../images/p.svg']],
    [{ ...img(' http:\\\\localhost\\images\\p.svg '), 'images/p.svg': '' }, ['sure ../images/p.svg']],
    [{ ...img('http://localhost?p.svg'), 'p.svg': '', 'index.html': '' }, ['sure ../?p.svg']],
    [{ ...img('http://localhost/ferry/p.svg#x'), 'y/p.svg': '' }, ['sure ../y/p.svg#x']],
    [{ ...img('http://localhost/ferry/p.svg'), 'y/p.svg': '', 'z/p.svg': '' }, []],
    // What makes a folder the name of a host.
    [{ ...img('//images/p.svg'), 'images/p.svg': '' }, ['sure ../images/p.svg']],
    [
      { ...img('http://images/p.svg?v=1'), 'x/images/p.svg': '', 'images/p.svg': '' },
      ['sure images/p.svg?v=1'],
    ],
    [{ ...img(' HTTPS:\\\\images/p.svg'), 'images/p.svg': '' }, ['sure ../images/p.svg']],
    [{ 'x/a.html': '<a href="//b.html">x</a>', 'x/b.html': '' }, ['sure b.html']],
    [{ 'x/a.html': '<a href="//piers/">x</a>', 'piers/index.html': '' }, ['sure ../piers/']],
    // Spots: what parts words, plurals, slips.
    [{ 'a.html': '<a href="#tide_table">x</a><p id="tide--table">' }, ['sure #tide--table']],
    [{ 'a.html': '<a href="#tide.tables">x</a><p id="tidetable">' }, ['sure #tidetable']],
    [{ 'a.html': '<a href="#is-land">x</a><p id="iland">' }, ['maybe #iland']],
    [{ 'a.html': '<a href="#abc">x</a><p id="abd">' }, []],
    [{ 'a.html': '<a href="#abcd">x</a><p id="abce">' }, ['maybe #abce']],
    [{ 'a.html': '<a href="#abcde">x</a><p id="abcdf">' }, ['sure #abcdf']],
    [{ 'a.html': '<a href="#abcdef">x</a><p id="abcd">' }, ['maybe #abcd']],
    [{ 'a.html': '<a href="#abcde">x</a><p id="abcdg"><p id="abcdf">' }, ['maybe #abcdf', 'maybe #abcdg']],
    [
      { 'a.html': '<a href="#abcde">x</a><p id="abcdg"><p id="abcdf"><p id="abcdh"><p id="abcdi">' },
      ['maybe #abcdf', 'maybe #abcdg', 'maybe #abcdh'],
    ],
    [{ 'a.html': '<a href="#abcde">x</a><p id="abcd/f">' }, []],
    [
      { 'a.html': '<a href="#Day">x</a><p id="DAY"><p id="dAY"><p id="daY"><p id="day">' },
      ['maybe #DAY', 'maybe #dAY', 'maybe #daY'],
    ],
    // From the root, where the site is published there or not; with blanks around.
    [{ 'x/a.html': '<img src=" /pier.svg?v=1 ">', 'y/pier.svg': '' }, ['sure ../y/pier.svg?v=1']],
    [{ 'x/a.html': '<img src="pier.svg?v=1 ">', 'y/pier.svg': '' }, ['sure ../y/pier.svg?v=1']],
    [{ 'x/a.html': '<script src="tide.js"></script>', 'x/b/tide.js': 'a' }, ['sure b/tide.js']],
    [
      { 'x/a.html': '<script type="importmap">{"imports":{"t":"./tide.js"}}</script>', 'x/b/tide.js': 'a' },
      ['sure ./b/tide.js'],
    ],
  ];
  assert.deepEqual(
    rows.map(([files]) => [JSON.stringify(files), ...meant(files)]),
    rows.map(([files, expected]) => [JSON.stringify(files), ...expected]),
  );
});

const RULES: ReadonlySet<string> = new Set([
  'absent',
  'this-machine',
  'letter-case',
  'absent-anchor',
  'local-disk',
  'beyond-site',
]);

test('a page that was renamed means itself by its old name where the others mean it', () => {
  const link = '<a href="fares.html#dogs">x</a>';
  const renamed = { 'fares-old.html': `${link}<p id=dogs>` };
  const itself = 'fares-old.html: maybe fares-old.html#dogs';
  const rows: readonly (readonly [files: Files, meant: readonly string[]])[] = [
    [{ 'index.html': link, ...renamed }, [itself, 'index.html: maybe fares-old.html#dogs']],
    [
      { 'index.html': link, ...renamed, 'boats.html': link.replace('a href', 'a rel=next href') },
      ['boats.html: maybe fares-old.html#dogs', itself, 'index.html: maybe fares-old.html#dogs'],
    ],
    // Alone it may mean a page that is still to come.
    [{ 'index.html': '', ...renamed }, ['fares-old.html:']],
    // Others mean two pages by it, or another one.
    [
      { 'index.html': link, ...renamed, 'fare.html': '<p id=dogs>' },
      ['fares-old.html: sure fare.html#dogs', 'index.html: sure fare.html#dogs maybe fares-old.html#dogs'],
    ],
    [
      { 'index.html': link, 'fares.old.html': link, 'fares-new.html': '<p id=dogs>' },
      ['fares.old.html: maybe fares-new.html#dogs', 'index.html: maybe fares-new.html#dogs'],
    ],
    // A picture is no page.
    [
      { 'index.html': '<img src="fares.html" alt>', 'fares-old.html': '<img src="fares.html" alt>' },
      ['fares-old.html:', 'index.html: maybe fares-old.html'],
    ],
  ];
  const meant = (files: Files) =>
    checkFiles(files)
      .findings.filter(({ rule }) => rule === 'absent')
      .map(({ file, mends }) => {
        const told = mends.map(({ sure, edits: [edit] }) => ` ${sure ? 'sure' : 'maybe'} ${edit?.text}`);
        return `${file}:${told.join('')}`;
      });
  assert.deepEqual(
    rows.map(([files]) => meant(files)),
    rows.map(([, expected]) => expected),
  );
});

test('a page that is called as one of a project beside this one is a guess', () => {
  const rows: readonly (readonly [files: Files, mends: readonly string[]])[] = [
    [
      { 'index.html': '<a href="../tides/fares.html#dogs">x</a>', 'fares.html': '<p id=dogs>' },
      ['maybe write fares.html#dogs'],
    ],
    [{ 'index.html': '<a href="../f/fares.html">x</a>', 'f/fares.html': '' }, ['sure write f/fares.html']],
    [{ 'f/a.html': '<a href="../../g/fares.html">x</a>', 'fares.html': '' }, ['maybe write ../fares.html']],
    [{ 'fares.html': '<a href="../tides/fares.html">x</a>' }, []],
    [{ 'index.html': '<img src="../tides/pier.svg" alt>', 'i/pier.svg': '' }, ['sure write i/pier.svg']],
  ];
  for (const [files, mends] of rows) {
    const beyond = checkFiles(files).findings.find(({ rule }) => rule === 'beyond-site');
    const titles = beyond?.mends.map(({ sure, title }) => `${sure ? 'sure' : 'maybe'} ${title}`);
    assert.deepEqual(titles, mends, JSON.stringify(files));
  }
});

test('of many words those are proposed that are near, and hardly any other', () => {
  const letters = fc.stringMatching(/^[a-h]{8,50}$/);
  fc.assert(
    fc.property(
      fc.uniqueArray(letters, { minLength: 30, maxLength: 30 }),
      fc.nat(29),
      fc.nat(7),
      (words, at, cut) => {
        const propose = letterIndex(words.map((word, index) => [index * 3, word]));
        const word = words[at] as string;
        const least = word.length > 40 ? 1 : 2;
        const slips = [
          word,
          word.slice(0, cut) + word.slice(cut + 1),
          `${word.slice(0, cut)}x${word.slice(cut)}`,
          `${word.slice(0, cut)}x${word.slice(cut + 1)}`,
          word.slice(0, -1),
          `x${word}`,
          `${word}x`,
        ];
        if (least === 2)
          slips.push(word.slice(2), word.slice(0, -2), word.slice(1, -1), `x${word.slice(1, -1)}x`);
        for (const slip of slips) assert.ok(propose(slip).includes(at * 3), `${slip} of ${word}`);
        // So many words that share no letter with it are not near.
        assert.deepEqual(propose('z'.repeat(word.length)), []);
        const far = propose(word).filter(
          (number) => Math.abs((words[number / 3] as string).length - word.length) > 4,
        );
        assert.deepEqual(far, []);
      },
    ),
    { numRuns: 40 },
  );
});
