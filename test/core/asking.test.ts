/** Most references are passed without a question; what is told must be what the rules say when all of them are asked. */
import assert from 'node:assert/strict';
import { createHash } from 'node:crypto';
import { test } from 'node:test';
import fc from 'fast-check';
import { startCheck } from '../../src/core/check/check.ts';
import { Contents } from '../../src/core/check/contents.ts';
import { isBareSpecifier, isJudged } from '../../src/core/check/judged.ts';
import { judgeAddress } from '../../src/core/judge/drafts.ts';
import { addressRules } from '../../src/core/judge/index.ts';
import { readFile } from '../../src/core/read/read.ts';
import { locate } from '../../src/core/resolve/locate.ts';
import { type Published, publishedAt, resolveIn } from '../../src/core/resolve/published.ts';
import { baseAddress, pathAsked } from '../../src/core/resolve/resolve.ts';
import type { SiteView } from '../../src/core/resolve/subject.ts';
import { makeInventory } from '../../src/core/site/inventory.ts';
import { bytesOf, contentOptions, type Files, takeAll } from '../support/site.ts';

const addresses =
  'a.html|../a.html|?q|?a b|#f|#a b||  |\t?x|x|x/|y|X/A.html|A.html|a b.html|a%20b.html|a.html?x y|/a.html|/ferry/a.html|\\a.html|x\\b.html|//h.example/a|http://h.example/a|https://h.example/a|http://localhost/|https://127.0.0.1:80/a|file:///c:/a|c:\\a.html|mailto:me@h.example|x//b.html|./|..|../../a.html|../../../x|p.png|style.css|https://g.example/ferry/a.html|//g.example/ferry/p.png|none.html'.split(
    '|',
  );
const holders: readonly ((address: string) => string)[] = [
  (address) => `<a href="${address}">a</a>`,
  (address) => `<img src="${address}" alt>`,
  (address) => `<link rel=stylesheet href="${address}">`,
  (address) => `<script src="${address}" defer></script>`,
  (address) => `<script src="${address}" integrity=sha256-AAAA defer></script>`,
  (address) => `<form action="${address}"></form>`,
  (address) => `<iframe src="${address}"></iframe>`,
  (address) => `<embed src="${address}">`,
  (address) => `<iframe srcdoc="<img src='${address}'>"></iframe>`,
];
const bases = [
  '',
  '',
  '',
  '<base href="x/">',
  '<base href="../">',
  '<base href="a.html">',
  '<base href="https://h.example/">',
];

const page = fc
  .tuple(
    fc.constantFrom(...bases),
    fc.array(fc.tuple(fc.constantFrom(...holders), fc.constantFrom(...addresses)), { maxLength: 6 }),
  )
  .map(([base, body]) => base + body.map(([holder, address]) => holder(address)).join(''));

const others: Files = {
  'p.png': Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
  'style.css': 'a{}',
  'a b.html': '',
  'y/z.html': '',
};

function expected(files: Files, published: Published | null): string[] {
  const inventory = makeInventory(Object.keys(files));
  const options = contentOptions((path) => bytesOf(files[path] as string));
  const contents = new Contents(options.headOf, options.digestOf);
  const site: SiteView = {
    inventory,
    published,
    places: {},
    entry: 'index.html',
    anchorsOf: () => null,
    contentOf: contents.of,
    holds: contents.holds,
  };
  return Object.entries(files).flatMap(([file, content]) => {
    const reading = readFile(file, bytesOf(content));
    const base = baseAddress(file, reading?.base ?? null);
    return (reading?.references ?? []).flatMap((reference) => {
      if (!isJudged(file, reference) || isBareSpecifier(reference)) return [];
      const target = resolveIn(reference.written, base, published);
      const path = pathAsked(target);
      const found = path === null ? null : locate(inventory, path);
      const draft = judgeAddress({ file, base, reference, target, found, site });
      return draft === null ? [] : [`${file} ${draft.offset} ${draft.rule} ${draft.message}`];
    });
  });
}

const names = new Set(addressRules.map(({ name }) => name));

function told(files: Files, published: Published | null): string[] {
  const read = (path: string) => bytesOf(files[path] as string);
  const options = { ...contentOptions(read), published, places: {} };
  const check = startCheck(makeInventory(Object.keys(files)), options);
  takeAll(check, read);
  return check
    .report('site', read)
    .findings.filter(({ rule }) => names.has(rule))
    .map(({ file, offset, rule, message }) => `${file} ${offset} ${rule} ${message}`);
}

test('whatever stands in a site, the rules about addresses say of it what they say when all are asked', () => {
  fc.assert(
    fc.property(page, page, page, fc.boolean(), (one, two, three, isPublished) => {
      const published = isPublished ? publishedAt('https://g.example/ferry/') : null;
      const files: Files = { 'a.html': one, 'x/b.html': two, 'x/index.html': three, ...others };
      assert.equal(told(files, published).sort().join('\n'), expected(files, published).sort().join('\n'));
    }),
    { numRuns: Number(process.env.CRAVEL_MADE_UP ?? 400) },
  );
});

test('what is written the same over and over is told each time by what it stands for', () => {
  const all = holders.flatMap((hold) => addresses.map(hold)).join('');
  const integrity = (path: string) =>
    createHash('sha256')
      .update(bytesOf(others[path] ?? ''))
      .digest('base64');
  const wrong = integrity('p.png');
  const held = [wrong, integrity('style.css'), wrong]
    .map((value) => `<link rel=stylesheet href="style.css" integrity="sha256-${value}">`)
    .join('');
  for (const published of [null, publishedAt('https://g.example/ferry/')]) {
    const files: Files = {
      'a.html': all + held,
      'x/b.html': all,
      'x/index.html': all,
      'y/b.html': all,
      ...others,
    };
    assert.deepEqual(told(files, published).sort(), expected(files, published).sort());
  }
});

test('each address of another host is asked for once, with all that it is held to', () => {
  const html = [
    '<a href="https://b.example/x#y">1</a><a href="https://b.example/x">2</a><a href="//a.example">3</a>',
    '<script src="https://c.example/l.js" integrity="sha256-AAAA"></script><script src="https://c.example/l.js" integrity="sha256-BBBB"></script><script src="https://c.example/l.js" integrity="sha256-AAAA"></script><script src="https://c.example/l.js"></script>',
    '<form action="https://d.example/"><button formaction="https://d.example/2">x</button></form><a ping="https://d.example/3" href="mailto:a@b.example">x</a>',
    '<img src=" HTTP://E.example:80/a b "><a href="ftp://f.example/">x</a><a href="https://">x</a><a href="tel:1">x</a><img src="\\\\g.example\\p.png">',
  ].join('');
  const files: Files = {
    'index.html': html,
    'b.html': '<img src="https://b.example/x"><img src="https://0.example/">',
  };
  const read = (path: string) => bytesOf(files[path] as string);
  const check = startCheck(makeInventory(Object.keys(files)), { ...contentOptions(read), isOnline: true });
  takeAll(check, read);
  assert.deepEqual(
    check.questions().map(({ address, integrities }) => [address, ...integrities].join(' ')),
    [
      'https://0.example/',
      'https://a.example/',
      'https://b.example/x',
      'https://c.example/l.js sha256-AAAA sha256-BBBB',
      'http://e.example/a%20b',
      'https://g.example/p.png',
    ].sort(),
  );
});

test('what was answered of a file is asked again only where it is no longer so', () => {
  const svg = '<svg xmlns="http://www.w3.org/2000/svg"/>';
  let files: Record<string, string | null> = { 'a.js': 'let a', 'b.svg': svg, 'c.js': 'let c' };
  const asked: string[] = [];
  const contents = new Contents(
    (path) => {
      asked.push(`head ${path}`);
      const text = files[path] ?? null;
      return text === null ? null : bytesOf(text);
    },
    (path) => {
      asked.push(`digest ${path}`);
      const text = files[path] ?? null;
      return text === null ? null : createHash('sha256').update(text).digest('base64');
    },
  );
  const digest = createHash('sha256').update('let a').digest('base64');
  const told = (): unknown[] => [
    contents.of('a.js'),
    contents.of('b.svg'),
    contents.holds('a.js', `sha256-${digest}`),
    contents.holds('a.js', 'sha256-AAAA'),
  ];
  const first = told();
  assert.deepEqual(first.slice(2), [true, false]);
  assert.deepEqual(asked, ['head a.js', 'head b.svg', 'digest a.js', 'digest a.js']);
  assert.deepEqual(told(), first);
  assert.equal(asked.length, 4);
  const rows: readonly (readonly [
    written: readonly string[],
    now: typeof files,
    others: readonly string[],
  ])[] = [
    [['a.js', 'b.svg', 'c.js', 'd.js'], {}, []],
    [['b.svg'], { 'b.svg': `${svg} ` }, []],
    [['b.svg'], { 'b.svg': 'let b' }, ['b.svg']],
    [['a.js'], { 'a.js': 'let b' }, ['a.js']],
    [['a.js'], { 'a.js': 'let a' }, ['a.js']],
    [['c.js'], { 'c.js': svg }, []],
    // What cannot be read holds all that is promised.
    [['a.js'], { 'a.js': null }, ['a.js']],
    [['b.svg'], {}, []],
  ];
  for (const [written, now, others] of rows) {
    files = { ...files, ...now };
    assert.deepEqual([...contents.renewed(written)], others, JSON.stringify(now));
    told();
  }
  assert.deepEqual(told().slice(2), [true, true]);
});
