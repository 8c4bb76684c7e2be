/** The report and the map as pages, in a real browser. */
import assert from 'node:assert/strict';
import { readFileSync, writeFileSync } from 'node:fs';
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

test('the map leads to every page by mouse and keyboard, shows its ways, and asks for nothing', async (t) => {
  const folder = temporaryFolder(t);
  cravel(folder, 'demo', 'try');
  const site = join(folder, 'try/gullhaven-ferry-with-mistakes');
  writeFileSync(join(site, 'odd <b>&"name".html'), '<!doctype html><title></script><b>Odd</title>');
  const [svg, again] = [cravel(site, 'map').stdout, cravel(site, 'map').stdout];
  assert.equal(svg, again);
  assert.doesNotMatch(svg, /<b>|NaN|undefined/);
  assert.equal(cravel(site, 'map', '--as', 'html', '--out', '../map.html').code, 0);
  const page = await newPage();
  const faults: string[] = [];
  page.on('pageerror', (error) => faults.push(error.message));
  page.on('request', (request) => request.url().startsWith('file:') || faults.push(request.url()));
  await page.goto(pathToFileURL(join(folder, 'try/map.html')).href);
  const told = page.locator('#told');
  await page.locator('.spot[data-id="piers/north.html"]').click();
  await told
    .filter({ hasText: /piers\/north\.html.*1 click from the entry.*Leads to \(\d+\).*Led to by.*Loads/s })
    .waitFor();
  assert.ok((await page.locator('#ways path').count()) > 2);
  await told.locator('button', { hasText: 'fares.html' }).first().click();
  await told.locator('h2', { hasText: 'fares.html' }).waitFor();
  // By keyboard alone.
  await page.keyboard.press('Escape');
  await page.keyboard.press('/');
  await page.keyboard.type('odd <b>');
  await told.locator('button', { hasText: 'odd <b>&"name".html' }).waitFor();
  await page.keyboard.press('Escape');
  await page.focus('.spot[tabindex="0"]');
  await page.keyboard.press('ArrowRight');
  const id = await page.evaluate('document.activeElement.dataset.id');
  assert.notEqual(id, 'index.html');
  await page.keyboard.press('Enter');
  await told.locator('h2', { hasText: String(id) }).waitFor();
  await page.selectOption('#only', 'unreached');
  await told.filter({ hasText: 'piers/overview.html' }).waitFor();
  for (const [width, colorScheme] of [
    [390, 'dark'],
    [1280, 'light'],
  ] as const) {
    await page.emulateMedia({ colorScheme });
    await page.setViewportSize({ width, height: 800 });
    assert.ok(await page.evaluate('document.documentElement.scrollWidth <= innerWidth'), String(width));
  }
  assert.deepEqual(faults, []);
});
