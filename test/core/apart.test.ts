/** HTML files that are no pages: pieces that are put into pages, and sources for a generator. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { readFile } from '../../src/core/read/read.ts';
import { bytesOf, checkFiles, type Files } from '../support/site.ts';

test('an HTML file is what its text makes it', () => {
  const head = (inside: string) =>
    `<!doctype html><head><title>Fares</title>${inside}</head><body><p>Fares</p>`;
  const rows: Readonly<Record<'page' | 'piece' | 'source', readonly string[]>> = {
    page: [
      'Fares\n<title>of the ferry</title>',
      '<!DOCTYPE html>Fares',
      '<body class="fares">',
      '<head>\n',
      // Text of a tutorial, and what scripts fill in by themselves.
      `${head('')}<p>{% block fares %} and <code>&lt;?php</code></p>{% endblock %}`,
      head('<title>How {% block %} works</title><meta name="description" content="of {% block %}">'),
      head(
        '<!-- {% old %} --><script>const mark = "{% a %} <% b %>";</script><style>p:after{content:"{%a%}"}</style>',
      ),
      `${head('')}<img alt="{% block %}" title="<% a %>"><a href="{{ address }}">a</a>`,
      `${head('')}<script type="text/template"><a href="<%= address %>">a</a></script>`,
      `${head('')}<template><a href="{% url %}">a</a></template><textarea><a href="{% url %}"></textarea>`,
      '<html>\n---\ntitle: x\n---\n',
      '---\nFares\n---\n<html>',
      '---\ntitle: Fares\n<html>',
      ' ---\ntitle: Fares\n---\n<html>',
    ],
    piece: [
      '',
      '<p>Fares',
      '<nav><a href="fares.html">Fares</a></nav>',
      'Hello\nthere',
      '<header><h1>x</h1></header>',
    ],
    source: [
      '---\n---\n<html>',
      '---\r\ntitle: Fares\r\n\r\ntags:\r\n  - a\r\n- b\r\n# a word\r\n---\r\nText',
      '\uFEFF---\nlayout: fares\n---\n<!doctype html>',
      '+++\ntitle = "Fares"\n[menu]\n+++\n<p>Fares',
      '{% extends "base.html" %}\n<p>Fares',
      '<!-- the fares -->\n<%@ page language="java" %><!doctype html><html>',
      '<?php include "head.php" ?>\n<p>Fares',
      head('{% if fares %}<meta name="robots">{% endif %}'),
      head('<?= $more ?>'),
      `${head('')}<a href="{% url 'fares' %}">a</a>`,
      `${head('')}<body class='a <%= b %>'>`,
      `${head('')}<img src=<?php echo $a ?>>`,
    ],
  };
  for (const [form, texts] of Object.entries(rows))
    for (const text of texts) assert.equal(readFile('a.html', bytesOf(text))?.page?.form, form, text);
});

const index = '<!doctype html><title>Gullhaven Ferry</title>';
const many = (folder: string, amount: number, text: string): Files =>
  Object.fromEntries(Array.from({ length: amount }, (_none, at) => [`${folder}/p${at}.html`, text]));
/** How many pages there are, and what is told of files that are none. */
const told = (files: Files): string[] => {
  const { pages, findings } = checkFiles(files);
  const rules = new Set(['generator-source', 'unused', 'absent', 'lacks-doctype']);
  return [
    `${pages} pages`,
    ...findings.flatMap(({ file, rule, grade, written, message }) =>
      rules.has(rule) && file !== 'index.html'
        ? `${file} ${grade} ${rule}${rule === 'absent' ? ` ${written}: ${message}` : ''}`
        : [],
    ),
  ];
};

test('a piece is no page where a script names it, or where many stand together', () => {
  const loading = `${index}<script>fetch("nav.html").then((a) => a.text()).then((t) => { document.body.innerHTML = t })</script>`;
  const rows: readonly (readonly [files: Files, said: readonly string[]])[] = [
    [{ 'index.html': 'Three lines\nof a beginner' }, ['1 pages']],
    [{ 'index.html': index, 'a.html': 'Fares' }, ['2 pages', 'a.html untidy lacks-doctype']],
    [{ 'index.html': loading, 'nav.html': '<nav>Fares' }, ['1 pages']],
    [
      {
        'index.html': `${index}<script>$("nav").load("nav.html")</script>`,
        'nav.html': '<nav><a href="nav.html">Fares</a>',
      },
      ['1 pages'],
    ],
    [{ 'index.html': `${index}<!--#include virtual="nav.html" -->`, 'nav.html': '<nav>Fares' }, ['1 pages']],
    [{ 'index.html': `${index}<site-nav src="nav.html"></site-nav>`, 'nav.html': '<nav>Fares' }, ['1 pages']],
    [
      {
        'index.html': `${index}<script>for (const n of all) fetch("parts/" + n + ".html").then(put)</script>`,
        'parts/nav.html': '<a href="fares.html">f</a><img src="a.svg">',
        'fares.html': index,
        'a.svg': '',
      },
      ['2 pages'],
    ],
    [
      {
        'index.html': `${index}<div data-include="nav.html"></div><b w3-include-html=x/foot.html></b>`,
        'nav.html': '<nav>Fares',
        'x/foot.html': '<img src="a.svg"><img src="b.svg">',
        'a.svg': '',
      },
      [
        '1 pages',
        "x/foot.html broken absent b.svg: there is no file b.svg in the site's root, as seen from index.html",
      ],
    ],
    [
      {
        'index.html': `${index}<script>for (const n of all) fetch("parts/" + n + ".html").then(put)</script>`,
        'parts/nav.html': '<img src="none.svg">',
      },
      [
        '1 pages',
        "parts/nav.html broken absent none.svg: there is no file none.svg in the site's root, as seen from index.html",
      ],
    ],
    // An address that leads to no piece, or nowhere, says nothing.
    [
      {
        'index.html': `${index}<b data-include="a.html"></b><b data-include="gone.html"></b><b data-include=x.htm></b>`,
        'a.html': `${index}<p>`,
        'b.html': '<p>Fares',
        'x.htm': '<nav>Fares',
      },
      ['3 pages', 'b.html untidy lacks-doctype'],
    ],
    // By itself nobody comes there.
    [
      { 'index.html': index, 'nav.html': '<a href="nav.html">n</a><script>fetch("nav.html")</script>' },
      ['2 pages', 'nav.html untidy lacks-doctype'],
    ],
    // Without a page there is nothing to put it into.
    [
      many('x', 6, 'Fares'),
      ['6 pages', ...[0, 1, 2, 3, 4, 5].map((at) => `x/p${at}.html untidy lacks-doctype`)],
    ],
    [
      { ...many('x', 6, 'Fares'), 'a.css': 'a{}', 'a.js': 'let a' },
      [
        '6 pages',
        'a.css untidy unused',
        'a.js untidy unused',
        ...[0, 1, 2, 3, 4, 5].map((at) => `x/p${at}.html untidy lacks-doctype`),
      ],
    ],
    // What visitors are led to is a page.
    [
      { 'index.html': `${loading}<a href="nav.html">n</a>`, 'nav.html': '<nav>Fares' },
      ['2 pages', 'nav.html untidy lacks-doctype'],
    ],
    [
      { 'index.html': index, ...many('x', 4, 'Fares') },
      ['5 pages', ...[0, 1, 2, 3].map((at) => `x/p${at}.html untidy lacks-doctype`)],
    ],
    [
      { 'index.html': index, ...many('x', 5, 'Fares') },
      ['1 pages', ...[0, 1, 2, 3, 4].map((at) => `x/p${at}.html untidy unused`)],
    ],
    [
      { 'index.html': index, ...many('x', 4, 'Fares'), 'x/index.html': 'Fares' },
      ['6 pages', ...['index', 'p0', 'p1', 'p2', 'p3'].map((name) => `x/${name}.html untidy lacks-doctype`)],
    ],
  ];
  for (const [files, said] of rows) assert.deepEqual(told(files), said, JSON.stringify(files));
  // The entry is a page, whatever names it.
  const entry = { 'home.html': '<p>Fares', 'a.html': loading.replace('nav.html', 'home.html') };
  assert.deepEqual([checkFiles(entry, null, { entry: 'home.html' }).pages, checkFiles(entry).pages], [2, 1]);
  // Of large sites no attribute is looked at.
  const among = (amount: number) => {
    const including = {
      'index.html': `${index}<div data-include="nav.html"></div>`,
      'nav.html': '<nav>Fares',
    };
    return checkFiles({ ...including, ...many('y', amount - 1, index) }).pages;
  };
  assert.deepEqual([among(2000), among(2001)], [2000, 2002]);
});

test('addresses in a piece count from the pages that it is put into', () => {
  const script = (path: string) => `<script>$("nav").load("${path}")</script>`;
  const piece = '<img src="images/a.svg"><a href="fares.html">f</a><a href="#top">t</a>';
  const held = { 'images/a.svg': '', 'fares.html': index };
  assert.deepEqual(
    told({ 'index.html': index + script('parts/nav.html'), 'parts/nav.html': piece, ...held }),
    ['2 pages'],
  );
  // From its own folder it would hold, from the page's it does not.
  assert.deepEqual(
    told({
      'index.html': index + script('parts/nav.html'),
      'parts/nav.html': '<img src="a.svg"><img src="../b.svg">',
      'parts/a.svg': '',
      'b.svg': '',
    }),
    [
      '1 pages',
      "parts/nav.html broken absent a.svg: there is no file a.svg in the site's root, as seen from index.html",
    ],
  );
  const two = checkFiles({
    'index.html': `${index + script('nav.html')}<a href="x/a.html">a</a>`,
    'x/a.html': index + script('../nav.html'),
    'nav.html': '<img src="images/a.svg">',
    'images/a.svg': '',
  }).findings.filter(({ rule }) => rule === 'absent');
  assert.deepEqual(
    two.map(({ file, pages, grade }) => [file, pages, grade]),
    [['nav.html', ['x/a.html'], 'broken']],
  );
  // Where nobody knows into what, they keep files from being unused.
  const together = {
    'index.html': index,
    ...many('x', 5, '<img src="none.svg"><img src="../a.svg">'),
    'a.svg': '',
  };
  assert.deepEqual(told(together), [
    '1 pages',
    ...[0, 1, 2, 3, 4].map((at) => `x/p${at}.html untidy unused`),
  ]);
  // What is wrong in one that is put nowhere meets nobody.
  const torn = checkFiles({
    'index.html': index,
    ...many('x', 5, '<noscript/><p>x'),
  }).findings;
  const swallowed = torn.filter(({ rule }) => rule === 'swallowed');
  assert.deepEqual(
    new Set(swallowed.map(({ grade, reached }) => `${grade} ${reached}`)),
    new Set(['untidy false']),
  );
  // Ways in a piece are ways of its pages.
  const ways = checkFiles({
    'index.html': index + script('nav.html'),
    'nav.html': '<a href="fares.html">f</a>',
    'fares.html': index,
  });
  assert.deepEqual(
    ways.findings.filter(({ rule }) => rule === 'unreached'),
    [],
  );
  // Spots that a piece has are there.
  const spots = checkFiles({
    'index.html': `${index}<a href="#fares">f</a><a href="#none">n</a>${script('nav.html')}`,
    'nav.html': '<p id="fares">',
  });
  assert.deepEqual(
    spots.findings.flatMap(({ rule, written }) => (rule === 'absent-anchor' ? written : [])),
    ['#none'],
  );
});

test('sources for a generator are told once, and one that visitors see by itself', () => {
  const source = '---\nlayout: a\n---\n<img src="{{ base }}/none.svg"><a href="none.html">n</a>';
  const rows: readonly (readonly [files: Files, said: readonly string[], message?: string])[] = [
    [
      { 'index.html': index, ...many('x', 7, source) },
      ['1 pages', 'x/p0.html untidy generator-source'],
      '7 files are sources for a generator: check what it makes',
    ],
    [
      { 'index.html': index, 'a.html': source },
      ['1 pages', 'a.html untidy generator-source'],
      'a.html is a source for a generator: check what that makes of it',
    ],
    [
      { 'index.html': `${index}<a href="a.html">a</a>`, 'a.html': source, 'b.html': source },
      ['1 pages', 'a.html broken generator-source', 'b.html untidy generator-source'],
    ],
    // By each other they are not shown to visitors.
    [
      { 'index.html': index, 'a.html': `${source}<a href="b.html">b</a>`, 'b.html': source },
      ['1 pages', 'a.html untidy generator-source'],
    ],
  ];
  for (const [files, said, message] of rows) {
    assert.deepEqual(told(files), said, JSON.stringify(files));
    const [finding] = checkFiles(files).findings.filter(({ rule }) => rule === 'generator-source');
    if (message !== undefined) assert.equal(finding?.message, message);
  }
  const entry = checkFiles({ 'index.html': source }).findings.map(({ rule, grade }) => `${rule} ${grade}`);
  assert.deepEqual(entry, ['generator-source broken']);
});
