/** Elements that scripts use: told where they are not there yet, or not at all, with what puts it right. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { casesOf } from '../support/cases.ts';
import { bytesOf, checkFiles, type Files, mended } from '../support/site.ts';

const RULES = /^(?:before-its-element|element-left-out|before-its-library|nobody-makes|does-not-parse)$/;
const toldOf = (files: Files) => checkFiles(files).findings.filter(({ rule }) => RULES.test(rule));

const page = (head: string, body: string) =>
  `<!doctype html><html lang="en"><head><title>Gullhaven Ferry</title>${head}</head>\n<body>${body}</body></html>`;

test('however a script is loaded, it is told where it may come too early for an element, and mended', () => {
  const use = 'document.getElementById("go").hidden = true;';
  const ways: Readonly<Record<string, string>> = {
    'at once': '<script src=u.js></script>',
    defer: '<script defer src=u.js></script>',
    async: '<script async src=u.js></script>',
    module: '<script type=module src=u.js></script>',
    'async module': '<script type=module async src=u.js></script>',
    code: `<script>${use}</script>`,
    'module code': `<script type=module>${use}</script>`,
  };
  const there = '<p id="go">';
  const places: Readonly<Record<string, (tag: string) => string>> = {
    'in the head': (tag) => page(tag, there),
    'before it': (tag) => page('', tag + there),
    'behind it': (tag) => page('', there + tag),
    'without it': (tag) => page('', tag),
  };
  const told: string[] = [];
  for (const [way, tag] of Object.entries(ways))
    for (const [place, put] of Object.entries(places)) {
      const files = { 'index.html': put(tag), 'u.js': use };
      for (const finding of toldOf(files)) {
        const [mend] = finding.mends;
        told.push(`${way} ${place}: ${finding.grade} ${finding.rule}, ${mend?.title ?? '-'}`);
        if (mend !== undefined) assert.deepEqual(toldOf(mended(files, finding)), [], `${way} ${place}`);
      }
    }
  assert.deepEqual(told, [
    'at once in the head: broken before-its-element, defer u.js',
    'at once before it: broken before-its-element, defer u.js',
    'at once without it: broken element-left-out, -',
    'defer without it: broken element-left-out, -',
    'async in the head: fragile before-its-element, defer u.js instead of async',
    'async before it: fragile before-its-element, defer u.js instead of async',
    'async without it: broken element-left-out, -',
    'module without it: broken element-left-out, -',
    'async module in the head: fragile before-its-element, load u.js without async',
    'async module before it: fragile before-its-element, load u.js without async',
    'async module without it: broken element-left-out, -',
    'code in the head: broken before-its-element, move index.html:1 to the end of the body',
    'code before it: broken before-its-element, move index.html:2 to the end of the body',
    'code without it: broken element-left-out, -',
    'module code without it: broken element-left-out, -',
  ]);
});

/** `file:line:column-endColumn rule message (pages) title -> what stands in the place of it` */
function shown(files: Files): string[] {
  return toldOf(files).map((finding) => {
    const { file, line, column, endColumn, rule, written, message, pages, mends } = finding;
    const edits = mends[0]?.edits.map((edit) => {
      const bytes = bytesOf(files[edit.file] ?? '');
      return `${edit.file} ${new TextDecoder().decode(bytes.subarray(edit.start, edit.end))}=>${edit.text}`;
    });
    return [
      `${file}:${line}:${column}-${endColumn} ${rule} ${written}`,
      message,
      ...(pages === null ? [] : [`on ${pages.join()}`]),
      ...mends.map(({ sure, title }) => (sure ? title : `perhaps ${title}`)),
      ...(edits ?? []),
    ].join(' | ');
  });
}

test('what is missing is told with its place, its pages, and what is nearly called so', () => {
  for (const { what, files, said } of casesOf('missing-elements')) assert.deepEqual(shown(files), said, what);
});
