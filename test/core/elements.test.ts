/** Elements that scripts use: told where they are not there yet, or not at all, with what puts it right. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { casesOf } from '../support/cases.ts';
import { bytesOf, checkFiles, type Files, mended } from '../support/site.ts';

const RULES =
  /^(?:before-its-element|element-left-out|before-its-library|library-left-out|nobody-makes|does-not-parse)$/;
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

test('among many that are missing or many scripts and pages nothing is sought, and nothing tried', () => {
  const code = (id: string) => `<script>document.getElementById("${id}").hidden = true</script>`;
  const titles = (files: Files) => toldOf(files).map(({ mends }) => mends[0]?.title ?? '-');
  const missing = (amount: number) => ({
    'index.html': page('', `<p id="timetable">${code('none').repeat(amount)}${code('timetabel')}`),
  });
  assert.deepEqual(titles(missing(99)).at(-1), 'write timetable');
  assert.deepEqual(titles(missing(100)).at(-1), '-');
  const among = (amount: number) => ({
    'index.html': page('', `${code('go')}${'<script>1</script>'.repeat(amount)}<p id="go">`),
  });
  assert.deepEqual(titles(among(199)), ['move index.html:2 to the end of the body']);
  assert.deepEqual(titles(among(200)), ['-']);
  const pages = (amount: number, body = '<script src=u.js></script><p id="go">') =>
    Object.fromEntries(
      Array.from({ length: amount }, (_none, index) => [`${index || 'index'}.html`, page('', body)]),
    );
  const u = { 'u.js': 'document.getElementById("go").hidden = true' };
  assert.deepEqual(titles({ ...pages(500), ...u }), ['defer u.js']);
  assert.deepEqual(titles({ ...pages(501), ...u }), ['-']);
  const naming = (amount: number, body: string) =>
    titles({ ...pages(amount, body), 'u.js': 'Tide.start()', 't.js': 'var Tide = { start() {} }' });
  for (const [body, title] of [
    ['<script src=u.js></script><script src=t.js></script>', 'move t.js before u.js'],
    ['<script src=u.js></script>', 'load t.js before u.js'],
  ] as const)
    assert.deepEqual([naming(500, body), naming(501, body)], [[title], ['-']]);
});

test('what is missing is told with its place, its pages, and what is nearly called so', () => {
  for (const { what, files, said } of casesOf('missing-elements')) assert.deepEqual(shown(files), said, what);
});
