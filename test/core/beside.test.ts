/** What is known of a site beside its files: folders that stay closed, links, files that cannot be read, and kept digests. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { REPORT_MARK } from '../../src/core/read/own-report.ts';
import type { SiteReport } from '../../src/core/report.ts';
import { LiveCheck, type World } from '../support/live.ts';
import { bytesOf, contentOptions, type Files } from '../support/site.ts';

const page = (body: string, title = 'Gullhaven Ferry') =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${title}</title><meta name="description" content="${title}, day by day"></head><body>${body}</body></html>`;
const index = (body: string) => ({ 'index.html': page(body) });
const report = `<!doctype html>\n${REPORT_MARK}<html><a href="gone.html">x</a>`;

/** What is told, but for what every page of a test lacks. */
function told({ pages, findings, unread }: SiteReport): string[] {
  return [
    `${pages} pages`,
    ...findings.map(({ file, line, grade, rule, written, message, reached }) =>
      [
        `${file}:${line} ${grade} ${rule} ${written}`.trim(),
        message,
        ...(reached ? [] : ['not reached']),
      ].join(' | '),
    ),
    ...unread.map(({ file, why }) => `unread ${file}: ${why}`),
  ];
}

const deep = `let a = ${'['.repeat(5000)}${']'.repeat(5000)};`;

/** A site, the same without what stands beside its files or with other files, and what is told of both. */
const rows: readonly (readonly [
  what: string,
  one: World,
  said: readonly string[],
  other: World,
  saidOfOther: readonly string[],
])[] = [
  [
    'a closed folder may hold what leads anywhere, and is no place of missing files',
    {
      files: {
        ...index('<img src="shut/a.svg" alt="">'),
        'b.html': page('', 'B'),
        'old.css': 'a { background: url(gone.svg) }',
      },
      closed: new Set(['shut/']),
    },
    ['2 pages', "old.css:1 broken absent gone.svg | there is no file gone.svg in the site's root"],
    {
      files: {
        ...index('<img src="shut/a.svg" alt="">'),
        'b.html': page('', 'B'),
        'old.css': 'a { background: url(gone.svg) }',
      },
    },
    [
      '2 pages',
      'b.html:1 untidy unreached b.html | no way leads here from index.html',
      "index.html:1 broken absent shut/a.svg | there is no folder shut in the site's root",
      'old.css:1 untidy unused old.css | no file of the site refers to it | not reached',
      "old.css:1 untidy absent gone.svg | there is no file gone.svg in the site's root | not reached",
    ],
  ],
  [
    'a page that cannot be read may lead anywhere',
    {
      files: { ...index(''), 'b.html': page('', 'B'), 'old.css': 'a { background: url(gone.svg) }' },
      unreadable: ['b.html'],
    },
    [
      '2 pages',
      "old.css:1 broken absent gone.svg | there is no file gone.svg in the site's root",
      'unread b.html: no right to read it',
    ],
    {
      files: {
        ...index(''),
        'b.html': page('<link rel="stylesheet" href="old.css">', 'B'),
        'old.css': 'a { background: url(gone.svg) }',
      },
    },
    [
      '2 pages',
      'b.html:1 untidy unreached b.html | no way leads here from index.html',
      'b.html:1 misplaced late-stylesheet old.css | stylesheets are linked in the head',
      "old.css:1 broken absent gone.svg | there is no file gone.svg in the site's root",
    ],
  ],
  [
    'a script that cannot be read is told as such, whatever else is wrong is told beside it',
    {
      files: { ...index('<script src="a.js"></script><img src="gone.svg" alt="">'), 'a.js': 'let a;' },
      unreadable: ['a.js'],
    },
    [
      '1 pages',
      "index.html:1 broken absent gone.svg | there is no file gone.svg in the site's root",
      'unread a.js: no right to read it',
    ],
    { files: { ...index('<script src="a.js"></script><img src="gone.svg" alt="">'), 'a.js': deep } },
    [
      '1 pages',
      "index.html:1 broken absent gone.svg | there is no file gone.svg in the site's root",
      'unread a.js: its code is nested too deeply to be read: the rest of the site is judged without it',
    ],
  ],
  [
    'what is no text by its bytes',
    { files: { ...index('<script src="a.js"></script>'), 'a.js': Uint8Array.of(0x61, 0, 0x62) } },
    [
      '1 pages',
      'index.html:1 broken wrong-kind a.js | this is loaded as a script, and its content is something else',
      'unread a.js: this is not text (byte 1 is NUL): give it the extension of what it is, or take it out of the site',
    ],
    { files: { ...index('<script src="a.js"></script>'), 'a.js': 'let a;' } },
    ['1 pages'],
  ],
  [
    'a report of a check is no page, and nothing is said of it',
    { files: { ...index(''), 'report.html': report, 'old.css': '' } },
    ['1 pages', 'old.css:1 untidy unused old.css | no file of the site refers to it | not reached'],
    { files: { ...index(''), 'report.html': page('<a href="gone.html">x</a>', 'Report') } },
    [
      '2 pages',
      'report.html:1 untidy unreached report.html | no way leads here from index.html',
      "report.html:1 broken absent gone.html | there is no file gone.html in the site's root",
    ],
  ],
  [
    'links that lead nowhere, by name, by a folder, and unused',
    {
      files: index('<img src="a.svg" alt=""><img src="bb/cc/d/e.svg" alt="">'),
      deadLinks: new Map([
        ['a.svg', '../elsewhere/a.svg'],
        ['bb/cc', '../elsewhere/b'],
        ['old.svg', 'older.svg'],
      ]),
    },
    [
      '1 pages',
      "index.html:1 broken absent a.svg | a.svg in the site's root is a link to ../elsewhere/a.svg, where nothing is",
      'index.html:1 broken absent bb/cc/d/e.svg | cc in bb is a link to ../elsewhere/b, where nothing is',
      'old.svg:1 untidy unused old.svg | a link to older.svg, where nothing is; no file of the site refers to it | not reached',
    ],
    {
      files: {
        ...index('<img src="a.svg" alt=""><img src="bb/cc/d/e.svg" alt="">'),
        'bb/cc/d/e.svg': '<svg/>',
      },
    },
    ['1 pages', "index.html:1 broken absent a.svg | there is no file a.svg in the site's root"],
  ],
  [
    'a folder that is there twice: what is wrong in it is told once, and what is wrong by the other way, there',
    {
      files: {
        ...index('<a href="a/b.html">b</a><a href="x/b.html">x</a><noscript/><p>x'),
        'a/b.html': page('<img src="gone.svg" alt=""><img src="../up.svg" alt=""><noscript/><p>x', 'B'),
        'x/b.html': page('<img src="gone.svg" alt=""><img src="../up.svg" alt=""><noscript/><p>x', 'B'),
        'up.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
      },
      aliases: new Map([['x/b.html', 'a/b.html']]),
    },
    [
      '2 pages',
      'a/b.html:1 broken absent gone.svg | there is no file gone.svg in a; also as x/b.html',
      'a/b.html:1 broken swallowed <noscript/> | a <noscript> cannot close itself with />: the rest of the page is swallowed',
      'index.html:1 broken swallowed <noscript/> | a <noscript> cannot close itself with />: the rest of the page is swallowed',
    ],
    {
      files: {
        ...index('<a href="a/b.html">b</a><a href="x/y/b.html">x</a>'),
        'a/b.html': page('<img src="gone.svg" alt=""><img src="../up.svg" alt="">', 'B'),
        'x/y/b.html': page('<img src="gone.svg" alt=""><img src="../up.svg" alt="">', 'B'),
        'up.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
      },
      aliases: new Map([['x/y/b.html', 'a/b.html']]),
    },
    [
      '2 pages',
      'a/b.html:1 broken absent gone.svg | there is no file gone.svg in a; also as x/y/b.html',
      'x/y/b.html:1 broken absent ../up.svg | there is no file up.svg in x',
    ],
  ],
  [
    'what is never published, and what is a project of its own',
    {
      files: index('<img src=".keep/a.svg" alt=""><a href="other/index.html">o</a>'),
      hidden: new Map([['.keep/', 'its name starts with a dot']]),
      borders: new Set(['other/']),
    },
    [
      '1 pages',
      "index.html:1 broken absent .keep/a.svg | .keep is in the site's root, but its name starts with a dot",
      'index.html:1 broken beyond-site other/index.html | other is a project of its own, and published by itself',
    ],
    { files: index('<img src=".keep/a.svg" alt=""><a href="other/index.html">o</a>') },
    [
      '1 pages',
      "index.html:1 broken absent .keep/a.svg | there is no folder .keep in the site's root",
      "index.html:1 broken absent other/index.html | there is no folder other in the site's root",
    ],
  ],
  [
    'only what is a project of its own is another one',
    { files: index('<a href="other/index.html">o</a>'), borders: new Set(['other/']) },
    [
      '1 pages',
      'index.html:1 broken beyond-site other/index.html | other is a project of its own, and published by itself',
    ],
    { files: index('<a href="other/index.html">o</a>') },
    ['1 pages', "index.html:1 broken absent other/index.html | there is no folder other in the site's root"],
  ],
  [
    'only what is hidden is another one',
    {
      files: index('<img src=".keep/a.svg" alt="">'),
      hidden: new Map([['.keep/', 'its name starts with a dot']]),
    },
    [
      '1 pages',
      "index.html:1 broken absent .keep/a.svg | .keep is in the site's root, but its name starts with a dot",
    ],
    { files: index('<img src=".keep/a.svg" alt="">'), hidden: new Map([['.keep/', 'it is left out']]) },
    ['1 pages', "index.html:1 broken absent .keep/a.svg | .keep is in the site's root, but it is left out"],
  ],
  [
    'only a link that leads nowhere is another one',
    { files: index('<img src="a.svg" alt="">'), deadLinks: new Map([['a.svg', '../elsewhere/a.svg']]) },
    [
      '1 pages',
      "index.html:1 broken absent a.svg | a.svg in the site's root is a link to ../elsewhere/a.svg, where nothing is",
    ],
    { files: index('<img src="a.svg" alt="">'), deadLinks: new Map([['a.svg', '../nowhere/a.svg']]) },
    [
      '1 pages',
      "index.html:1 broken absent a.svg | a.svg in the site's root is a link to ../nowhere/a.svg, where nothing is",
    ],
  ],
  [
    'only what a folder is besides is another one',
    {
      files: {
        ...index('<a href="x/b.html">x</a>'),
        'a/b.html': page('<img src="gone.svg" alt="">', 'B'),
        'x/b.html': page('<img src="gone.svg" alt="">', 'B'),
      },
      aliases: new Map([['x/b.html', 'a/b.html']]),
    },
    ['2 pages', 'a/b.html:1 broken absent gone.svg | there is no file gone.svg in a; also as x/b.html'],
    {
      files: {
        ...index('<a href="x/b.html">x</a>'),
        'a/b.html': page('<img src="gone.svg" alt="">', 'B'),
        'x/b.html': page('<img src="gone.svg" alt="">', 'B'),
      },
    },
    [
      '3 pages',
      'a/b.html:1 untidy unreached a/b.html | no way leads here from index.html',
      'a/b.html:1 broken absent gone.svg | there is no file gone.svg in a',
      'x/b.html:1 untidy same-description B, day by day | a/b.html has the same description',
      'x/b.html:1 untidy same-title B | a/b.html has the same title',
      'x/b.html:1 broken absent gone.svg | there is no file gone.svg in x',
    ],
  ],
];

test('what stands beside the files is judged with them, and again when it changes', () => {
  for (const [what, one, said, other, saidOfOther] of rows) {
    const [whole, changed] = [new LiveCheck(one).report(), new LiveCheck(other).report()];
    assert.deepEqual([told(whole), told(changed)], [said, saidOfOther], what);
    const live = new LiveCheck(one);
    live.report();
    for (const [world, wanted] of [
      [other, changed],
      [one, whole],
      [other, changed],
    ] as const) {
      live.become(world);
      assert.deepEqual(live.report(), wanted, what);
    }
  }
});

test('files that pages get by any chain, and what is loaded and used, are told as of the last report', () => {
  const live = new LiveCheck({
    files: {
      ...index('<script src="js/a.js"></script><a href="b.html">b</a>'),
      'b.html': page('<script src="js/a.js"></script><link rel="stylesheet" href="css/a.css">', 'B'),
      'c/d.html': page('', 'D'),
      'css/a.css': '@import "b.css";',
      'css/b.css': 'a { background: url(../i/p.svg) }',
      'i/p.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
      'js/a.js': 'const all = "data/" + name;',
      'data/one.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
      'old.css': '',
    },
  });
  const { check } = live;
  assert.deepEqual(check.pagesThatLoad('css/b.css'), []);
  live.report();
  const rows: readonly (readonly [file: string, ...pages: string[]])[] = [
    ['css/b.css', 'b.html'],
    ['js/a.js', 'b.html', 'index.html'],
    ['i/p.svg', 'b.html'],
    ['data/one.svg', 'b.html', 'index.html'],
    ['old.css'],
    ['c/d.html'],
    ['none.css'],
  ];
  for (const [file, ...pages] of rows) assert.deepEqual([...check.pagesThatLoad(file)].sort(), pages, file);
  assert.deepEqual([...check.usedFiles()].sort(), [
    'b.html',
    'css/a.css',
    'css/b.css',
    'data/',
    'i/p.svg',
    'js/a.js',
  ]);
});

test('a file that was renamed is known by what was kept of it', () => {
  const svg = '<svg xmlns="http://www.w3.org/2000/svg"/>';
  const other = '<svg xmlns="http://www.w3.org/2000/svg"><g/></svg>';
  const head = '<img src="pier.svg" alt=""><img src="old/gate.svg" alt="">';
  const known = ['pier.svg'];
  const follow = 'cravel move --already pier.svg new/tower.svg';
  const rows: readonly (readonly [
    what: string,
    kept: readonly string[],
    files: Files,
    ...mends: string[],
  ])[] = [
    ['nothing was kept', [], { ...index(head), 'new/tower.svg': svg }],
    ['one file', known, { ...index(head), 'new/tower.svg': svg }, follow],
    ['another content', known, { ...index(head), 'new/tower.svg': other }],
    ['one of two', known, { ...index(head), 'new/tower.svg': svg, 'a/b.svg': other }, follow],
    ['two that are the same', known, { ...index(head), 'new/tower.svg': svg, 'a/b.svg': svg }],
    ['another sort of file', known, { ...index(head), 'new/tower.txt': svg }],
    [
      'a file that is used',
      known,
      { ...index(`${head}<img src="new/tower.svg" alt="">`), 'new/tower.svg': svg },
    ],
  ];
  for (const [what, kept, files, ...mends] of rows) {
    const { digestOf } = contentOptions(() => bytesOf(svg));
    const digestBefore = (path: string) => (kept.includes(path) ? digestOf(path, 'sha256') : null);
    const { causes } = new LiveCheck({ files }, { digestBefore }).report();
    assert.deepEqual(
      causes.flatMap(({ mend }) => mend ?? []),
      mends,
      what,
    );
  }
});

test('what refers to a folder or a file by its old name can follow in one go, where all of it agrees', () => {
  const svg = '<svg xmlns="http://www.w3.org/2000/svg"/>';
  const imgs = (...paths: readonly string[]) => paths.map((path) => `<img src="${path}" alt="">`).join('');
  const of = (...paths: readonly string[]): Files => Object.fromEntries(paths.map((path) => [path, svg]));
  const rows: readonly (readonly [what: string, body: string, files: Files, ...said: string[]])[] = [
    [
      'a folder',
      imgs('pics/a.svg', 'pics/b.svg'),
      of('images/a.svg', 'images/b.svg'),
      'absent 2: cravel move --already pics images',
    ],
    [
      'a folder in a folder',
      imgs('x/pics/a.svg', 'x/pics/b.svg'),
      of('x/images/a.svg', 'x/images/b.svg'),
      'absent 2: cravel move --already x/pics x/images',
    ],
    [
      'a folder with folders in it',
      imgs('pics/x/a.svg', 'pics/y/b.svg'),
      of('images/x/a.svg', 'images/y/b.svg'),
      'absent 2: cravel move --already pics images',
    ],
    [
      'a folder whose name has a blank',
      imgs('old pics/a.svg', 'old pics/b.svg'),
      of('pics/a.svg', 'pics/b.svg'),
      'absent 2: cravel move --already "old pics" pics',
    ],
    [
      'a folder whose name no shell takes',
      imgs("it's/a.svg", "it's/b.svg"),
      of('pics/a.svg', 'pics/b.svg'),
      'absent 2: cravel mend --only absent',
    ],
    [
      'a folder that went into another one',
      imgs('pics/a.svg', 'pics/b.svg'),
      of('deep/pics/a.svg', 'deep/pics/b.svg'),
      'absent 2: cravel mend --only absent',
    ],
    [
      'a folder that went elsewhere under another name',
      imgs('pics/a.svg', 'pics/b.svg'),
      of('deep/images/a.svg', 'deep/images/b.svg'),
      'absent 2: cravel mend --only absent',
    ],
    [
      'a folder that is still there',
      imgs('pics/a.svg', 'pics/b.svg', 'pics/c.svg'),
      of('images/a.svg', 'images/b.svg', 'pics/c.svg'),
      'absent 1: cravel mend --only absent',
      'absent 1: cravel mend --only absent',
    ],
    [
      'files that went to two folders',
      imgs('pics/a.svg', 'pics/b.svg'),
      of('images/a.svg', 'other/b.svg'),
      'absent 2: cravel mend --only absent',
    ],
    [
      'files from the root',
      imgs('a.svg', 'b.svg'),
      of('images/a.svg', 'images/b.svg'),
      'absent 1: cravel mend --only absent',
      'absent 1: cravel mend --only absent',
    ],
    [
      'files to the root',
      imgs('pics/a.svg', 'pics/b.svg'),
      of('a.svg', 'b.svg'),
      'absent 2: cravel mend --only absent',
    ],
    [
      'a file in its folder',
      imgs('pier-old.svg'),
      of('pier-older.svg'),
      'absent 1: cravel move --already pier-old.svg pier-older.svg',
    ],
    [
      'a file in its folder, named twice',
      imgs('x/pier-old.svg', 'x/pier-old.svg'),
      of('x/pier-older.svg'),
      'absent 2: cravel move --already x/pier-old.svg x/pier-older.svg',
    ],
    [
      'a file in its folder that is used',
      imgs('pier-old.svg', 'pier-older.svg'),
      of('pier-older.svg'),
      'absent 1: cravel mend --guesses --only absent',
    ],
    [
      'a file in its folder by another extension',
      imgs('pier.png'),
      of('pier.svg'),
      'absent 1: cravel move --already pier.png pier.svg',
    ],
    [
      'a page by another name',
      '<a href="fare.html">x</a><a href="fare.html">y</a>',
      { 'fares.html': page('', 'Fares') },
      'absent 2: cravel move --already fare.html fares.html',
    ],
    ['a script that is another sort of file now', '<script src="tide.js"></script>', { 'tide.css': 'a{}' }],
    [
      'what of it follows already',
      imgs('pics/a.svg', 'pics/b.svg', 'images/b.svg'),
      of('images/a.svg', 'images/b.svg'),
      'absent 2: cravel move --already pics images',
    ],
    [
      'all of it follows elsewhere',
      imgs('pics/a.svg', 'pics/b.svg', 'images/a.svg', 'images/b.svg'),
      of('images/a.svg', 'images/b.svg'),
      'absent 2: cravel mend --only absent',
    ],
    ['what nobody knows', imgs('pics/a.svg', 'pics/none.svg'), of('images/a.svg')],
    [
      'what is used by a script',
      `${imgs('pics/a.svg')}<script>const one = "images/a.svg";</script>`,
      of('images/a.svg'),
      'absent 1: cravel mend --only absent',
    ],
    ['letter case', imgs('pics/A.svg'), of('pics/a.svg'), 'letter-case 1: cravel mend --only letter-case'],
  ];
  for (const [what, body, files, ...said] of rows) {
    const { causes } = new LiveCheck({ files: { ...index(body), ...files } }).report();
    assert.deepEqual(
      causes.flatMap(({ rule, findings, mend }) =>
        mend === null ? [] : `${rule} ${findings.length}: ${mend}`,
      ),
      said,
      what,
    );
  }
});

test('a cause says how many pages suffer, each counted once', () => {
  const css = (path: string) => `<link rel="stylesheet" href="${path}">`;
  const gone = '<img src="gone.svg" alt="">';
  const wrong = 'a { background: url(gone.svg) }';
  const rows: readonly (readonly [files: Files, pages: number, spots: number])[] = [
    [
      { ...index(css('a.css')), 'b.html': page(css('a.css'), 'B'), 'c.html': page('', 'C'), 'a.css': wrong },
      2,
      1,
    ],
    [
      {
        ...index(css('a.css')),
        'b.html': page(css('a.css'), 'B'),
        'c.html': page(gone, 'C'),
        'a.css': wrong,
      },
      3,
      2,
    ],
    [{ ...index(css('a.css') + gone), 'b.html': page(gone, 'B'), 'a.css': wrong }, 2, 3],
    [
      {
        ...index(css('a.css')),
        'b.html': page(css('b.css'), 'B'),
        'a.css': '@import "b.css";',
        'b.css': wrong,
      },
      2,
      1,
    ],
    [{ ...index(css('a.css') + css('b.css')), 'a.css': wrong, 'b.css': wrong }, 1, 2],
    [{ ...index(gone), 'b.html': page(gone + gone, 'B') }, 2, 3],
  ];
  for (const [files, pages, spots] of rows) {
    const { causes } = new LiveCheck({ files }).report();
    const [cause] = causes.filter(({ rule }) => rule === 'absent');
    assert.deepEqual([cause?.pages, cause?.findings.length], [pages, spots], JSON.stringify(files));
  }
});

test('what a broken reference was meant for is neither unused nor unreached', () => {
  const svg = '<svg xmlns="http://www.w3.org/2000/svg"/>';
  const rows: readonly (readonly [body: string, files: Files, ...said: string[]])[] = [
    ['<a href="Piers/">p</a>', { 'piers/index.html': page('', 'Piers') }],
    ['<a href="pier/">p</a>', { 'piers/index.html': page('', 'Piers') }],
    ['<a href="x/piers.html">p</a>', { 'piers.html': page('', 'Piers') }],
    ['<img src="Pier.svg" alt="">', { 'pier.svg': svg }],
    ['<img src="pier.svg" alt="">', { 'a/pier.svg': svg, 'b/pier.svg': svg, 'c.svg': svg }, 'unused c.svg'],
    ['<img src="none.svg" alt="">', { 'pier.svg': svg }, 'unused pier.svg'],
  ];
  for (const [body, files, ...said] of rows) {
    const { findings } = new LiveCheck({ files: { ...index(body), ...files } }).report();
    const idle = findings.filter(({ rule }) => rule === 'unused' || rule === 'unreached');
    const what = body;
    assert.deepEqual(
      idle.map(({ rule, file }) => `${rule} ${file}`),
      said,
      what,
    );
  }
});
