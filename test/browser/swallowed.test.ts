/** What was left open, held to what a browser makes of it. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { swallowing } from '../corpus/swallowed-cases.ts';
import { pagesOfBrowser } from '../support/browser.ts';
import { checkFiles, mended } from '../support/site.ts';

const newPage = pagesOfBrowser();
const HEAD = '<!doctype html><html lang="en"><head><title>x</title></head><body>';

test('what is told as swallowed is no part of the page in a browser, and is with the mend', async () => {
  const page = await newPage();
  /** The elements of the body with their texts, and whether the script of the case ran. */
  const seen = async (markup: string) => {
    // A page of its own each time: what scripts declare stays for as long as their page does.
    await page.goto(`data:text/html;charset=utf-8,${encodeURIComponent(markup)}`);
    return page.evaluate(
      `[...document.querySelectorAll('body, body *')].map((one) => one.localName + ' ' + one.textContent.trim()).join('; ') + ' ' + (() => { try { return typeof a } catch { return 'none' } })()`,
    );
  };
  let told = 0;
  for (const [wrong, , meant] of swallowing) {
    if (meant === null) continue;
    const files = { 'a.html': HEAD + wrong };
    const found = checkFiles(files).findings.find(({ rule }) => rule === 'swallowed');
    assert.ok(found, wrong);
    const after = mended(files, found)['a.html'] as string;
    assert.notEqual(await seen(files['a.html']), await seen(after), wrong);
    told++;
  }
  assert.ok(told > 12);
  // A title takes the whole page.
  assert.match(String(await seen('<!doctype html><title>Boats\n<p>x')), /^body {2}undefined$/);
});
