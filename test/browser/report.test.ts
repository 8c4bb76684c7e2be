/** The report as a page, in a real browser. */
import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { pathToFileURL } from 'node:url';
import { pagesOfBrowser } from '../support/browser.ts';
import { cravel } from '../support/program.ts';
import { checkAsJson, type JsonReport } from '../support/report.ts';
import { temporaryFolder } from '../support/site.ts';

const newPage = pagesOfBrowser();

test('the page shows every finding with its line, filters by keyboard, fits any screen, and asks for nothing', async (t) => {
  const folder = temporaryFolder(t);
  cravel(folder, 'demo', 'try');
  const site = join(folder, 'try/gullhaven-ferry-with-mistakes');
  const { findings } = checkAsJson(site);
  const { code, stderr } = cravel(site, 'check', '--as', 'html', '--out', '../report.html');
  assert.deepEqual([code, stderr], [1, `Wrote the report to ../report.html: ${findings.length} findings.\n`]);
  assert.doesNotMatch(readFileSync(join(folder, 'try/report.html'), 'utf8'), /(?:src|href)="(?!#)/);

  const page = await newPage();
  const faults: string[] = [];
  page.on('pageerror', (error) => faults.push(error.message));
  page.on('request', (request) => request.url().startsWith('file:') || faults.push(request.url()));
  await page.goto(pathToFileURL(join(folder, 'try/report.html')).href);
  assert.equal(await page.locator('li[data-kind]').count(), findings.length);
  assert.match(
    (await page.textContent('#shown')) ?? '',
    new RegExp(`^${findings.length} of ${findings.length} findings`),
  );
  for (const written of ['images/Kittiwake.svg', 'images/old-fulmar.svg', '#Winter'])
    assert.ok((await page.locator('mark').allTextContents()).includes(written), written);

  const visible = () => page.locator('li[data-kind]:visible').count();
  const amount = (wanted: (finding: JsonReport['findings'][number]) => boolean) =>
    findings.filter(wanted).length;
  await page.selectOption('select[name=rule]', 'absent');
  assert.equal(
    await visible(),
    amount(({ rule }) => rule === 'absent'),
  );
  await page.selectOption('select[name=rule]', '');
  await page.selectOption('select[name=kind]', 'image');
  assert.equal(
    await visible(),
    amount(({ kind }) => kind === 'image'),
  );
  await page.selectOption('select[name=kind]', '');
  await page.selectOption('select[name=grade]', 'untidy');
  assert.equal(
    await visible(),
    amount(({ grade }) => grade === 'untidy'),
  );
  await page.selectOption('select[name=grade]', '');
  // By keyboard alone: from the last choice to the words.
  await page.focus('select[name=kind]');
  await page.keyboard.press('Tab');
  await page.keyboard.type('kittiwake');
  assert.equal(
    await visible(),
    amount(({ written, message }) => /kittiwake/i.test(written + message)),
  );
  await page.fill('input[name=text]', '');

  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    for (const width of [320, 1280]) {
      await page.setViewportSize({ width, height: 800 });
      assert.ok(
        await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth),
        `${width}, ${colorScheme}`,
      );
    }
  }
  assert.deepEqual(faults, []);
});
