/** The browser is the judge: what fails to load in it is what the check calls broken, none missing, none extra. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { isLoaded } from '../../src/core/read/loaded.ts';
import type { Finding } from '../../src/core/report.ts';
import { cases, files } from '../corpus/reference-cases.ts';
import { pagesOfBrowser, servePlainly } from '../support/browser.ts';
import { cravel } from '../support/program.ts';
import { checkAsJson } from '../support/report.ts';
import { saidByBrowser } from '../support/said-by-browser.ts';
import { temporaryFolder } from '../support/site.ts';

const newPage = pagesOfBrowser();

const folderOf = (index: number) => `cases/${String(index).padStart(3, '0')}`;

/** Pages that are open at once: most of their time they wait. */
const AT_ONCE = 10;

/** A finding as the report has it. */
type Told = Omit<Finding, 'holder'> & { readonly holder: string };

/** True for what a browser asks for by itself. */
function isAsked({ kind, holder, rule }: Told): boolean {
  return rule !== 'absent-anchor' && kind !== null && (isLoaded({ kind }) || holder === 'fetch()');
}

/** A path from the host's root, a folder's index page and slash left out. */
function plainPath(path: string): string {
  return path.replace(/(?:index\.html|\/)$/, '').replace(/\/$/, '');
}

function pathOf(address: string): string {
  return plainPath(decodeURIComponent(new URL(address).pathname.replace(/%(?![0-9a-f]{2})/gi, '%25')));
}

/**
 * Site paths (or addresses from the host's root) that each case asks for and does not get, or cannot use. What is
 * `expected` is waited for, however long the browser takes.
 */
async function refusedBy(
  site: string,
  expected: readonly (readonly string[])[],
  numbers: readonly number[],
): Promise<string[][]> {
  const server = await servePlainly(site);
  const refused: string[][] = [];
  const waiting = [...numbers];
  const work = async () => {
    const owner = {};
    for (let index = waiting.shift(); index !== undefined; index = waiting.shift()) {
      // A page of its own for each case: what arrives late cannot be taken for another one's.
      const page = await newPage({ deviceScaleFactor: 2, viewport: { width: 800, height: 600 } }, owner);
      const found = new Set<string>();
      page.on('response', (response) => {
        if (response.status() >= 400) found.add(pathOf(response.url()));
      });
      page.on('console', (message) => {
        const [, address] = /'integrity' attribute for resource '([^']+)'/.exec(message.text()) ?? [];
        if (address !== undefined) found.add(pathOf(address));
      });
      // What code and preloads ask for comes after the page has loaded.
      const { head, body } = cases[index] as (typeof cases)[number];
      const isLate =
        /import\(|fetch\(|type="module"|preload|poster|<object|<embed|icon|alternate|style|<svg/.test(
          head + body,
        );
      const address = `${server.address}${folderOf(index)}/`;
      await page.goto(address, { waitUntil: isLate ? 'networkidle' : 'load' });
      const wanted = expected[index] ?? [];
      for (let tries = 0; ; tries++) {
        await page.waitForTimeout(isLate ? 250 : 40);
        // Pictures that arrive and are none.
        const none = await page.evaluate(() =>
          [...document.images]
            .filter(
              ({ currentSrc, complete, naturalWidth }) => currentSrc !== '' && complete && naturalWidth === 0,
            )
            .map(({ currentSrc }) => currentSrc),
        );
        for (const picture of none) if (!picture.startsWith('data:')) found.add(pathOf(picture));
        if (tries > 100 || wanted.every((path) => found.has(path))) break;
      }
      refused[index] = [...found].sort();
      await page.close();
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  server.close();
  return numbers.map((index) => refused[index] as string[]);
}

test('what a browser cannot load is what the check calls broken, case by case', async (t) => {
  assert.ok(cases.length >= 150, `${cases.length} cases`);
  const pages = Object.fromEntries(
    cases.map(({ head, body }, index) => [
      `${folderOf(index)}/index.html`,
      `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Case ${index}</title>${head}</head><body>${body}</body></html>`,
    ]),
  );
  const site = temporaryFolder(t, { ...files, ...pages });
  const report = JSON.parse(cravel(site, 'check', '--as', 'json', '--only', 'broken,beyond-site').stdout) as {
    readonly findings: readonly Told[];
  };
  const expected = [...cases.keys()].map((index) => {
    const folder = `${folderOf(index)}/`;
    const reached = new Set([`${folder}index.html`]);
    // What a case's stylesheets, scripts and frames ask for belongs to it.
    for (const file of Object.keys(files)) if (leadsTo(`${folder}index.html`, file)) reached.add(file);
    const ours = report.findings
      .filter((finding) => reached.has(finding.file) && isAsked(finding))
      .map(({ rule, target, written }) =>
        plainPath(
          // Above the root of the site is that of the host.
          target === null || rule === 'beyond-site'
            ? written.replace(/^(?:\.\.\/|%2e%2e\/)+/i, '/')
            : `/ferry/${target}`,
        ),
      );
    return [...new Set(ours)].sort();
  });
  // Whichever number a case has, the browser says the same of it.
  const refused = await saidByBrowser('what is not loaded', cases, async (numbers) => {
    const said = await refusedBy(site, expected, numbers);
    return said.map((paths, at) =>
      paths.map((path) => path.replaceAll(folderOf(numbers[at] as number), '#')),
    );
  });
  const differing = cases.flatMap(({ head, body }, index) => {
    const browsers = (refused[index] ?? []).map((path) => path.replaceAll('#', folderOf(index)));
    const [browser, cravels] = [browsers, expected[index] ?? []].map((paths) => paths.join(' '));
    if (browser === cravels) return [];
    return [`${index}: ${head}${body}\n    browser ${browser || '-'}\n    cravel  ${cravels || '-'}`];
  });
  assert.deepEqual(differing, [], `\n${differing.join('\n')}`);

  function leadsTo(page: string, file: string): boolean {
    const text = String(pages[page]);
    const name = file.split('/').at(-1) as string;
    const direct = (one: string) =>
      text.includes(`${one}"`) || text.includes(`/${one})`) || text.includes(`${one}?`);
    if (!/\.(?:css|mjs|html)$/.test(file) || file === 'index.html') return false;
    if (name === 'index.html') return text.includes('../../frame/"') || text.includes('frame/index.html');
    if (direct(name) && text.includes(file.split('/')[0] as string)) return true;
    return name === 'a.css' && (direct('import.css') || direct('b.css'));
  }
});

/** Links to spots: the fragment as written, what stands in the page, and where its links start from. */
const spots: readonly (readonly [fragment: string, body: string, base?: string])[] = [
  ['pier', '<p id="pier">'],
  ['Pier', '<p id="pier">'],
  ['pier', '<a name="pier">x</a>'],
  ['pier', '<p name="pier">'],
  ['pier', '<img name="pier" alt="">'],
  ['', '<p>'],
  ['top', '<p>'],
  ['TOP', '<p>'],
  ['gone', '<p>'],
  ['caf%C3%A9', '<p id="café">'],
  ['café', '<p id="café">'],
  ['a%20b', '<p id="a%20b">'],
  ['a%20b', '<p id="a b">'],
  ['a b', '<p id="a b">'],
  ['pier ', '<p id="pier">'],
  ['x', '<template><p id="x"></template>'],
  ['x', '<!-- <p id="x"> -->'],
  ['x', '<svg><g id="x"/></svg>'],
  ['x', '<p id=x id=y>'],
  ['y', '<p id=x id=y>'],
  ['%', '<p id="%">'],
  ['x?y', '<p id="x?y">'],
  ['x', '<noscript><p id="x"></noscript>'],
  ['a&amp;b', '<p id="a&amp;b">'],
  // With a base, a fragment alone leads to another page.
  ['pier', '<p id="pier">', '8.html'],
  ['pier', '<p>', '0.html'],
];

test('a spot that the browser does not find is an absent anchor, and no other', async (t) => {
  const pages = spots.map(([fragment, body, base], index) => [
    `${index}.html`,
    `<!doctype html><meta charset="utf-8"><title>x</title>${base === undefined ? '' : `<base href="${base}">`}<a id="link" href="#${fragment}">x</a><div style="height: 4000px"></div>${body}`,
  ]);
  const site = temporaryFolder(t, Object.fromEntries(pages) as Record<string, string>);
  const report = checkAsJson(site, '--only', 'absent-anchor');
  const server = await servePlainly(site);
  const lost: string[] = [];
  const waiting = pages.map(([name]) => name as string);
  const work = async () => {
    const page = await newPage({ viewport: { width: 800, height: 600 } });
    for (let name = waiting.shift(); name !== undefined; name = waiting.shift()) {
      await page.goto(`${server.address}${name}`);
      const link = page.locator('#link');
      const address = await link.evaluate((element) => (element as HTMLAnchorElement).href);
      await link.evaluate((element) => (element as HTMLAnchorElement).click());
      await page.waitForURL(({ href }) => href === address);
      const isFound = await page.evaluate(() => {
        const fragment = location.hash.slice(1);
        return document.querySelector(':target') !== null || fragment === '' || /^top$/i.test(fragment);
      });
      if (!isFound) lost.push(name);
    }
    await page.close();
  };
  await Promise.all(Array.from({ length: 4 }, work));
  server.close();
  assert.deepEqual(report.findings.map(({ file }) => file).sort(), lost.sort());
});
