/** Projects of every starter, with whatever words, pages, files and libraries people bring, in a real browser. */
import assert from 'node:assert/strict';
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { type TestContext, test } from 'node:test';
import fc from 'fast-check';
import type { Page } from 'playwright-core';
import { parse as parseYaml } from 'yaml';
import { pagesOfBrowser, serve } from '../support/browser.ts';
import { tideclock, wrapped, zipOf } from '../support/library.ts';
import { cravel, projectFolder } from '../support/program.ts';
import { checkAsJson } from '../support/report.ts';
import { temporaryFolder } from '../support/site.ts';

/** Runs for each starter; `npm run long` makes many more. */
const RUNS = Number(process.env.CRAVEL_RUNS ?? 1);

const newPage = pagesOfBrowser();

const scraps = [
  '<Gull>',
  '&amp;',
  '"Haven\'s"',
  '🚢⛴️',
  'مرفأ النورس',
  'מעבורת',
  '{{title}}',
  '</title>',
  '`$\u007bx}`',
  '\\',
  '%20',
  'é',
  '渡船',
  '--',
  '\u00a0',
  'Ferry',
];
const title = fc
  .array(
    fc.oneof(
      { weight: 3, arbitrary: fc.constantFrom(...scraps) },
      fc.string({ unit: 'grapheme', maxLength: 12 }),
    ),
    { minLength: 1, maxLength: 5 },
  )
  .map((pieces) => `T${pieces.join(' ').replace(/\p{Cc}/gu, '')}`);
const path = fc
  .array(fc.constantFrom('north', 'south-pier', 'tides', 'v1.2', '2027'), { minLength: 1, maxLength: 4 })
  .map((steps) => steps.join('/'));

interface Journey {
  readonly title: string;
  readonly pages: readonly string[];
  readonly more: readonly { readonly path: string; readonly title: string }[];
  readonly files: readonly string[];
  readonly adopts: boolean;
}

const journey: fc.Arbitrary<Journey> = fc
  .record({
    title,
    paths: fc.uniqueArray(path, { minLength: 2, maxLength: 4 }),
    titles: fc.array(title, { minLength: 4, maxLength: 4 }),
    split: fc.nat(2),
    files: fc.subarray(['print.css', 'tides.js', 'map.mjs']),
    adopts: fc.boolean(),
  })
  .map(({ title: own, paths, titles, split, files, adopts }) => ({
    title: own,
    pages: paths.slice(0, split),
    more: paths.slice(split).map((wanted, index) => ({ path: wanted, title: `${titles[index]} ${index}` })),
    files,
    adopts,
  }));

/** What a browser makes of a title: white space in one line. */
const asShown = (text: string) => text.replace(/[\t\n\f\r ]+/g, ' ').replace(/^ | $/g, '');

/** Makes the project as the journey says; gives its site and what each page must be called. */
function make(folder: string, starter: string, { title: own, pages, more, files, adopts }: Journey) {
  const project = join(folder, 'site');
  const run = (...args: string[]) => {
    const { code, stderr } = cravel(args[0] === 'scaffold' ? folder : project, ...args);
    assert.equal(code, 0, `${args.join(' ')}\n${stderr}`);
  };
  const list = pages.length > 0 ? ['--pages', pages.join(',')] : [];
  run('scaffold', 'site', '--starter', starter, `--title=${own}`, ...list);
  const { site = '.', places = {} } = parseYaml(readFileSync(join(project, 'cravel.yaml'), 'utf8')) as {
    site?: string;
    places?: Record<string, string>;
  };
  for (const { path: wanted, title: called } of more)
    run('page', wanted, `--title=${called}`, `--description=About ${called}`, '--in-nav');
  for (const name of files) {
    const place = join(site, places[name.endsWith('.css') ? 'styles' : 'scripts'] ?? '.', name);
    mkdirSync(dirname(join(project, place)), { recursive: true });
    writeFileSync(join(project, place), '/* ours */\n');
    run('wire', place);
  }
  if (adopts) {
    writeFileSync(join(folder, 'tideclock-2.3.1.zip'), zipOf(wrapped(tideclock)));
    run('adopt', '../tideclock-2.3.1.zip', '--wire');
  }
  const prefix = places.pages === undefined ? '' : `${places.pages}/`;
  const titles = new Map([['', asShown(own)]]);
  for (const { path: wanted, title: called } of more) titles.set(`${prefix}${wanted}.html`, asShown(called));
  return {
    site: join(project, site),
    titles,
    made: [...pages, ...more.map(({ path: wanted }) => wanted)].map((wanted) => `${prefix}${wanted}.html`),
  };
}

/** Opens a page; gives what did not load, and what went wrong in its scripts. */
async function faultsOf(page: Page, address: string): Promise<string[]> {
  const faults: string[] = [];
  page.removeAllListeners();
  page.on('response', (response) => {
    if (response.status() !== 200 && response.status() !== 206)
      faults.push(`${response.status()} ${response.url()}`);
  });
  page.on('pageerror', (error) => faults.push(error.message));
  await page.goto(address, { waitUntil: 'load' });
  await page.waitForTimeout(50);
  return faults;
}

async function assertFits(page: Page): Promise<void> {
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    for (const width of [320, 768, 1280, 1920]) {
      await page.setViewportSize({ width, height: 800 });
      const overflow = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
      assert.ok(overflow <= 0, `${overflow} pixels stick out at ${width}: ${page.url()}`);
    }
  }
}

async function travel(t: TestContext, starter: string, journey: Journey): Promise<void> {
  const folder = temporaryFolder(t);
  // An empty page leads nowhere, and looks like nothing yet.
  const isBare = starter === 'bare';
  const trip = isBare ? { ...journey, pages: [], more: [] } : journey;
  const { site, titles, made } = make(folder, starter, trip);
  const report = checkAsJson(join(folder, 'site'));
  assert.deepEqual([report.findings, report.unread], [[], []]);
  const server = await serve(site);
  const page = await newPage();
  try {
    for (const file of ['', ...made]) {
      assert.deepEqual(await faultsOf(page, server.address + file), [], file);
      const called = titles.get(file);
      if (called !== undefined) assert.equal(await page.title(), called);
      const seen = await page.evaluate(() => ({
        margin: getComputedStyle(document.body).marginTop,
        year: document.querySelector('[data-year]')?.textContent,
        library: typeof (window as { Tideclock?: unknown }).Tideclock,
        current: document.querySelectorAll('nav [aria-current="page"]').length,
      }));
      if (!isBare) assert.equal(seen.margin, '0px', 'the stylesheet took effect');
      if (file === '' && !isBare) assert.equal(seen.year, ` · ${new Date().getFullYear()}`, 'the script ran');
      else if (file === '') assert.equal(seen.year, undefined);
      else assert.equal(seen.current, 1, 'the navigation marks the page');
      assert.equal(seen.library, trip.adopts ? 'object' : 'undefined');
      if (file === '' || file === made.at(-1)) await assertFits(page);
    }
  } finally {
    await page.close();
    server.close();
  }
}

for (const starter of readdirSync(join(projectFolder, 'starters'))) {
  test(`${starter}: whatever is made of it, nothing is found, everything loads, titles read back, nothing sticks out`, async (t) => {
    await fc.assert(
      fc.asyncProperty(journey, (trip) => travel(t, starter, trip)),
      { numRuns: RUNS, endOnFailure: RUNS < 10 },
    );
  });
}
