import assert from 'node:assert/strict';
import { test } from 'node:test';
import { CravelError } from '../../src/core/errors.ts';
import { isSafeName, safeName } from '../../src/core/site/names.ts';
import { readManifest } from '../../src/core/starter/manifest.ts';
import { readPageList } from '../../src/core/starter/page-list.ts';
import { fillBlanks, renderStarter } from '../../src/core/starter/render.ts';
import { bytesOf, type Files } from '../support/site.ts';

const MANIFEST = `summary: A test
places: { styles: css, fonts: fonts }
blanks:
  title: { question: Title?, default: "{{folder}}" }
  motto: { question: Motto?, default: "{{title}} sails" }
  language: { question: Language?, default: en, pattern: "[a-z]{2}", hint: Two letters. }
`;

function render(files: Files, given: Record<string, string> = {}, manifest = MANIFEST) {
  const entries = Object.entries(files).map(([path, content]) => [path, bytesOf(content)] as const);
  const starter = {
    name: 'test',
    shown: 'test',
    own: false,
    manifest: readManifest(manifest, 'starter.yaml').manifest,
    files: new Map(entries),
  };
  const values = fillBlanks(starter, 'gullhaven-ferry', new Map(Object.entries(given)));
  const layout = renderStarter(starter, values);
  const text = Object.fromEntries(
    [...layout.files].map(([path, bytes]) => [path, new TextDecoder().decode(bytes)]),
  );
  return { text, folders: layout.folders };
}

test('every template gets the blanks, escaped, and paths from where it stands', () => {
  const { text, folders } = render(
    {
      'index.html.hbs': '<title>{{title}}</title>{{motto}}|{{to "css/a b.css"}}',
      'pages/more/one.html.hbs': '{{to "css/a b.css"}} {{to "index.html"}} {{to "pages/more/one.html"}}',
      'css/a b.css': '{{untouched}}',
      'note.txt.hbs': '{{title}}',
      'js/a.js.hbs': "let a = '{{title}}';",
      'css/b.css.hbs': 'a::before { content: "{{title}}"; }',
    },
    { title: `"<Tom & 'Ann'>"` },
  );
  assert.deepEqual(folders, ['css/', 'fonts/']);
  assert.deepEqual(text, {
    'index.html':
      '<title>&quot;&lt;Tom &amp; &#x27;Ann&#x27;&gt;&quot;</title>&quot;&lt;Tom &amp; &#x27;Ann&#x27;&gt;&quot; sails|css/a%20b.css',
    'pages/more/one.html': '../../css/a%20b.css ../../index.html one.html',
    'css/a b.css': '{{untouched}}',
    'note.txt': `"<Tom & 'Ann'>"`,
    'js/a.js': "let a = '\\u0022\\u003cTom & \\u0027Ann\\u0027\\u003e\\u0022';",
    'css/b.css': 'a::before { content: "\\22 \\3c Tom & \\27 Ann\\27 >\\22 "; }',
  });
  assert.equal(render({ 'a.html.hbs': '{{motto}}' }).text['a.html'], 'Gullhaven ferry sails');
});

test('a starter puts files where its blanks say, and every path and place follows', () => {
  const files = {
    'index.html.hbs':
      '{{to "css/a.css"}} {{to "js/a.js"}} {{to "js/b.js"}} {{to "images/x.svg"}}{{#if note}} {{note}}{{/if}}',
    'css/a.css': '',
    'js/a.js': '',
    'js/b.js': '',
    'images/x.svg': '',
  };
  const manifest = `summary: A test
places: { styles: css, scripts: js, images: images }
put: { css/a.css: "{{styles-file}}", js/a.js: "{{script}}", js/b.js: '{{beside script "b.js"}}', images/: "{{pics}}/" }
blanks:
  styles-file: { question: q, default: css/a.css }
  script: { question: q, default: js/a.js }
  pics: { question: q, default: images }
  note: { question: q, default: "" }
`;
  const rows: readonly (readonly [
    given: Record<string, string>,
    index: string,
    folders: readonly string[],
  ])[] = [
    [{}, 'css/a.css js/a.js js/b.js images/x.svg', ['css/', 'js/', 'images/']],
    [
      { 'styles-file': 'look/deep/ferry.css', note: 'Ida' },
      'look/deep/ferry.css js/a.js js/b.js images/x.svg Ida',
      ['look/deep/', 'js/', 'images/'],
    ],
    [
      { 'styles-file': 'ferry.css', script: 'code/run.js', pics: '.' },
      'ferry.css code/run.js code/b.js x.svg',
      ['code/'],
    ],
  ];
  for (const [given, index, expected] of rows) {
    const { text, folders } = render(files, given, manifest);
    assert.equal(text['index.html'], index);
    for (const path of index.split(' ').filter((word) => word.includes('.'))) assert.ok(path in text, path);
    assert.deepEqual(folders, expected);
  }
  assert.throws(
    () => render(files, { 'styles-file': '../a.css' }, manifest),
    /it puts css\/a\.css at \.\.\/a\.css/,
  );
  assert.throws(
    () => render(files, { script: 'js/b.js' }, manifest),
    /Two files of the starter would go to js\/b\.js/,
  );
});

test('a list of pages gives each its words; what is wrong in it is told with its line', () => {
  assert.deepEqual(
    readPageList(
      'pages:\n  - timetable\n  - { path: piers/north, title: " North  pier", description: x }\n',
      'a.yaml',
    ).map(({ path, title, description }) => [path, title, description]),
    [
      ['timetable', undefined, undefined],
      ['piers/north', 'North pier', 'x'],
    ],
  );
  const rows = {
    'pages: 3': /a\.yaml 1:1: pages must be an array/,
    'pages:\n  - { titel: x }': /a\.yaml 2:\d+: .*titel/,
    'pages:\n  - { path: x, title: "" }': /a\.yaml 2:\d+: title must say something/,
    '- x': /a\.yaml/,
  };
  for (const [text, problem] of Object.entries(rows))
    assert.throws(
      () => readPageList(text, 'a.yaml'),
      (error) => error instanceof CravelError && problem.test(error.message),
      text,
    );
});

test('what is wrong with a starter or a value is told with its place', () => {
  const page = { 'index.html.hbs': 'x' };
  const rows: readonly (readonly [problem: RegExp, run: () => unknown])[] = [
    [/starter\.yaml 1:11: .*\nCorrect the YAML/s, () => render(page, {}, 'summary: [')],
    [/starter\.yaml 2:1: color is not a known key/, () => render(page, {}, 'summary: x\ncolor: red\n')],
    [/starter\.yaml 1:1: summary must be a string/, () => render(page, {}, 'summary: 3\n')],
    [/starter\.yaml 1:1: summary is missing/, () => render(page, {}, 'blanks: {}\n')],
    [
      /starter\.yaml 2:11: default is missing/,
      () => render(page, {}, 'summary: A\nblanks: { title: { question: Which? } }\n'),
    ],
    [
      /starter\.yaml 2:11: styles must be a folder inside/,
      () => render(page, {}, 'summary: x\nplaces: { styles: ../x }\n'),
    ],
    [
      /starter\.yaml 2:11: sounds is not one of/,
      () => render(page, {}, 'summary: x\nplaces: { sounds: x }\n'),
    ],
    [
      /starter\.yaml 3:7: question must be/,
      () => render(page, {}, 'summary: x\nblanks:\n  a: {question: 1, default: b}\n'),
    ],
    [
      /starter\.yaml 3:\d+: pattern is not a regular/,
      () => render(page, {}, 'summary: x\nblanks:\n  a: {question: q, default: b, pattern: "["}\n'),
    ],
    [
      /index\.html\.hbs: it names css\/none\.css, which is not there/,
      () => render({ 'index.html.hbs': '{{to "css/none.css"}}' }),
    ],
    [/index\.html\.hbs: it names \.\.\/x/, () => render({ 'index.html.hbs': '{{to "../x"}}' })],
    [/index\.html\.hbs: .*"nothing" not defined/, () => render({ 'index.html.hbs': '{{nothing}}' })],
    [/index\.html\.hbs: Parse error/, () => render({ 'index.html.hbs': '{{#if}' })],
    [/no blank named colour.\nIts blanks are: title, motto, language/, () => render(page, { colour: 'red' })],
    [/language cannot be "English".\nTwo letters/, () => render(page, { language: 'English' })],
    [/title cannot be ""/, () => render(page, { title: '  ' })],
  ];
  for (const [problem, run] of rows) {
    assert.throws(
      run,
      (error) => error instanceof CravelError && problem.test(error.message),
      String(problem),
    );
  }
});

test('names that are unsafe on a server are told from safe ones, and a safe one is offered', () => {
  const rows = {
    'gullhaven-ferry': true,
    'v1.2': true,
    a: true,
    'Gull Haven': false,
    'a--b': false,
    '-a': false,
    café: false,
    '': false,
    con: false,
    'nul.html': false,
    'com1.js': false,
    console: true,
  };
  for (const [name, safe] of Object.entries(rows)) assert.equal(isSafeName(name), safe, name);
  assert.deepEqual(['My Web Site', ' Café  Größe!', '__x__', '日本', 'a - b.C', 'Aux.html'].map(safeName), [
    'my-web-site',
    'cafe-grosse',
    'x',
    '',
    'a-b.c',
    'aux-1.html',
  ]);
});
