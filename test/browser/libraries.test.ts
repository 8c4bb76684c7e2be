/** Real builds of libraries, of those that are here for other ends: what each makes and throws in a browser is found. */
import assert from 'node:assert/strict';
import { join } from 'node:path';
import { test } from 'node:test';
import { differencesAlone } from '../support/alone.ts';
import { pagesOfBrowser } from '../support/browser.ts';
import { projectFolder } from '../support/program.ts';

const newPage = pagesOfBrowser();

/** Wrappers of several bundlers, readable and minified; some are for servers and loaders alone, and throw. */
const builds = [
  'acorn/dist/acorn.js',
  'commander/lib/argument.js',
  'css-tree/dist/csstree.js',
  'diff/dist/diff.js',
  'diff/dist/diff.min.js',
  'fflate/umd/index.js',
  'handlebars/dist/handlebars.amd.min.js',
  'handlebars/dist/handlebars.js',
  'handlebars/dist/handlebars.min.js',
  'handlebars/dist/handlebars.runtime.amd.js',
  'handlebars/dist/handlebars.runtime.js',
  're2js/build/index.umd.js',
  'yaml/dist/index.js',
];

test('a library alone on a page makes the names that are found, and throws where that is found', async () => {
  const files = new Map(builds.map((path) => [path, join(projectFolder, 'node_modules', path)]));
  assert.deepEqual(await differencesAlone(files, newPage), []);
});
