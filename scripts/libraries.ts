/**
 * `npm run libraries -- <folder>`: loads every browser build below the folder alone in a page of the bundled Chromium, and
 * holds the names that it makes, and whether it throws, to what is found by following it. A folder of packages from a registry
 * makes a good one.
 */
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { basename, join } from 'node:path';
import { scriptFacts } from '../src/core/order/script-facts.ts';
import type { ScriptFacts } from '../src/core/order/steps.ts';
import { startBrowser } from '../test/support/browser.ts';

const [folder] = process.argv.slice(2);
if (folder === undefined) {
  console.error('Name a folder of libraries: npm run libraries -- <folder>');
  process.exit(2);
}

/** Larger builds are rare, and take long. */
const MOST_BYTES = 3e6;
const SELDOM = /(?:^|\/)(?:node_modules|src|es|esm|tests?|specs?|locales?|i18n|examples?|demos?|docs?)\//;

const builds = readdirSync(folder, { recursive: true })
  .map(String)
  .filter((path) => path.endsWith('.js') && !SELDOM.test(path) && isNamedAfterItsPackage(path))
  .filter((path) => statSync(join(folder, path)).size < MOST_BYTES);

/** The builds of a package are called as it is. */
function isNamedAfterItsPackage(path: string): boolean {
  const [top = ''] = path.split('/');
  const plain = (text: string) => text.toLowerCase().replace(/[^a-z0-9]/g, '');
  const stem = plain(basename(path).replace(/(?:[-.](?:min|umd|bundle|full|all|pkgd))*\.js$/, ''));
  return stem.length > 1 && plain(top).startsWith(stem);
}

const server = createServer(({ url = '' }, response) => {
  const path = decodeURIComponent(url.slice(2));
  if (url.startsWith('/p')) {
    response.setHeader('content-type', 'text/html');
    const script = path === '' ? '' : `<script src="/s${encodeURIComponent(path)}"></script>`;
    response.end(`<!doctype html><html><head></head><body>${script}</body></html>`);
  } else if (builds.includes(path)) {
    response.setHeader('content-type', 'text/javascript; charset=utf-8');
    response.end(readFileSync(join(folder, path)));
  } else {
    response.statusCode = 404;
    response.end();
  }
});
await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
const browser = await startBrowser();

/** The names of the global object, and what was thrown, once a page with that build was loaded. */
async function opened(path: string): Promise<{ names: string[]; thrown: string[] }> {
  const page = await browser.newPage();
  const thrown: string[] = [];
  page.on('pageerror', (error) => thrown.push(`${error.name}: ${error.message}`));
  await page.route(
    (url) => !url.href.startsWith(address),
    (route) => route.abort(),
  );
  await page.goto(`${address}/p${encodeURIComponent(path)}`);
  const names = await page.evaluate(() => Object.getOwnPropertyNames(globalThis));
  await page.close();
  return { names, thrown };
}

/** What no script can say as a name nobody needs. */
function isIdentifier(name: string): boolean {
  return /^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u.test(name);
}

function found(facts: ScriptFacts | null) {
  const sure = new Set<string>();
  const all = new Set<string>();
  const needs: string[] = [];
  for (const { does, name, isSure, piece } of facts?.atLoad ?? []) {
    if (does === 'makes') {
      all.add(name);
      if (isSure) sure.add(name);
    } else if (does === 'needs' && isSure && piece === 0 && !all.has(name)) needs.push(name);
  }
  const isOpen = facts?.isUnknown === true || (facts?.atLoad.some(({ does }) => does === 'unknown') ?? false);
  return { sure, all, needs, isOpen };
}

const given = new Set((await opened('')).names);
let equal = 0;
for (const path of builds) {
  const { names, thrown } = await opened(path);
  const facts = scriptFacts(readFileSync(join(folder, path), 'utf8'), 'script');
  const { sure, all, needs, isOpen } = found(facts);
  const made = names.filter((name) => !given.has(name) && isIdentifier(name));
  const missed = isOpen ? [] : made.filter((name) => !all.has(name));
  // Who throws does not come to all that it would make.
  const extra =
    thrown.length > 0
      ? []
      : [...sure].filter((name) => !given.has(name) && isIdentifier(name) && !made.includes(name));
  const isRefused = thrown.some((text) => text.startsWith('SyntaxError'));
  const isAlike =
    (facts === null) === isRefused && thrown.length > 0 === (needs.length > 0 || facts === null);
  if (missed.length + extra.length === 0 && isAlike) equal++;
  else console.log(`${path}: missed [${missed}], too many [${extra}], needs [${needs}], thrown [${thrown}]`);
}
console.log(`${equal} of ${builds.length} builds are as they were found.`);
await browser.close();
server.close();
