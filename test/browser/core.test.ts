import assert from 'node:assert/strict';
import { copyFileSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import type { SiteReport } from '../../src/core/report.ts';
import { reportAsJson } from '../../src/show/json.ts';
import { pagesOfBrowser, serve } from '../support/browser.ts';
import { cravel, projectFolder } from '../support/program.ts';
import { checkAsJson } from '../support/report.ts';
import { temporaryFolder } from '../support/site.ts';

const newPage = pagesOfBrowser();

test('the core checks a site in a browser, without Node.js, and says there what the program says', async (t) => {
  const folder = temporaryFolder(t, { 'index.html': '<!doctype html><title>Core</title>' });
  cravel(folder, 'demo', 'try');
  const site = join(folder, 'try/gullhaven-ferry-with-mistakes');
  copyFileSync(join(projectFolder, 'dist/core.js'), join(folder, 'core.js'));
  const files = readdirSync(site, { recursive: true })
    .map(String)
    .filter((path) => statSync(join(site, path)).isFile())
    .map((path): [string, number[]] => [path, [...readFileSync(join(site, path))]]);
  const server = await serve(folder);
  t.after(() => server.close());
  const page = await newPage();
  await page.goto(server.address);
  // A text, since what the tests are compiled with would not be there.
  const checked = (await page.evaluate(`(async () => {
    const { makeInventory, startCheck } = await import('${server.address}core.js');
    const contents = new Map(${JSON.stringify(files)}.map(([path, bytes]) => [path, new Uint8Array(bytes)]));
    const headOf = (path) => contents.get(path);
    const check = startCheck(makeInventory(contents.keys()), { headOf, digestOf: () => null });
    for (const path of check.wanted) check.take(path, contents.get(path));
    return check.report('.', (path) => contents.get(path));
  })()`)) as SiteReport;
  const told = checkAsJson(site);
  assert.ok(told.findings.length > 5);
  // What a browser hands over is a copy, in which a cause has findings of its own.
  const own = new Map(checked.findings.map((finding) => [JSON.stringify(finding), finding]));
  const causes = checked.causes.map((cause) => ({
    ...cause,
    findings: cause.findings.map((one) => own.get(JSON.stringify(one))) as never,
  }));
  const text = [...reportAsJson({ cravel: 2, sites: [{ ...checked, causes }] })].join('');
  assert.deepEqual(JSON.parse(text), told);
});
