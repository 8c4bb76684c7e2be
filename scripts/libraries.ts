/**
 * `npm run libraries -- <folder>`: loads every browser build below the folder alone in a page of the bundled Chromium, and
 * holds the names that it makes, and whether it throws, to what is found by following it. A folder of packages from a registry
 * makes a good one.
 */
import { readdirSync, statSync } from 'node:fs';
import { basename, join } from 'node:path';
import { differencesAlone } from '../test/support/alone.ts';
import { startBrowser } from '../test/support/browser.ts';

const [folder] = process.argv.slice(2);
if (folder === undefined) {
  console.error('Name a folder of libraries: npm run libraries -- <folder>');
  process.exit(2);
}

/** Larger builds are rare, and take long. */
const MOST_BYTES = 3e6;
const SELDOM = /(?:^|\/)(?:node_modules|src|es|esm|tests?|specs?|locales?|i18n|examples?|demos?|docs?)\//;

const builds = new Map(
  readdirSync(folder, { recursive: true })
    .map(String)
    .filter((path) => path.endsWith('.js') && !SELDOM.test(path) && isNamedAfterItsPackage(path))
    .filter((path) => statSync(join(folder, path)).size < MOST_BYTES)
    .map((path) => [path, join(folder, path)] as const),
);

/** The builds of a package are called as it is. */
function isNamedAfterItsPackage(path: string): boolean {
  const [top = ''] = path.split('/');
  const plain = (text: string) => text.toLowerCase().replace(/[^a-z0-9]/g, '');
  const stem = plain(basename(path).replace(/(?:[-.](?:min|umd|bundle|full|all|pkgd))*\.js$/, ''));
  return stem.length > 1 && plain(top).startsWith(stem);
}

const browser = await startBrowser();
const differences = await differencesAlone(builds, () => browser.newPage());
await browser.close();
for (const difference of differences) console.log(difference);
console.log(`${builds.size - differences.length} of ${builds.size} builds are as they were found.`);
