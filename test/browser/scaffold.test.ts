import assert from 'node:assert/strict';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { after, before, test } from 'node:test';
import type { Browser } from 'playwright-core';
import { serve, startBrowser } from '../support/browser.ts';
import { cravel, projectFolder } from '../support/program.ts';
import { temporaryFolder } from '../support/site.ts';

let browser: Browser;
before(async () => {
  browser = await startBrowser();
});
after(() => browser.close());

for (const starter of readdirSync(join(projectFolder, 'starters'))) {
  test(`${starter}: everything loads, styles and scripts take effect, and nothing sticks out at any width`, async (t) => {
    const folder = temporaryFolder(t);
    const title = `<Gull> & "Haven's" 🚢`;
    assert.equal(cravel(folder, 'scaffold', 'site', '--starter', starter, '--title', title).code, 0);
    const server = await serve(join(folder, 'site'));
    t.after(() => server.close());
    const page = await browser.newPage();
    t.after(() => page.close());
    const answers: [url: string, status: number][] = [];
    const faults: string[] = [];
    page.on('response', (response) =>
      answers.push([response.url().slice(server.address.length), response.status()]),
    );
    page.on('requestfailed', (request) => faults.push(request.url()));
    page.on('pageerror', (error) => faults.push(error.message));
    await page.goto(server.address, { waitUntil: 'networkidle' });

    assert.deepEqual(faults, []);
    assert.deepEqual(
      answers.filter(([, status]) => status !== 200),
      [],
    );
    const loaded = answers.map(([url]) => url).join(' ');
    for (const file of ['main.css', 'main.js', 'opening.svg', 'icon.svg'])
      assert.match(loaded, new RegExp(file));
    assert.equal(await page.title(), title);
    assert.equal(
      await page.evaluate(() => getComputedStyle(document.body).marginTop),
      '0px',
      'the stylesheet took effect',
    );
    assert.equal(await page.textContent('[data-year]'), String(new Date().getFullYear()), 'the script ran');
    for (const scheme of ['light', 'dark'] as const) {
      await page.emulateMedia({ colorScheme: scheme });
      for (const width of [320, 768, 1280, 1920]) {
        await page.setViewportSize({ width, height: 800 });
        const overflow = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
        assert.ok(overflow <= 0, `${overflow} pixels stick out at ${width}`);
      }
    }
  });
}
