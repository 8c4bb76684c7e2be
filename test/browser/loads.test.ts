/** What `loads` lists is what a browser asks for, and scripts run in the order that it says. */
import assert from 'node:assert/strict';
import { cpSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { setTimeout } from 'node:timers/promises';
import type { Page } from 'playwright-core';
import { ProjectCheck } from '../../src/disk/check.ts';
import { pagesOfBrowser, servePlainly } from '../support/browser.ts';
import { cravelLater, projectFolder } from '../support/program.ts';
import { type Files, temporaryFolder } from '../support/site.ts';

const newPage = pagesOfBrowser();

/** Ways in which a file is asked for whatever the browser is. */
const SURE = /^(?:blocks parsing|blocks rendering|deferred|module|async|with the page|by script)$/;

/** Pages with scripts of every kind, stylesheets that import others, pictures and frames. */
function madeUp(amount: number): Files {
  let state = 7;
  const random = () => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) >>> 0;
    return state / 2 ** 32;
  };
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const files: Record<string, string> = {
    'm/x.js': 'import "./y.js"; (globalThis.ran ??= []).push("m/x.js");',
    'm/y.js': '(globalThis.ran ??= []).push("m/y.js"); export {};',
    's/a.css': '@import "b.css"; p{color:red}',
    's/b.css': '@import url(c.css);',
    's/c.css': 'p{margin:0}',
    'i/p.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
    'frame.html':
      '<!doctype html><link rel="icon" href="data:,"><link rel="stylesheet" href="s/c.css"><p>f</p>',
  };
  for (const name of ['a', 'b', 'c', 'd'])
    files[`j/${name}.js`] = `(globalThis.ran ??= []).push("j/${name}.js");`;
  const script = () =>
    pick([
      () => `<script src="j/${pick(['a', 'b', 'c', 'd'])}.js"${pick(['', ' defer', ' async', ''])}></script>`,
      () => '<script type="module" src="m/x.js"></script>',
      () => '<script type="module">import "./m/y.js";</script>',
      () => '<script>1;</script>',
      () => `<script src="j/${pick(['a', 'b'])}.js" nomodule></script>`,
      () => '<template><script src="j/d.js"></script></template>',
      () => '<script>fetch("i/p.svg");</script>',
    ])();
  const other = () =>
    pick([
      '<link rel="stylesheet" href="s/a.css">',
      '<link rel="stylesheet" href="s/c.css">',
      '<link rel="stylesheet" href="s/b.css" media="print">',
      '<img src="i/p.svg" alt="">',
      '<iframe src="frame.html"></iframe>',
      '<noscript><img src="i/none.svg" alt=""></noscript>',
      '<p>x</p>',
    ]);
  for (let index = 0; index < amount; index++) {
    const some = Array.from({ length: 2 + Math.floor(random() * 6) }, () =>
      random() < 0.6 ? script() : other(),
    );
    files[`p${index}.html`] =
      `<!doctype html><meta charset="utf-8"><title>p</title><link rel="icon" href="data:,">${script()}${script()}<body>${some.join('\n')}`;
  }
  return files;
}

/** Pages that are made up; `npm run long` makes more. */
const PAGES = Number(process.env.CRAVEL_PAGES ?? 40);
/** Pages that are open at once: most of their time they wait. */
const AT_ONCE = 10;

/** Holds `loads` to the browser, for pages of a folder; `isMarked` where its scripts say themselves that they ran. */
async function compare(folder: string, pages: readonly string[], isMarked: boolean): Promise<void> {
  const server = await servePlainly(folder);
  const check = new ProjectCheck(folder);
  await check.look();
  const waiting = [...pages];
  const work = async () => {
    const page = await newPage();
    if (!isMarked) await markScripts(page, server.address);
    for (let path = waiting.shift(); path !== undefined; path = waiting.shift()) {
      const told = check.loads(path);
      const { asked, ran } = await loadedBy(page, server.address, path, sureOf(told));
      compareOne(path, asked, ran, told);
    }
    await page.close();
  };
  try {
    await Promise.all(Array.from({ length: Math.min(AT_ONCE, pages.length) }, work));
  } finally {
    server.close();
  }
}

/** Has each script say that it runs. */
async function markScripts(page: Page, address: string): Promise<void> {
  await page.route(/\.m?js$/, async (route) => {
    const response = await route.fetch();
    const path = decodeURIComponent(route.request().url().slice(address.length));
    const body = `(globalThis.ran ??= []).push(${JSON.stringify(path)});${await response.text()}`;
    await route.fulfill({ response, body });
  });
}

/** What a page asks for, and its scripts in the order in which they ran: a busy machine gets time for what is `expected`. */
async function loadedBy(
  page: Page,
  address: string,
  path: string,
  expected: readonly string[],
): Promise<{ asked: Set<string>; ran: readonly string[] }> {
  const asked = new Set<string>();
  const listen = (request: { url(): string }) => {
    const { pathname } = new URL(request.url());
    if (request.url().startsWith(address)) asked.add(decodeURIComponent(pathname.replace('/ferry/', '')));
  };
  page.on('request', listen);
  await page.goto(address + path, { waitUntil: 'networkidle' });
  for (let waits = 0; waits < 50 && !expected.every((one) => asked.has(one)); waits++) await setTimeout(100);
  page.off('request', listen);
  const ran: string[] = await page.evaluate(() => (globalThis as { ran?: string[] }).ran ?? []);
  asked.delete(path);
  return { asked, ran };
}

/** What a page surely asks for; an icon that all pages have is asked for once. */
function sureOf({ steps }: ReturnType<ProjectCheck['loads']>): readonly string[] {
  return steps.flatMap(({ kind, target, way }) =>
    target !== null && kind !== 'icon' && SURE.test(way) ? target : [],
  );
}

function compareOne(
  path: string,
  asked: ReadonlySet<string>,
  ran: readonly string[],
  told: ReturnType<ProjectCheck['loads']>,
): void {
  const listed = new Set(told.steps.map(({ target }) => target));
  for (const one of asked) assert.ok(listed.has(one), `${path}: ${one} is asked for, and not listed`);
  for (const one of sureOf(told)) assert.ok(asked.has(one), `${path}: ${one} is listed, and not asked for`);
  // Scripts that nobody waits for run whenever they come.
  const free = new Set(told.scripts.flatMap(({ script, runs }) => (runs === 'async' ? script : [])));
  const inOrder = told.scripts
    .map(({ script }) => script)
    .filter((one) => ran.includes(one) && !free.has(one));
  assert.deepEqual(
    inOrder,
    ran.filter((one) => !free.has(one)),
    path,
  );
}

test('the files of a page are those that a browser asks for, its scripts in the order in which they run', async (t) => {
  const files = madeUp(PAGES);
  await compare(
    temporaryFolder(t, files),
    Object.keys(files).filter((path) => /^p\d+\.html$/.test(path)),
    true,
  );
  const demo = temporaryFolder(t);
  cpSync(join(projectFolder, 'demo/gullhaven'), demo, { recursive: true });
  await compare(demo, ['index.html', 'piers/north.html', 'timetable.html'], false);
});

test('so they are in a project of every starter', async (t) => {
  const folder = temporaryFolder(t);
  const hold = async (starter: string) => {
    assert.equal((await cravelLater(folder, 'scaffold', starter, '--starter', starter, '--yes')).code, 0);
    const site = join(folder, starter, starter === 'source' ? 'src' : '');
    const pages = readdirSync(site, { recursive: true }).map(String);
    await compare(site, pages.filter((path) => path.endsWith('.html')).slice(0, 2), false);
  };
  await Promise.all(readdirSync(join(projectFolder, 'starters')).map(hold));
});
