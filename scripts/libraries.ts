/**
 * `npm run libraries -- <folder>`: loads every browser build below the folder alone in a page of the bundled Chromium, and
 * holds the names that it makes, and whether it throws, to what is found by following it. A folder of packages from a registry
 * makes a good one.
 */
import { differencesAlone } from '../test/support/alone.ts';
import { startBrowser } from '../test/support/browser.ts';
import { buildsBelow } from './builds-below.ts';

const [folder] = process.argv.slice(2);
if (folder === undefined) {
  console.error('Name a folder of libraries: npm run libraries -- <folder>');
  process.exit(2);
}

const builds = buildsBelow(folder);
const browser = await startBrowser();
const differences = await differencesAlone(builds, () => browser.newPage());
await browser.close();
for (const difference of differences) console.log(difference);
console.log(`${builds.size - differences.length} of ${builds.size} builds are as they were found.`);
