/** After mending, and after moving whatever can be moved, a browser gets all that a page asks for. */
import assert from 'node:assert/strict';
import { readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { pagesOfBrowser, serve } from '../support/browser.ts';
import { cravel } from '../support/program.ts';
import { temporaryFolder } from '../support/site.ts';

const newPage = pagesOfBrowser();

const below = (folder: string) =>
  readdirSync(folder, { recursive: true })
    .map((path) => String(path).replaceAll('\\', '/'))
    .sort();

/** What the pages of a site ask for and do not get, and what their scripts throw. */
async function failuresOf(site: string): Promise<string[]> {
  const server = await serve(site);
  const found = new Set<string>();
  const page = await newPage({ viewport: { width: 1280, height: 4000 }, deviceScaleFactor: 2 });
  page.on('response', (response) => {
    if (response.status() >= 400) found.add(new URL(response.url()).pathname);
  });
  page.on('pageerror', ({ message }) => found.add(message));
  for (const path of below(site).filter((one) => one.endsWith('.html')))
    await page.goto(server.address + path, { waitUntil: 'load' });
  await page.close();
  server.close();
  return [...found].sort();
}

test('after mend everything on the demo site comes', async (t) => {
  const folder = temporaryFolder(t);
  cravel(folder, 'demo', 'try');
  const site = join(folder, 'try/gullhaven-ferry-with-mistakes');
  assert.ok((await failuresOf(site)).length >= 6);
  assert.equal(cravel(folder, 'mend', '--guesses', '--yes', '--dir', site).code, 0);
  assert.deepEqual(await failuresOf(site), []);
});

test('after a move of every folder of a starter everything comes', async (t) => {
  // `npm run long` takes every starter.
  const starters = ['flat', 'folders', 'assets', 'pages', 'source', 'stage'];
  for (const starter of process.env.CRAVEL_RUNS === undefined ? ['pages', 'source'] : starters) {
    const folder = temporaryFolder(t);
    cravel(folder, 'scaffold', 'ferry', '--starter', starter, '--pages', 'timetable,piers/north');
    const project = join(folder, 'ferry');
    const site = starter === 'source' ? join(project, 'src') : project;
    const folders = readdirSync(site).filter((path) => statSync(join(site, path)).isDirectory());
    // Of one that has no folder its files.
    const all = folders.length > 0 ? folders : ['*.{css,js,svg}'];
    const { code, stderr } = cravel(project, 'move', ...all, 'moved/');
    assert.equal(code, 0, `${starter}: ${stderr}`);
    assert.deepEqual(await failuresOf(site), [], starter);
    const { stdout } = cravel(project, 'check', '--only', 'broken,fragile');
    assert.match(stdout, /Nothing of that is found/, starter);
  }
});
