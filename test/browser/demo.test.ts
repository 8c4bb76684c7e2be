import assert from 'node:assert/strict';
import { join } from 'node:path';
import { test } from 'node:test';
import { pagesOfBrowser, serve } from '../support/browser.ts';
import { cravel } from '../support/program.ts';
import { checkAsJson } from '../support/report.ts';
import { temporaryFolder } from '../support/site.ts';

const newPage = pagesOfBrowser();

const pages = ['', 'timetable.html', 'fares.html', 'boats.html', 'piers/north.html', 'piers/south.html'];
/** Kinds that a browser loads with the page, as against those that a visitor follows. */
const loaded = new Set(['stylesheet', 'script', 'module', 'image', 'font', 'media', 'frame', 'icon']);

/** What each page asks for and does not get, as `page address`; the address is from the host's root. */
async function failures(site: string): Promise<string[]> {
  const server = await serve(site);
  const found = new Set<string>();
  const open = async (path: string) => {
    const page = await newPage({ viewport: { width: 1280, height: 4000 }, deviceScaleFactor: 2 });
    page.on('response', (response) => {
      if (response.status() !== 200) found.add(new URL(response.url()).pathname);
    });
    await page.goto(server.address + path, { waitUntil: 'networkidle' });
    await page.close();
  };
  await Promise.all(pages.map(open));
  server.close();
  return [...found].sort();
}

test('the browser misses exactly what the check calls broken, on the demo site with mistakes and without', async (t) => {
  const folder = temporaryFolder(t);
  cravel(folder, 'demo', 'try');
  assert.deepEqual(await failures(join(folder, 'try/gullhaven-ferry')), []);

  const site = join(folder, 'try/gullhaven-ferry-with-mistakes');
  const report = checkAsJson(site);
  const broken = report.findings
    .filter(
      ({ kind, grade, rule }) =>
        kind !== null && loaded.has(kind) && (grade === 'broken' || rule === 'beyond-site'),
    )
    // Served below /ferry/: what leads out of the site leads to the host's root.
    .map(({ rule, target, written }) =>
      target === null || rule === 'beyond-site' ? written.replace(/^(?:\.\.\/)+/, '/') : `/ferry/${target}`,
    );
  assert.deepEqual([...new Set(broken)].sort(), await failures(site));
  assert.ok(broken.length >= 6);
});
