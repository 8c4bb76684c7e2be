/** Most references are passed without a question; what is told must be what the rules say when all of them are asked. */
import assert from 'node:assert/strict';
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
      const draft = judgeAddress({ file, reference, target, found, site });
      return draft === null ? [] : [`${file} ${draft.offset} ${draft.rule} ${draft.message}`];
    });
  });
}

test('whatever stands in a site, the rules about addresses say of it what they say when all are asked', () => {
  const names = new Set(addressRules.map(({ name }) => name));
  fc.assert(
    fc.property(page, page, page, fc.boolean(), (one, two, three, isPublished) => {
      const published = isPublished ? publishedAt('https://g.example/ferry/') : null;
      const files: Files = { 'a.html': one, 'x/b.html': two, 'x/index.html': three, ...others };
      const read = (path: string) => bytesOf(files[path] as string);
      const check = startCheck(makeInventory(Object.keys(files)), {
        ...contentOptions(read),
        published,
        places: {},
      });
      takeAll(check, read);
      const told = check
        .report('site', read)
        .findings.filter(({ rule }) => names.has(rule))
        .map(({ file, offset, rule, message }) => `${file} ${offset} ${rule} ${message}`);
      assert.equal(told.sort().join('\n'), expected(files, published).sort().join('\n'));
    }),
    { numRuns: Number(process.env.CRAVEL_MADE_UP ?? 400) },
  );
});
