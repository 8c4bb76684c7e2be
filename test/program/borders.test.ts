/** Where a project begins and ends, for every command, and what of a folder each of them takes. */
import assert from 'node:assert/strict';
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { cravel } from '../support/program.ts';
import { checkAsJson } from '../support/report.ts';
import { type Files, temporaryFolder } from '../support/site.ts';

const page = (title: string, body: string) =>
  `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="x"><meta name="description" content="${title}"><title>${title}</title><body>${body}`;

/** A project with its site in a folder of its own, and a site without settings. */
const files: Files = {
  'isle/cravel.yaml': 'site: web\n',
  'isle/web/index.html': page(
    'Home',
    '<nav><a href="piers/north.html">North</a></nav><img src="none.svg" alt="">',
  ),
  'isle/web/piers/north.html': page('North', '<a href="../index.html">Home</a><a href="gone.html">Gone</a>'),
  'isle/web/piers/tides.css': 'a{}',
  'isle/web/css/print.css': 'p{}',
  'isle/notes/index.html': page('Notes', '<a href="../web/index.html">Site</a>'),
  'plain/index.html': page('Plain', '<a href="pages/a.html">A</a>'),
  'plain/pages/a.html': page('A', '<a href="../index.html">Home</a>'),
};

test('a check sees the whole project and tells of what was named', (t) => {
  const folder = temporaryFolder(t, files);
  const rows: readonly (readonly [
    from: string,
    named: readonly string[],
    sites: readonly (readonly [folder: string, pages: number])[],
    found: readonly string[],
    note: RegExp,
  ])[] = [
    ['isle', [], [['web', 2]], ['index.html none.svg', 'piers/north.html gone.html'], /^$/],
    ['isle/web', [], [['../web', 2]], ['index.html none.svg', 'piers/north.html gone.html'], /^$/],
    [
      'isle/web/piers',
      [],
      [['../../web', 2]],
      ['piers/north.html gone.html'],
      /what lies in piers\/ is told/,
    ],
    [
      '.',
      ['isle/web/piers'],
      [['isle/web', 2]],
      ['piers/north.html gone.html'],
      /whole project isle is read/,
    ],
    [
      '.',
      ['isle/web/piers', 'isle/web/css'],
      [['isle/web', 2]],
      ['piers/north.html gone.html'],
      /piers\/, css\/ is told/,
    ],
    [
      '.',
      ['isle/web/piers', 'isle'],
      [['isle/web', 2]],
      ['index.html none.svg', 'piers/north.html gone.html'],
      /^$/,
    ],
    [
      '.',
      ['isle', 'plain'],
      [
        ['isle/web', 2],
        ['plain', 2],
      ],
      ['index.html none.svg', 'piers/north.html gone.html'],
      /^$/,
    ],
    // What is no part of the project's site is a site of its own.
    ['isle', ['notes'], [['notes', 1]], ['index.html ../web/index.html'], /^$/],
    [
      'plain',
      ['pages'],
      [['pages', 1]],
      ['a.html ../index.html'],
      /There is an index\.html in the folder above\. .*cravel check \.\n$/,
    ],
    ['plain/pages', [], [['.', 1]], ['a.html ../index.html'], /cravel check \.\.\n$/],
  ];
  for (const [from, named, sites, found, note] of rows) {
    const what = `${from}: check ${named.join(' ')}`;
    const report = checkAsJson(join(folder, from), ...named, '--only', 'broken');
    assert.deepEqual(
      report.sites.map((site) => [site.folder, site.pages]),
      sites,
      what,
    );
    assert.deepEqual(
      report.findings.map(({ file, written }) => `${file} ${written}`),
      found,
      what,
    );
    const { stderr, code } = cravel(join(folder, from), 'check', ...named, '--only', 'broken');
    assert.match(stderr, note, what);
    assert.equal(code, found.length > 0 ? 1 : 0, what);
  }
  const nothing = cravel(join(folder, 'isle'), 'check', 'web/css/..', 'web/none');
  assert.deepEqual([nothing.code, /There is no folder web\/none/.test(nothing.stderr)], [2, true]);
  const totals = cravel(folder, 'check', 'isle', 'plain').stdout;
  assert.match(totals, /^isle\/web\n[\s\S]*^plain\n[\s\S]*^2 sites, 4 pages, \d+ findings: 2 broken, /m);
});

test('a project within a project is a site of its own, and no part of the one around it', (t) => {
  const folder = temporaryFolder(t, {
    'ferry/cravel.yaml': 'fail-on: [broken]\n',
    'ferry/index.html': page('Ferry', '<a href="shop/index.html">Shop</a><img src="shop/sea.svg" alt="">'),
    'ferry/shop/cravel.yaml': 'grades: { absent: untidy }\nsite: web\n',
    'ferry/shop/web/index.html': page(
      'Shop',
      '<img src="none.svg" alt=""><a href="../../index.html">Ferry</a>',
    ),
    'ferry/shop/web/old/cravel.yaml': '',
    'isle/cravel.yaml': '',
    'isle/index.html': page('Isle', '<p>x'),
  });
  const told = (from: string, ...named: readonly string[]) => {
    const { sites, findings } = checkAsJson(join(folder, from), ...named, '--only', 'absent,beyond-site');
    return [
      sites.map((site) => site.folder),
      findings.map(({ site, grade, rule, written }) => `${site} ${grade} ${rule} ${written}`),
    ];
  };
  const inShop = (site: string) => [
    `${site} broken beyond-site ../../index.html`,
    `${site} untidy absent none.svg`,
  ];
  const inFerry = (site: string) => [
    `${site} broken beyond-site shop/index.html`,
    `${site} broken beyond-site shop/sea.svg`,
  ];
  assert.deepEqual(told('ferry'), [
    ['.', 'shop/web'],
    [...inFerry('.'), ...inShop('shop/web')],
  ]);
  assert.deepEqual(told('.', 'ferry/shop'), [['ferry/shop/web'], inShop('ferry/shop/web')]);
  // A folder above many projects is none itself.
  assert.deepEqual(told('.'), [
    ['ferry', 'ferry/shop/web', 'isle'],
    [...inFerry('ferry'), ...inShop('ferry/shop/web')],
  ]);
  assert.match(
    cravel(join(folder, 'ferry'), 'check').stdout,
    /shop is a project of its own, and published by itself/,
  );
  // What changes the one leaves the other alone.
  assert.equal(cravel(join(folder, 'ferry'), 'parts', '--add', 'picture', '--from', 'img').code, 0);
  assert.doesNotMatch(readFileSync(join(folder, 'ferry/shop/web/index.html'), 'utf8'), /Part/);
});

test('every command that works in a project finds it from a folder within, and takes names from there', (t) => {
  const rows: readonly (readonly [args: readonly string[], path: string, expected: RegExp])[] = [
    [['wire', 'tides.css'], 'isle/web/index.html', /href="piers\/tides\.css"/],
    [
      ['wire', '../css/print.css', '--into', 'piers/**'],
      'isle/web/piers/north.html',
      /href="\.\.\/css\/print\.css"/,
    ],
    [['wire', 'css/print.css'], 'isle/web/piers/north.html', /href="\.\.\/css\/print\.css"/],
    [['page', 'south'], 'isle/web/piers/south.html', /<title>South/],
    [['page', '../fares', '--like', 'north.html'], 'isle/web/fares.html', /<title>Fares/],
    [
      ['parts', '--add', 'navigation', '--from', 'nav'],
      'isle/web/piers/north.html',
      /<!-- Part: navigation -->/,
    ],
    [['adopt', '../css', '--as', 'print'], 'isle/cravel.yaml', /folder: lib\/print/],
    [['adopt', 'tides.css'], 'isle/cravel.yaml', /folder: lib\/tides/],
  ];
  for (const [args, path, expected] of rows) {
    const folder = temporaryFolder(t, files);
    const { stderr } = cravel(join(folder, 'isle/web/piers'), ...args);
    assert.match(stderr, /^In the project \.\.\/\.\., which has a cravel\.yaml\./, args.join(' '));
    assert.match(readFileSync(join(folder, path), 'utf8'), expected, args.join(' '));
    assert.ok(!existsSync(join(folder, 'isle/web/piers/.cravel')), args.join(' '));
  }
  const folder = temporaryFolder(t, files);
  const inPiers = join(folder, 'isle/web/piers');
  assert.match(cravel(inPiers, 'settings').stdout, /^site: web$/m);
  assert.match(cravel(inPiers, 'keep', '.', 'isle').stderr, /^Keeping the whole project \.\.\/\.\./);
  // Where nothing has settings, the folder is the project.
  assert.equal(cravel(join(folder, 'plain'), 'page', 'b').stderr.includes('In the project'), false);
  assert.ok(existsSync(join(folder, 'plain/pages/b.html')));
});

test('what is hidden, secret, linked or no file is taken, named or left as the table says, by every command', (t) => {
  // Takes it; names it only; leaves it.
  type Verdict = 'take' | 'name' | 'leave';
  const rows: readonly (readonly [path: string, check: Verdict, keep: Verdict, adopt: Verdict])[] = [
    ['plain.css', 'take', 'take', 'take'],
    ['.well-known/a.css', 'take', 'take', 'leave'],
    ['.htaccess', 'take', 'take', 'leave'],
    ['.nojekyll', 'take', 'take', 'leave'],
    ['.hidden.css', 'name', 'leave', 'leave'],
    ['.drafts/a.css', 'name', 'leave', 'leave'],
    ['.env', 'name', 'leave', 'leave'],
    ['keys/site.pem', 'name', 'leave', 'leave'],
    ['old.css~', 'name', 'leave', 'leave'],
    ['node_modules/a/a.css', 'name', 'leave', 'leave'],
    ['bower_components/a.css', 'take', 'leave', 'leave'],
    ['within.css', 'take', 'take', 'leave'],
    ['within/a.css', 'take', 'take', 'leave'],
    ['out.css', 'take', 'leave', 'leave'],
    ['outside/b.css', 'take', 'leave', 'leave'],
    ['dead.css', 'leave', 'leave', 'leave'],
    ['pipe.css', 'leave', 'leave', 'leave'],
    ['to-hidden.css', 'name', 'leave', 'leave'],
  ];
  const folder = temporaryFolder(t, {
    'elsewhere/b.css': 'a{background:url(none.svg)}',
    'site/real/a.css': 'a{}',
    ...Object.fromEntries(
      rows
        .filter(([path]) => !/^(?:within|out|dead|pipe|to-)/.test(path))
        .map(([path]) => [`site/${path}`, 'a{}']),
    ),
  });
  const site = join(folder, 'site');
  for (const [from, to] of [
    ['real/a.css', 'within.css'],
    ['real', 'within'],
    ['../elsewhere/b.css', 'out.css'],
    ['../elsewhere', 'outside'],
    ['nowhere.css', 'dead.css'],
    ['.hidden.css', 'to-hidden.css'],
  ] as const)
    symlinkSync(from, join(site, to));
  spawnSync('mkfifo', [join(site, 'pipe.css')]);

  const links = rows.map(([path]) => `<link rel="stylesheet" href="${path}">`).join('');
  writeFileSync(join(site, 'index.html'), page('Home', links));
  const { findings, unread } = checkAsJson(folder, 'site', '--only', 'absent');
  const { stderr } = cravel(folder, 'check', 'site');
  cravel(folder, 'keep', 'site', 'isle');
  cravel(folder, 'adopt', 'site', '--as', 'isle');
  const kept = join(folder, '.local/share/cravel/starters/isle');
  const adopted = join(folder, 'lib/isle');
  for (const [path, check, keep, adopt] of rows) {
    const absent = findings.find(({ written }) => written === path);
    const isNamed = /, but .+ (?:is|are) not published$/.test(absent?.message ?? '');
    const verdict = isNamed ? 'name' : absent === undefined ? 'take' : 'leave';
    assert.equal(verdict, check, `check ${path}: ${absent?.message}`);
    assert.equal(existsSync(join(kept, path)), keep === 'take', `keep ${path}`);
    assert.equal(existsSync(join(adopted, path)), adopt === 'take', `adopt ${path}`);
  }
  assert.deepEqual(
    unread.map(({ file }) => file),
    ['pipe.css'],
  );
  assert.match(
    stderr,
    /2 links out of the site, .*: out\.css \(to \.\.\/elsewhere\/b\.css\), outside \(to \.\.\/elsewhere\)\./,
  );
});

test('what a link in the site leads to is told once, and what differs by the way is told as well', (t) => {
  const folder = temporaryFolder(t, {
    'index.html': page('Home', '<a href="ja/a.html#x">A</a> <a href="deep/ja/a.html">A</a>'),
    'japanese/a.html': page('A', '<img src="none.svg" alt=""><img src="../pier.svg" alt="">'),
    'pier.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
    'deep/b.html': page('B', '<a href="../index.html">Home</a>'),
  });
  symlinkSync('japanese', join(folder, 'ja'));
  symlinkSync('deep/b.html', join(folder, 'b.html'));
  symlinkSync('../japanese', join(folder, 'deep/ja'));
  const { findings, sites } = checkAsJson(folder);
  assert.deepEqual(findings.map(({ rule, file, written }) => `${rule} ${file} ${written}`).sort(), [
    'absent deep/ja/a.html ../pier.svg',
    'absent japanese/a.html none.svg',
    'absent-anchor index.html ja/a.html#x',
    'beyond-site b.html ../index.html',
    'unreached deep/b.html deep/b.html',
  ]);
  const once = findings.find(({ file }) => file === 'japanese/a.html');
  assert.equal(once?.message, 'there is no file none.svg in japanese; also as deep/ja/a.html, ja/a.html');
  assert.equal(sites[0]?.pages, 3);
});
