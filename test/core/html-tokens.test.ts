import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { test } from 'node:test';
import fc from 'fast-check';
import { htmlCases } from '../corpus/html-cases.ts';
import { type StartTag, tagsByCravel, tagsByFullRules, tagsByParse5 } from '../support/html-oracle.ts';
import { realFiles } from '../support/real-files.ts';

/** Every start tag with its attributes, and the region of those that are in the finished tree. */
function assertSame(html: string): void {
  const expected = tagsByParse5(html);
  const { tags, rules } = tagsByCravel(html);
  compare(tags, expected, html);
  if (rules === 'quick') compare(tagsByFullRules(html), expected, html);
}

function compare(tags: readonly StartTag[], expected: readonly StartTag[], html: string): void {
  const shown = JSON.stringify(html.length < 2000 ? html : `${html.slice(0, 2000)}…`);
  const plain = (all: readonly StartTag[]) => all.map(({ name, attributes }) => ({ name, attributes }));
  assert.deepEqual(plain(tags), plain(expected), shown);
  expected.forEach(({ name, region }, index) => {
    if (region !== null)
      assert.equal(tags[index]?.region, region, `region of <${name}>, tag ${index} of ${shown}`);
  });
}

test('nasty pages: start tags, attributes, head and body are those of the reference parser', () => {
  assert.ok(htmlCases.length >= 200);
  for (const html of htmlCases) assertSame(html);
});

/**
 * A CDATA section right in an integration point: the standard has one there, since the adjusted current node is none of
 * HTML's (13.2.5.42), and so have browsers; the reference parser takes it for a comment.
 */
const DISPUTED = /<(?:mi|mo|mn|ms|mtext|annotation-xml|foreignobject|desc|title)(?![a-z])[\s\S]*<!\[CDATA\[/i;

test('markup soup: start tags, attributes, head and body are those of the reference parser', () => {
  const names =
    'a b p i div br table tr td tbody caption col select option svg math desc title foreignObject mi annotation-xml template script style textarea head body html link meta frameset frame noscript form li h1 button nobr font object input plaintext xmp span image'.split(
      ' ',
    );
  const name = fc.constantFrom(...names);
  const tag = fc.oneof(
    name.map((text) => `<${text}>`),
    name.map((text) => `</${text}>`),
    name.map((text) => `<${text} `),
    name.map((text) => `<${text}/>`),
  );
  const crumb = fc.constantFrom(
    '<',
    '>',
    '/',
    '=',
    '"',
    "'",
    ' ',
    '\n',
    '\r',
    '\0',
    'x',
    '!',
    '-',
    '--',
    '<!--',
    '-->',
    '<![CDATA[',
    ']]>',
    '<!doctype html>',
    '&amp;',
    '&amp',
    '&lt',
    '&#32;',
    '&#x41',
    'é',
    'a=b',
    'type=hidden',
    'color',
    'encoding=text/html',
    '</',
    '<!',
    '<?',
  );
  const soup = fc.array(
    fc.oneof({ weight: 3, arbitrary: tag }, { weight: 2, arbitrary: crumb }, fc.string({ maxLength: 3 })),
    { maxLength: 40 },
  );
  const runs = Number(process.env.CRAVEL_SOUP ?? 3000);
  fc.assert(
    fc.property(
      soup.map((parts) => parts.join('')).filter((html) => !DISPUTED.test(html)),
      assertSame,
    ),
    { numRuns: runs },
  );
});

test('real pages: start tags, attributes, head and body are those of the reference parser', () => {
  const pages = realFiles(/\.html?(?:\.hbs)?$/);
  assert.ok(pages.length >= 10);
  for (const path of pages) assertSame(readFileSync(path, 'utf8'));
});
