import assert from 'node:assert/strict';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { outlineOf } from '../../src/core/page/outline.ts';
import { openPage } from '../../src/core/page/page.ts';
import { type Tagged, tagsOf } from '../../src/core/page/tags.ts';
import { htmlCases } from '../corpus/html-cases.ts';
import { projectFolder } from '../support/program.ts';
import { bytesOf } from '../support/site.ts';

/** What wiring asks of a page's elements. */
function told(elements: readonly Tagged[]) {
  const asked = new Set(['link', 'script', 'meta', 'base']);
  return elements
    .filter(({ name, region }) => asked.has(name) && region !== 'none')
    .map((element) => ({
      name: element.name,
      region: element.region,
      startTag: element.startTag,
      endTag: element.endTag,
      attributes: ['rel', 'href', 'src', 'type', 'content', 'defer'].map((name) => [
        element.attribute(name),
        element.rangeOf(name),
      ]),
    }));
}

/** Files in packages; a walk of Node's own goes through links, and around for ever. */
function htmlIn(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return entry.name.startsWith('.') ? [] : htmlIn(path);
    return entry.name.endsWith('.html') ? [path] : [];
  });
}

test('tags stand where the tree of the reference parser has them, with the same attributes and places', () => {
  const files = htmlIn(join(projectFolder, 'node_modules'));
  const pages = [...htmlCases.map(bytesOf), ...files.map((path) => readFileSync(path))];
  assert.ok(pages.length > 250);
  for (const bytes of pages) {
    const page = openPage('a.html', bytes);
    const [tags, outline] = [tagsOf(page), outlineOf(page)];
    const shown = JSON.stringify(new TextDecoder().decode(bytes.subarray(0, 500)));
    // Of what a template holds neither tells; SVG has scripts and links of its own.
    const html = outline.elements.filter(
      ({ element }) => (element as { namespace?: string }).namespace === 'http://www.w3.org/1999/xhtml',
    );
    assert.deepEqual(told(tags.elements), told(html), shown);
    for (const name of ['head', 'body']) {
      const [one, other] = [tags.first(name), outline.first(name)];
      assert.deepEqual(
        [one?.startTag, one?.endTag ?? null],
        [other?.startTag, other?.endTag ?? null],
        `${name} of ${shown}`,
      );
    }
  }
});

test('a noscript within a noscript is an element like others, however many there are', () => {
  for (const html of [
    '<noscript>'.repeat(50_000),
    `<head>${'<noscript>'.repeat(50_000)}<link></noscript><link>`,
  ]) {
    const { elements } = tagsOf(openPage('a.html', bytesOf(html)));
    assert.equal(elements.filter(({ name, region }) => name === 'noscript' && region !== 'none').length, 1);
    assert.equal(
      elements.filter(({ name, region }) => name === 'noscript' && region === 'none').length,
      49_999,
    );
    const links = elements.filter(({ name }) => name === 'link').map(({ region }) => region);
    assert.deepEqual(links, html.includes('link') ? ['none', 'head'] : []);
  }
});
