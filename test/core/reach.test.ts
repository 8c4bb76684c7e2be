/** Which pages get a file, by any chain of files, and what is reached at all: what a walk through the whole site finds. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { relativePath } from '../../src/core/mend/address.ts';
import { folderOf } from '../../src/core/site/inventory.ts';
import { LiveCheck } from '../support/live.ts';
import type { Files } from '../support/site.ts';

const pages = ['index.html', 'a.html', 'x/b.html', 'x/c.html'];
const sheets = ['s/0.css', 's/1.css', 's/2.css', 's/3.css', 'x/4.css'];
const pictures = ['p/0.svg', 'p/1.svg', 'p/in/2.svg'];
const others = [...sheets, ...pictures];

/** Ways from one file to another, by their numbers. */
interface Made extends Record<'linked' | 'imports' | 'opened' | 'shown', [number, number][]> {
  readonly folders: [number, string][];
  /** Files that have an address of what is not there. */
  readonly broken: number[];
}

const graph: fc.Arbitrary<Made> = fc.record({
  linked: fc.array(fc.tuple(fc.nat(pages.length - 1), fc.nat(sheets.length - 1)), { maxLength: 5 }),
  imports: fc.array(fc.tuple(fc.nat(sheets.length - 1), fc.nat(others.length - 1)), { maxLength: 7 }),
  opened: fc.array(fc.tuple(fc.nat(pages.length - 1), fc.nat(pages.length + pictures.length - 1)), {
    maxLength: 4,
  }),
  shown: fc.array(fc.tuple(fc.nat(pictures.length - 1), fc.nat(pictures.length - 1)), { maxLength: 3 }),
  folders: fc.array(fc.tuple(fc.nat(pages.length - 1), fc.constantFrom('p/', 's/')), { maxLength: 1 }),
  broken: fc.array(fc.nat(pages.length + others.length - 1), { minLength: 1, maxLength: 5 }),
});

interface Site {
  readonly files: Files;
  readonly next: ReadonlyMap<string, ReadonlySet<string>>;
  readonly broken: ReadonlySet<string>;
}

function siteOf({ linked, imports, opened, shown, folders, broken }: Made): Site {
  const next = new Map<string, Set<string>>([...pages, ...others].map((file) => [file, new Set()]));
  const text = new Map<string, string>();
  const lead = (from: string, to: readonly string[], how: (path: string) => string) => {
    text.set(from, (text.get(from) ?? '') + how(relativePath(folderOf(from), to[0] as string)));
    for (const one of to) if (one !== from) next.get(from)?.add(one);
  };
  for (const [page, sheet] of linked)
    lead(
      pages[page] as string,
      [sheets[sheet] as string],
      (path) => `<link rel="stylesheet" href="${path}">`,
    );
  for (const [page, to] of opened)
    lead(pages[page] as string, [[...pages, ...pictures][to] as string], (path) => `<a href="${path}">x</a>`);
  for (const [page, folder] of folders) {
    const inside = others.filter((path) => path.startsWith(folder));
    lead(
      pages[page] as string,
      inside,
      (path) => `<script>const one = "${path.slice(0, path.lastIndexOf(folder))}${folder}" + name;</script>`,
    );
  }
  for (const [sheet, to] of imports)
    lead(sheets[sheet] as string, [others[to] as string], (path) =>
      path.endsWith('.css') ? `@import "${path}";` : `a { background: url(${path}) }`,
    );
  for (const [one, other] of shown)
    lead(pictures[one] as string, [pictures[other] as string], (path) => `<image href="${path}"/>`);
  const all = [...pages, ...others];
  const files = Object.fromEntries(
    all.map((path) => {
      const isBroken = broken.includes(all.indexOf(path));
      const gone = path.endsWith('.css')
        ? 'i { background: url(gone.svg) }'
        : path.endsWith('.svg')
          ? '<image href="gone.svg"/>'
          : '<img src="gone.svg">';
      // Imports stand in front.
      const own = (text.get(path) ?? '')
        .split(/(?<=;)(?=@|a )|(?<=\})(?=@)/)
        .sort((one, other) => Number(other.startsWith('@')) - Number(one.startsWith('@')))
        .join('');
      const whole = own + (isBroken ? gone : '');
      return [
        path,
        path.endsWith('.svg')
          ? `<svg xmlns="http://www.w3.org/2000/svg">${whole}</svg>`
          : path.endsWith('.html')
            ? `<!doctype html><title>x</title>${whole}`
            : whole,
      ];
    }),
  );
  return { files, next, broken: new Set(broken.map((index) => all[index] as string)) };
}

test('pages that get a file are those from which a way leads there through files that are no pages', () => {
  fc.assert(
    fc.property(graph, (made) => {
      const { files, next, broken } = siteOf(made);
      const got = new Map(
        pages.map((page) => {
          const seen = new Set([page]);
          for (const file of seen)
            for (const one of next.get(file) ?? []) if (!pages.includes(one)) seen.add(one);
          return [page, seen] as const;
        }),
      );
      const pagesOf = (some: Iterable<string>) => {
        const all = [...some];
        return pages.filter((page) => all.some((file) => got.get(page)?.has(file)));
      };
      const live = new LiveCheck({ files });
      const { findings, causes } = live.report();
      const absent = findings.filter(({ rule }) => rule === 'absent');
      assert.deepEqual(new Set(absent.map(({ file }) => file)), broken);
      for (const { file, reached } of absent) assert.equal(reached, pagesOf([file]).length > 0, file);
      for (const cause of causes)
        if (cause.rule === 'absent')
          assert.equal(cause.pages, pagesOf(cause.findings.map(({ file }) => file)).length);
      for (const file of others)
        assert.deepEqual(new Set(live.check.pagesThatLoad(file)), new Set(pagesOf([file])), file);
    }),
    { numRuns: Number(process.env.CRAVEL_MADE_UP ?? 100) * 2 },
  );
});
