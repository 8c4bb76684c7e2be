/** Spots that other pages have or lack, looked for again where something changed that they depend on, and nowhere else. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { Ledger } from '../../src/core/check/ledger.ts';
import { SecondLook } from '../../src/core/check/second-look.ts';
import { concerned } from '../../src/core/judge/index.ts';
import type { Answer } from '../../src/core/judge/rule.ts';
import type { Finding } from '../../src/core/report.ts';
import { Resolver } from '../../src/core/resolve/resolver.ts';
import type { SiteView } from '../../src/core/resolve/subject.ts';
import { makeInventory } from '../../src/core/site/inventory.ts';
import { sharesIn } from '../support/shares.ts';
import { bytesOf } from '../support/site.ts';

/** A site whose files are put in and taken away, and what was read again since somebody asked. */
function world() {
  const paths = ['index.html', 'a.html', 'b.html', 'd/index.html', 's.css'];
  const inventory = makeInventory(paths);
  const resolver = new Resolver(inventory, null, concerned.address);
  const ledger = new Ledger();
  const site: SiteView = {
    inventory,
    published: null,
    places: {},
    entry: 'index.html',
    anchorsOf: (path) => ledger.get(path)?.anchors ?? null,
    contentOf: () => 'text',
    holds: () => false,
  };
  const shareOf = sharesIn(paths, { site, resolver, isOnline: true });
  const texts = new Map<string, string>();
  const look = new SecondLook(site, ledger, resolver);
  let read: string[] = [];
  const again = (file: string) => {
    read.push(file);
    return bytesOf(texts.get(file) ?? '');
  };
  const inWords = (findings: Iterable<readonly Finding[]>) => {
    const told = [...findings]
      .flat()
      .map(({ file, line, column, written }) => `${file}:${line}:${column} ${written}`);
    const all = [...told.sort(), ...read.sort().map((file) => `read ${file}`)];
    read = [];
    return all;
  };
  return {
    look,
    put(file: string, text: string) {
      texts.set(file, text);
      const before = ledger.get(file);
      const share = shareOf(file, text);
      ledger.set(share);
      look.note(share, before);
    },
    drop(file: string) {
      const share = ledger.get(file);
      assert.ok(share);
      look.forget(share);
      ledger.delete(file);
    },
    spots: () => inWords(look.missingSpots(again)),
    answers: (file: string, answers: ReadonlyMap<string, Answer>) => {
      look.answers = answers;
      const share = ledger.get(file);
      assert.ok(share);
      return inWords([look.answered(share, again)]);
    },
  };
}

type World = ReturnType<typeof world>;

const start = (site: World) => {
  site.put(
    'index.html',
    '<a href="a.html#x">x</a>\n<a href="a.html#y">y</a><a href="#z">z</a><a href="b.html">b</a>',
  );
  site.put('b.html', '<a href="a.html#x">x</a><a href="d/#d">d</a><a href="s.css#s">s</a>');
  site.put('a.html', '<p id=x>');
  site.put('d/index.html', '<p id=d>');
  site.put('s.css', '#s { color: red }');
};
const [y, z] = ['index.html:2:10 a.html#y', 'index.html:2:34 #z'];

/** What happens, and what is told then, and read to tell it. */
const steps: readonly (readonly [what: string, act: (site: World) => void, told: readonly string[]])[] = [
  ['all is new', start, [y, z, 'read index.html']],
  ['nothing happens', () => undefined, [y, z]],
  ['all is prepared for changes', ({ look }) => look.prepare(), [y, z]],
  ['the page has one spot more', (site) => site.put('a.html', '<p id=x><p id=y>'), [z, 'read index.html']],
  ['the page says something else', (site) => site.put('a.html', '<p id=y>y<p id=x>x'), [z]],
  [
    'a link to a spot that is not there',
    (site) => site.put('b.html', '<a href="a.html#q">q</a><a href="d/#d">d</a>'),
    ['b.html:1:10 a.html#q', z, 'read b.html'],
  ],
  [
    'the page has another spot instead',
    (site) => site.put('a.html', '<p id=q><p id=y>'),
    ['index.html:1:10 a.html#x', z, 'read index.html'],
  ],
  ['what cannot be read may have any spot', (site) => site.drop('a.html'), [z, 'read index.html']],
  [
    'it is there again, and has none',
    (site) => site.put('a.html', '<p>'),
    ['b.html:1:10 a.html#q', 'index.html:1:10 a.html#x', y, z, 'read b.html', 'read index.html'],
  ],
  ['a page goes that told of it', (site) => site.drop('b.html'), ['index.html:1:10 a.html#x', y, z]],
  [
    'a folder stands for its page',
    (site) => site.put('b.html', '<a href="d/#e">e</a>'),
    ['b.html:1:10 d/#e', 'index.html:1:10 a.html#x', y, z, 'read b.html'],
  ],
  [
    'which has the spot now',
    (site) => site.put('d/index.html', '<p id=e>'),
    ['index.html:1:10 a.html#x', y, z],
  ],
  [
    'nothing leads to it any more',
    (site) => site.put('b.html', '<p id=z>'),
    ['index.html:1:10 a.html#x', y, z],
  ],
  ['the spots go', (site) => site.put('d/index.html', '<p>'), ['index.html:1:10 a.html#x', y, z]],
  ['the links go', (site) => site.put('index.html', '<p>'), []],
];

test('missing spots are told, and only what depends on a change is read again for them', () => {
  const site = world();
  for (const [what, act, told] of steps) {
    act(site);
    assert.deepEqual(site.spots(), told, what);
  }
});

test('what other hosts answer is told of each reference that asked, and nothing is read where nothing is to be told', () => {
  const site = world();
  const host = 'https://gullhaven.example';
  site.put(
    'index.html',
    `<a href="${host}/gone#x">a</a><a href="${host}/there">b</a><a href=b.html>c</a><img src="${host}/gone" alt=""><form action="${host}/gone"></form>`,
  );
  const served: Answer = { failure: null, moved: null, mismatches: new Set(), unasked: null, isOurs: false };
  const gone = { ...served, failure: 'the host answers 404 Not Found' };
  const rows: readonly (readonly [answers: Readonly<Record<string, Answer>>, told: readonly string[]])[] = [
    [{}, []],
    [{ [`${host}/there`]: served }, []],
    [{ [`${host}/gone`]: served, [`${host}/other`]: gone }, []],
    [
      { [`${host}/gone`]: gone, [`${host}/there`]: served },
      [`index.html:1:10 ${host}/gone#x`, `index.html:1:126 ${host}/gone`, 'read index.html'],
    ],
  ];
  for (const [answers, told] of rows)
    assert.deepEqual(site.answers('index.html', new Map(Object.entries(answers))), told);
});
