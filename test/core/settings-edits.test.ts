/** `cravel.yaml` is changed where it must be, and nowhere else. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { renamingOf } from '../../src/core/moving/renaming.ts';
import { sift } from '../../src/core/settings/accept.ts';
import { followedSettings } from '../../src/core/settings/follow.ts';
import { readSettings } from '../../src/core/settings/read.ts';
import { wireSettings } from '../../src/core/settings/wire-settings.ts';
import { type LibraryEntry, withLibrary, withoutLibrary } from '../../src/core/settings/write.ts';
import { checkFiles } from '../support/site.ts';

test('each value that names a file or a folder follows it, in the quotes that it has', () => {
  const pairs: readonly (readonly [string, string])[] = [
    ['css/', 'styles/'],
    ['home.html', 'start.html'],
    ['lib/tide/', 'js/tide/'],
    ['js/old.js', 'js/new.js'],
    ['wide/', 'a: b/'],
  ];
  const rows: readonly (readonly [before: string, after: string, unsure?: readonly string[]])[] = [
    ['entry: home.html', 'entry: start.html'],
    ['entry: "home.html" # x', 'entry: "start.html" # x'],
    ["entry: 'home.html'\r\n", "entry: 'start.html'\r\n"],
    ['entry: other.html', 'entry: other.html'],
    ['entry: "other.html"', 'entry: "other.html"'],
    ['entry:', 'entry:'],
    ['entry: [home.html]', 'entry: [home.html]'],
    ['entry: 3', 'entry: 3'],
    ['entry: home.html\nentry: home.html', 'entry: start.html\nentry: home.html'],
    ['- home.html', '- home.html'],
    ['', ''],
    [
      'places: { styles: css, scripts: js, images: css/ }',
      'places: { styles: styles, scripts: js, images: styles/ }',
    ],
    ['places: { styles: css// }', 'places: { styles: styles/ }'],
    ['places:\n  styles: wide\n', 'places:\n  styles: "a: b"\n'],
    ['places: css', 'places: css'],
    ['places: { styles: 3 }', 'places: { styles: 3 }'],
    ['libraries: { t: { folder: lib/tide/ } }', 'libraries: { t: { folder: js/tide/ } }'],
    [
      'libraries: { t: { folder: lib/tide, scripts: [a.js] } }',
      'libraries: { t: { folder: js/tide, scripts: [a.js] } }',
    ],
    [
      'libraries: { t: { folder: js, styles: [old.js], scripts: [old.js, x.js] } }',
      'libraries: { t: { folder: js, styles: [new.js], scripts: [new.js, x.js] } }',
    ],
    [
      'libraries: { t: { folder: js/, release: { old.js: old.js }, files: { old.js: old.js } } }',
      'libraries: { t: { folder: js/, release: { new.js: new.js }, files: { new.js: old.js } } }',
    ],
    [
      'libraries: { t: { scripts: [old.js] }, u: 3, v: { folder: 3, scripts: [old.js] } }',
      'libraries: { t: { scripts: [old.js] }, u: 3, v: { folder: 3, scripts: [old.js] } }',
    ],
    [
      'libraries: { t: { folder: js, scripts: old.js } }',
      'libraries: { t: { folder: js, scripts: old.js } }',
    ],
    [
      'libraries: { t: { folder: js, needs: [old.js], provides: [old.js] } }',
      'libraries: { t: { folder: js, needs: [old.js], provides: [old.js] } }',
    ],
    // A library that lies in what moves, and one of whose files goes elsewhere.
    [
      'libraries: { t: { folder: css/t, styles: [a.css, 3] } }',
      'libraries: { t: { folder: styles/t, styles: [a.css, 3] } }',
    ],
    [
      'libraries: { t: { folder: lib, scripts: [tide/a.js, b.js] } }',
      'libraries: { t: { folder: lib, scripts: [tide/a.js, b.js] } }',
      ['libraries, scripts: tide/a.js'],
    ],
    [
      'leave-out: [css/**, css/a.css, css/, home.html, "*.html", c*/a]',
      'leave-out: [styles/**, styles/a.css, styles/, start.html, "*.html", c*/a]',
    ],
    [
      'leave-out: ["lib/tide/{a,b}/c.js", "css/x[0-9]/y", css/x?.css]',
      'leave-out: ["js/tide/{a,b}/c.js", "styles/x[0-9]/y", styles/x?.css]',
    ],
    ['leave-out: css', 'leave-out: css'],
    ['leave-out: [3]', 'leave-out: [3]'],
    [
      'accept: [{ rule: absent, file: home.html, written: x.png }]',
      'accept: [{ rule: absent, file: start.html, written: x.png }]',
    ],
    [
      'accept: [{ rule: absent, file: other.html, written: old }]',
      'accept: [{ rule: absent, file: other.html, written: rewritten }]',
    ],
    [
      'accept: [{ rule: absent, written: old }, home.html, { file: home.html }]',
      'accept: [{ rule: absent, written: old }, home.html, { file: start.html }]',
    ],
    ['accept: { file: home.html }', 'accept: { file: home.html }'],
  ];
  const renaming = renamingOf(pairs);
  const following = {
    of: (path: string) => renaming.of(path),
    rewritten: (file: string, written: string) =>
      file === 'other.html' && written === 'old' ? 'rewritten' : undefined,
  };
  const outcomes = rows.map(([before]) => {
    const { text, unsure } = followedSettings(before, following);
    return [before, text, unsure.map((one) => one.join(': '))];
  });
  assert.deepEqual(
    outcomes,
    rows.map(([before, after, unsure = []]) => [before, after, unsure]),
  );
});

const small: LibraryEntry = {
  folder: 'lib/tide',
  styles: [],
  scripts: [],
  release: {},
  provides: [],
  needs: [],
  files: {},
};
const LINE = 'tide: { folder: lib/tide }';

test('an entry of a library goes behind the others, as they stand', () => {
  const long = { ...small, provides: ['A'.repeat(60)] };
  const longest = { ...small, provides: ['A'.repeat(57)] };
  const rows: readonly (readonly [before: string, after: string, entry?: LibraryEntry])[] = [
    ['', `libraries:\n  tide: { folder: lib/tide, provides: [ ${'A'.repeat(57)} ] }\n`, longest],
    ['', `libraries:\n  tide:\n    folder: lib/tide\n    provides: [ ${'A'.repeat(60)} ]\n`, long],
    ['libraries:\n b: { folder: b }', `libraries:\n b: { folder: b }\n ${LINE}`],
    [
      'libraries:\n b: { folder: b }',
      `libraries:\n b: { folder: b }\n tide:\n  folder: lib/tide\n  provides: [ ${'A'.repeat(60)} ]`,
      long,
    ],
    [
      'libraries:\n  b: { folder: b }\t# one\n# two\n',
      `libraries:\n  b: { folder: b }\t# one\n  ${LINE}\n# two\n`,
    ],
    [
      'libraries:\n  b:\n    folder: b\nentry: x.html',
      `libraries:\n  b:\n    folder: b\n  ${LINE}\nentry: x.html`,
    ],
    ['libraries: # none\nentry: x.html\n', `libraries: # none\n  ${LINE}\nentry: x.html\n`],
    ['libraries:', `libraries:\n  ${LINE}`],
    ['entry: x.html\r\nlibraries:\r\n', `entry: x.html\r\nlibraries:\r\n  ${LINE}\r\n`],
    ['libraries: { b: { folder: b } }\n', `libraries:\n  b: { folder: b }\n  ${LINE}\n`],
    [
      'libraries:\n  tide:\n    folder: x # old\n    styles: [a]\n\nentry: x.html\n',
      `libraries:\n  ${LINE}\n\nentry: x.html\n`,
    ],
    ['libraries:\n  tide:\n  b: { folder: b }\n', `libraries:\n  ${LINE}\n  b: { folder: b }\n`],
    ['libraries:\n  "tide": { folder: x }\n', `libraries:\n  ${LINE}\n`],
  ];
  assert.deepEqual(
    rows.map(([before, , entry = small]) => [before, withLibrary(before, 'tide', entry)]),
    rows.map(([before, after]) => [before, after]),
  );
});

test('an entry of a library is taken out with its lines, and comments of others stay', () => {
  const rows: readonly (readonly [before: string, after: string])[] = [
    [
      'libraries:\n  tide: { folder: a } # gone\n  b: { folder: b } # stays\n',
      'libraries:\n  b: { folder: b } # stays\n',
    ],
    [
      'libraries:\n  b: { folder: b }\n  # of tide\n  tide:\n    folder: a\n',
      'libraries:\n  b: { folder: b }\n  # of tide\n',
    ],
    [
      'libraries:\n  b: { folder: b }\n  tide: { folder: a } # gone\n# of the site\nsite: .\n',
      'libraries:\n  b: { folder: b }\n# of the site\nsite: .\n',
    ],
    [
      'libraries:\n  tide:\n    folder: a\n    styles:\n      - a.css\n  b: { folder: b }',
      'libraries:\n  b: { folder: b }',
    ],
    ['libraries:\n  tide:\n    folder: a\n\n# of the site\nsite: .\n', '\n# of the site\nsite: .\n'],
    ['site: .\nlibraries:\n  tide: { folder: a }', 'site: .\n'],
    ['site: .\r\nlibraries:\r\n  tide: { folder: a }\r\nentry: x.html\r\n', 'site: .\r\nentry: x.html\r\n'],
    [
      'libraries: { tide: { folder: a }, b: { folder: b } } # x\nentry: x.html\n',
      'libraries: { b: { folder: b } } # x\nentry: x.html\n',
    ],
    ['libraries:\n  tide:\n  b: { folder: b }\n', 'libraries:\n  b: { folder: b }\n'],
    ['libraries:\n  b: { folder: b }\n', 'libraries:\n  b: { folder: b }\n'],
    ['libraries: [tide]\n', 'libraries: [tide]\n'],
    ['- libraries\n', '- libraries\n'],
    ['', ''],
  ];
  assert.deepEqual(
    rows.map(([before]) => [before, withoutLibrary(before, 'tide')]),
    rows,
  );
});

test('what is accepted is told by what comes nearest to it, and what matches nothing is idle', () => {
  const { findings } = checkFiles({
    'index.html': '<!doctype html><img src="a.png"><img src="b.png">',
    'b.html': '<!doctype html><img src="a.png">',
  });
  const absent = findings.filter(({ rule }) => rule === 'absent');
  const entries = [
    { rule: 'absent', because: 'any' },
    { rule: 'absent', file: 'index.html', because: 'of the page' },
    { rule: 'absent', written: 'a.png', because: 'of the address' },
    { rule: 'absent', file: 'index.html', written: 'b.png', because: 'both' },
    { rule: 'absent', file: 'index.html', because: 'said again' },
    { rule: 'letter-case', because: 'none' },
  ];
  const rows: readonly (readonly [
    entries: readonly number[],
    because: readonly string[],
    idle: readonly number[],
  ])[] = [
    [[], [], []],
    [[0], ['any', 'any', 'any'], []],
    [[1], ['of the page', 'of the page'], []],
    [[1, 4], ['of the page', 'of the page'], [4]],
    [[2], ['of the address', 'of the address'], []],
    [[3], ['both'], []],
    [[0, 1, 2, 3], ['of the address', 'of the page', 'both'], [0]],
    [[5], [], [5]],
  ];
  for (const [chosen, because, idle] of rows) {
    const accept = chosen.map((index) => entries[index] as (typeof entries)[number]);
    const sifted = sift(absent, accept);
    assert.deepEqual(
      sifted.accepted.map((one) => one.because),
      because,
    );
    assert.equal(sifted.findings.length, 3 - because.length);
    assert.deepEqual(
      sifted.idle,
      idle.map((index) => entries[index]),
    );
  }
});

test('two files are builds of one where the settings or their names say so', () => {
  const settings = readSettings(
    'libraries: { t: { folder: lib/t, scripts: [a.js], release: { a.js: b.js }, provides: [T] }, u: { folder: lib/u, scripts: [u.js], provides: [U, V] } }',
  );
  const { areBuilds, provided } = wireSettings(settings, {});
  assert.deepEqual(provided, ['T', 'U', 'V']);
  const rows: readonly (readonly [one: string, other: string, areBuilds: boolean])[] = [
    ['lib/t/a.js', 'lib/t/b.js', true],
    ['lib/t/b.js', 'lib/t/a.js', true],
    ['lib/t/a.js', 'lib/t/a.js', false],
    ['lib/t/a.js', 'lib/u/u.js', false],
    ['js/x.js', 'js/x.min.js', true],
    ['js/x.min.js', 'js/x.js', true],
    ['js/x.js', 'js/x.js', false],
    ['js/x.js', 'js/y.js', false],
  ];
  assert.deepEqual(
    rows.map(([one, other]) => [one, other, areBuilds(one, other)]),
    rows,
  );
});
