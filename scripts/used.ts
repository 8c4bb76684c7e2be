/**
 * `npm run used -- <folder>`: takes each browser build of a library below the folder, and pages that use it in the right
 * order, before it is there, without it, misspelt, deferred, from a module and once the page is ready. What the bundled
 * Chromium throws on each page is held to what the check says of it, script and name.
 */
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { isIdentifier, namesOfScript } from '../src/core/order/made-names.ts';
import { servePlainly, startBrowser } from '../test/support/browser.ts';
import { checkFiles } from '../test/support/site.ts';
import { buildsBelow } from './builds-below.ts';

const [folder] = process.argv.slice(2);
if (folder === undefined) {
  console.error('Name a folder of libraries: npm run used -- <folder>');
  process.exit(2);
}

const LIBRARY = '<script src="lib.js"></script>';
const ORDER = /^(?:before-its-library|library-left-out|nobody-makes)$/;
/** A page's markup for a name; `isChance` where a browser may come either way. */
const ways: Readonly<Record<string, (name: string) => string>> = {
  'in order': (name) => `${LIBRARY}${run(`var used = ${name};`)}`,
  'used before': (name) => `${run(`var used = ${name};`)}${LIBRARY}`,
  'left out': (name) => run(`var used = ${name};`),
  misspelt: (name) => `${LIBRARY}${run(`var used = ${name}x9;`)}`,
  'deferred alone': (name) => `<script src="lib.js" defer></script>${run(`var used = ${name};`)}`,
  async: (name) => `<script src="lib.js" async></script>${run(`var used = ${name};`)}`,
  'a module behind': (name) => `${LIBRARY}<script type="module">\nconst used = ${name};\n</script>`,
  'a module before': (name) => `<script type="module">\nconst used = ${name};\n</script>${LIBRARY}`,
  'when ready': (name) => `${run(`addEventListener("DOMContentLoaded", () => { ${name}; });`)}${LIBRARY}`,
  'when ready, left out': (name) => run(`addEventListener("DOMContentLoaded", () => {\n${name}; });`),
};

const browser = await startBrowser();
const table = new Map(Object.keys(ways).map((way) => [way, { pages: 0, thrown: 0 }]));
let differing = 0;
let libraries = 0;
for (const [build, path] of buildsBelow(folder)) {
  const bytes = readFileSync(path);
  const { makes, needs, runsAs, isOpen } = namesOfScript(bytes.toString());
  const name = makes.find((one) => isIdentifier(one) && one.length > 1) ?? makes[0];
  // What lacks a base, and what may make anything, is another matter.
  if (runsAs !== 'script' || name === undefined || needs.length > 0 || isOpen) continue;
  libraries++;
  await hold(build, bytes, name);
}
await browser.close();
console.log(
  [
    'way | pages | thrown',
    ...Array.from(table, ([way, { pages, thrown }]) => `${way} | ${pages} | ${thrown}`),
  ].join('\n'),
);
console.log(`${libraries} builds, ${differing} pages on which a browser and the check differ.`);
process.exit(differing > 0 ? 1 : 0);

function run(code: string): string {
  return `<script>\n${code}\n</script>`;
}

async function hold(build: string, bytes: Uint8Array, name: string): Promise<void> {
  const site = mkdtempSync(join(tmpdir(), 'cravel-used-'));
  const files: Record<string, string | Uint8Array> = { 'lib.js': bytes };
  const pages = Object.entries(ways).map(([way, make], index) => {
    const file = index === 0 ? 'index.html' : `p${index}.html`;
    files[file] =
      `<!doctype html><html lang="en"><meta charset="utf-8"><title>x</title><link rel="icon" href="data:,"><body>\n${make(name)}`;
    return { way, file };
  });
  for (const [file, content] of Object.entries(files)) writeFileSync(join(site, file), content);
  const { findings } = checkFiles(files);
  const server = await servePlainly(site);
  for (const { way, file } of pages) {
    const page = await browser.newPage();
    const thrown = await missingOn(page, server.address, file);
    await page.close();
    const told = findings.filter((one) => one.file === file && ORDER.test(one.rule));
    const counts = table.get(way) as { pages: number; thrown: number };
    counts.pages++;
    counts.thrown += thrown.length;
    // Who comes first is chance: that it is, is to be told.
    const isAlike =
      way === 'async'
        ? told.some(({ grade, written }) => grade === 'fragile' && written === name)
        : [...new Set(told.map(({ written }) => written))].sort().join() ===
          [...new Set(thrown)].sort().join();
    if (isAlike) continue;
    differing++;
    console.log(
      `${build}, ${way}: a browser says [${thrown}], the check [${told.map(({ rule, written }) => `${rule} ${written}`)}]`,
    );
  }
  server.close();
  rmSync(site, { recursive: true });
}

/** Names that scripts of the page itself do not find. */
async function missingOn(page: Page, address: string, file: string): Promise<string[]> {
  const missing: string[] = [];
  page.on('pageerror', ({ message, stack = '' }) => {
    const [, name] = /^(\S+) is not defined/.exec(message) ?? [];
    if (name !== undefined && stack.includes(file)) missing.push(name);
  });
  await page.route(
    (url) => !url.href.startsWith(address),
    (route) => route.abort(),
  );
  await page.goto(address + file, { waitUntil: 'load' });
  await page.waitForTimeout(20);
  return missing;
}
