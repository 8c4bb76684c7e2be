/** Packed copies in a real browser: all of it loads below any address, and looks as the site did. */
import assert from 'node:assert/strict';
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { type TestContext, test } from 'node:test';
import type { Page } from 'playwright-core';
import { pagesOfBrowser, servePlainly } from '../support/browser.ts';
import { cravel, projectFolder } from '../support/program.ts';
import { temporaryFolder } from '../support/site.ts';

const newPage = pagesOfBrowser();

/** Every page of a site, by its path, as a picture. Fails where anything does not load, or is complained of. */
async function picturesOf(page: Page, folder: string): Promise<Map<string, Buffer>> {
  const server = await servePlainly(folder);
  const pages = readdirSync(folder, { recursive: true }).map(String);
  const pictures = new Map<string, Buffer>();
  for (const path of pages.filter((one) => /\.html$/.test(one)).sort()) {
    const faults: string[] = [];
    page.removeAllListeners();
    page.on('response', (response) => {
      if (response.status() >= 400) faults.push(`${response.status()} ${response.url()}`);
    });
    page.on('requestfailed', (request) => faults.push(request.url()));
    page.on('pageerror', (error) => faults.push(error.message));
    page.on('console', (message) => {
      if (message.type() === 'error') faults.push(message.text());
    });
    await page.goto(server.address + path, { waitUntil: 'load' });
    await page.evaluate('document.fonts.ready.then(() => 0)');
    pictures.set(path, await page.screenshot({ fullPage: true, animations: 'disabled' }));
    assert.deepEqual(faults, [], `${folder}: ${path}`);
  }
  server.close();
  return pictures;
}

async function looksTheSame(t: TestContext, folder: string, site: string): Promise<void> {
  const page = await newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
  const before = await picturesOf(page, site);
  for (const options of [
    [],
    ['--shrink', '--named-by-content', '--at', 'https://gullhaven.example/ferry/'],
  ]) {
    const target = join(folder, `packed${options.length}`);
    const { code, stderr } = cravel(folder, 'pack', '--to', target, '--dir', site, ...options);
    assert.equal(code, 0, stderr);
    const after = await picturesOf(page, target);
    assert.deepEqual([...after.keys()], [...before.keys()]);
    for (const [path, picture] of after)
      assert.ok(picture.equals(before.get(path) as Buffer), `${site} ${options}: ${path} looks another way`);
  }
  t.diagnostic(`${before.size} pages`);
}

test('the demo, packed, loads below any address and looks as it did', async (t) => {
  const folder = temporaryFolder(t);
  cravel(folder, 'demo', 'try');
  await looksTheSame(t, folder, join(folder, 'try/gullhaven-ferry'));
});

/** `npm run long` takes every starter. */
const starters =
  process.env.CRAVEL_RUNS === undefined ? ['pages'] : readdirSync(join(projectFolder, 'starters'));

for (const starter of starters)
  test(`a project of the starter ${starter}, packed, loads below any address and looks as it did`, async (t) => {
    const folder = temporaryFolder(t);
    const pages = starter === 'bare' ? [] : ['--pages', 'north'];
    assert.equal(
      cravel(folder, 'scaffold', 'site', '--starter', starter, '--title', 'Ferry', ...pages).code,
      0,
    );
    const own = join(folder, 'site/src');
    await looksTheSame(t, folder, existsSync(own) ? own : join(folder, 'site'));
  });
