import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { CravelError } from '../../src/core/errors.ts';
import { readSettings } from '../../src/core/settings/read.ts';
import { settingsSchema } from '../../src/core/settings/schema.ts';
import { Accepted, Library, Settings } from '../../src/core/settings/settings.ts';
import { newSettings } from '../../src/core/settings/write.ts';
import { keysOf } from '../../src/core/shape/shape.ts';
import { inferPlaces } from '../../src/core/site/places.ts';
import { projectFolder } from '../support/program.ts';

test('all keys of cravel.yaml are read, and what is left out has its default', () => {
  const settings = readSettings(`
site: src
entry: home.html
published-at: https://gullhaven.example/ferry/
places: { styles: css, libraries: lib }
scripts-go: deferred-head
libraries:
  tideclock: { folder: lib/tideclock, scripts: [tideclock.js], needs: [buoys] }
  buoys: { folder: lib/buoys }
leave-out: [drafts/**]
fail-on: [broken]
grades: { unused: silent }
accept: [{ rule: absent, because: x }]
starter: pages
blanks: { title: Gullhaven Ferry }
`);
  assert.equal(settings.site, 'src');
  assert.deepEqual(settings.libraries.tideclock?.needs, ['buoys']);
  assert.deepEqual(settings.libraries.buoys?.styles, []);
  const empty = readSettings('libraries:\n# nothing yet\n');
  assert.deepEqual(
    [empty.site, empty.entry, empty.libraries, empty['leave-out']],
    ['.', 'index.html', {}, []],
  );
});

test('a mistake in cravel.yaml is told with its line and column', () => {
  const rows: readonly (readonly [text: string, problem: RegExp])[] = [
    ['site: [', /cravel\.yaml 1:8/],
    ['sites: .', /1:1: sites is not a known key/],
    ['site: ../other', /1:1: site must lie inside the project/],
    ['\nplaces: { sounds: a }', /2:11: sounds is not one of styles/],
    ['places: { styles: /css }', /1:11: styles must be a folder inside/],
    ['scripts-go: up', /1:1: scripts-go must be one of/],
    ['libraries:\n  a: { folder: ../a }', /2:8: \.\.\/a must lie inside the site/],
    ['libraries:\n  a: { scripts: [] }', /2:3: folder /],
    ['libraries:\n  a: { folder: a, needs: [b] }', /2:19: a needs b, which is not among the libraries/],
    ['libraries:\n  a: { folder: a, colour: red }', /2:19: colour is not a known key/],
    ['libraries: [a]', /1:1: libraries must be an object|2:3/],
    ['blanks: { title: 3 }', /1:11: title must be a text/],
    ['- a', /must be a list of keys and values/],
    [
      'scripts-go: up\nsites: .\naccept: [{ rule: absnt }]\ngrades: { absnt: broken }\nfail-on: [wrong]\nlibraries: [a]',
      /^cravel\.yaml 1:1: scripts-go .*\n.* 2:1: sites .*\n.* 3:10: because .*\n.* 4:11: absnt is no rule; did you mean absent\?\n.* 5:11: wrong is .*\n.* 6:1: libraries must .*\nCorrect these lines\.$/,
    ],
    [
      'accept: [{ rule: absnt, because: x }]',
      /1:12: absnt is no rule; did you mean absent\?\nCorrect that line\.$/,
    ],
  ];
  for (const [text, problem] of rows) {
    assert.throws(
      () => readSettings(text),
      (error) => error instanceof CravelError && problem.test(error.message),
      `${text}: ${problem}`,
    );
  }
});

test('places are told by the names of folders', () => {
  const folders = new Set(['', 'styles/', 'js/', 'assets/', 'assets/img/', 'vendor/', 'pages/']);
  assert.deepEqual(inferPlaces(folders), {
    styles: 'styles',
    scripts: 'js',
    images: 'assets/img',
    libraries: 'vendor',
    pages: 'pages',
  });
});

test('the schema that ships knows the keys that the settings have', () => {
  const shipped: unknown = JSON.parse(
    readFileSync(join(projectFolder, 'schemas/cravel.schema.json'), 'utf8'),
  );
  assert.deepEqual(shipped, JSON.parse(JSON.stringify(settingsSchema())), 'npm run docs');
  const schema = settingsSchema() as {
    properties: Record<
      string,
      { items?: { properties: object }; additionalProperties?: { properties: object } }
    >;
  };
  assert.deepEqual(Object.keys(schema.properties).sort(), keysOf(Settings).sort());
  assert.deepEqual(
    Object.keys(schema.properties.accept?.items?.properties ?? {}).sort(),
    keysOf(Accepted).sort(),
  );
  assert.deepEqual(
    Object.keys(schema.properties.libraries?.additionalProperties?.properties ?? {}).sort(),
    keysOf(Library).sort(),
  );
});

test('everything that is wrong is told with its place, and nothing but that', () => {
  const rows: readonly (readonly [yaml: string, problems: readonly string[]])[] = [
    ['site: ../x\n', ['site must lie inside the project']],
    ['entry: /x\n', ['entry must lie inside the project']],
    ['blanks: { title: 3 }\n', ['title must be a text']],
    ['leave-out: ["[b-a]", "ok"]\n', []],
    ['leave-out: ["ok", "!(a)"]\n', ['1:19: !(a) is no pattern that can be matched']],
    ['site: a\nsite: b\n', ['unique']],
    ['fail-on: [brokn, absent]\n', ['brokn is no grade or rule; did you mean broken?']],
    ['accept: [{ rule: abset, because: x }]\n', ['abset is no rule; did you mean absent?']],
    ['accept: [{ rule: absent }]\n', ['because']],
    [
      'published-at: gullhaven.example\n',
      ['published-at must be an http(s) address, such as https://gullhaven.example/ferry/'],
    ],
    [
      'places: { style: css, styles: ../x }\n',
      ['style is not one of', 'styles must be a folder inside the project'],
    ],
    [
      'libraries:\n  t: { folder: ../t, styles: [/a.css], scripts: [../b.js], release: { a: 1 }, files: { b: 2 }, needs: [u] }\n',
      [
        '../t must lie inside the site',
        '/a.css must lie inside the site',
        '../b.js must lie inside the site',
        'a must be a text',
        'b must be a text',
        't needs u, which is not among the libraries',
      ],
    ],
    ['libraries: { t: { folder: t }, u: { folder: u, needs: [t] } }\n', []],
  ];
  for (const [yaml, problems] of rows) {
    let told: readonly string[] = [];
    try {
      readSettings(yaml);
    } catch (error) {
      told = (error as CravelError).sentences;
    }
    assert.equal(told.length, problems.length, `${yaml}${told.join('\n')}`);
    for (const [index, problem] of problems.entries())
      assert.ok(told[index]?.includes(problem), `${problem}\n${told[index]}`);
  }
});

test('settings of a new project hold what differs, and a starter brings its own along', () => {
  const made = {
    site: '.',
    places: {},
    scriptsGo: undefined,
    starter: 'flat',
    blanks: { title: 'Ferry' },
  } as const;
  assert.equal(
    newSettings(made),
    '# How Cravel sees this project. Every key may be left out.\n\nstarter: flat\nblanks:\n  title: Ferry\n',
  );
  const told = { ...made, site: 'src', places: { styles: 'css' }, scriptsGo: 'module' } as const;
  assert.match(
    newSettings(told),
    /\nsite: src\nplaces: \{ styles: css \}\nscripts-go: module\nstarter: flat\n/,
  );
  const own = '# mine\nsite: web\nplaces: { styles: s }\nscripts-go: any\n';
  assert.equal(newSettings(told, own), `${own}starter: flat\nblanks:\n  title: Ferry\n`);
  assert.equal(newSettings(told, '# mine\n').startsWith('# mine\n'), true);
});
