import assert from 'node:assert/strict';
import { spawnSync } from 'node:child_process';
import { chmodSync, mkdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { cravel, programFile, projectFolder } from '../support/program.ts';
import { checkAsJson, type JsonReport } from '../support/report.ts';
import { temporaryFolder } from '../support/site.ts';

test('the text report shows the walk, what was meant, and a summary', (t) => {
  const folder = temporaryFolder(t, {
    'index.html': '<link rel=stylesheet href=css/harbour.css>\n<a href=#tide>tide</a>\n',
    'css/harbour.css': 'body {\n  background: url(images/pier.svg);\n}\n',
    'images/pier.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
  });
  const { code, stdout, stderr } = cravel(folder, 'check', '--only', 'broken');
  assert.equal(
    stdout,
    `css/harbour.css 2:19   broken · absent
    url(images/pier.svg)
    css/ ▸ images/        there is no folder images in css
    meant  ../images/pier.svg   css/ ▸ up to / ▸ images/ ▸ pier.svg
    mend   cravel mend --only absent

index.html 2:9   broken · absent-anchor
    <a href="#tide">
    / ▸ index.html        no id="tide" in this page

Read 3 references in 1 page of 3 files.
2 findings from 2 causes:
      1  broken · absent         no such file
      1  broken · absent-anchor  the page has no such anchor
  by kind: 1 image, 1 anchor
`,
  );
  assert.deepEqual([code, stderr], [1, '']);

  const plain = spawnSync(process.execPath, [programFile, 'check', '--only', 'broken'], {
    cwd: folder,
    env: { PATH: process.env.PATH, CRAVEL_MARKS: 'plain' },
    encoding: 'utf8',
  });
  assert.equal(plain.stdout, stdout.replaceAll('▸', '>').replaceAll('·', '-'));
});

test('the JSON report has the same findings, field by field', (t) => {
  const folder = temporaryFolder(t, {
    'a/index.html': '<img src=../P.png><a href=https://gullhaven.example/>',
    'p.png': '',
  });
  const { code, stdout } = cravel(folder, 'check', '--as', 'json', '--only', 'broken', '.');
  const report = JSON.parse(stdout) as JsonReport;
  assert.equal(code, 1);
  assert.deepEqual(report, {
    cravel: 2,
    sites: [
      {
        folder: '.',
        pages: 1,
        files: 2,
        references: 2,
        external: 1,
        asked: null,
        accepted: 0,
        counts: { broken: 1, fragile: 0, misplaced: 0, untidy: 0 },
      },
    ],
    causes: [
      {
        site: '.',
        rule: 'letter-case',
        grade: 'broken',
        message: "there is no file P.png in the site's root; it is spelled p.png",
        findings: 1,
        files: 1,
        pages: 1,
        mend: 'cravel mend --only letter-case',
      },
    ],
    findings: [
      {
        site: '.',
        cause: 0,
        rule: 'letter-case',
        grade: 'broken',
        file: 'a/index.html',
        line: 1,
        column: 10,
        endLine: 1,
        endColumn: 18,
        offset: 9,
        length: 8,
        holder: 'img src',
        written: '../P.png',
        kind: 'image',
        target: 'P.png',
        message: "there is no file P.png in the site's root; it is spelled p.png",
        reached: true,
        pages: null,
        walk: [
          { step: 'from', name: 'a/', found: true },
          { step: 'out', name: '/', found: true },
          { step: 'file', name: 'P.png', found: false },
        ],
        order: null,
        mends: [
          {
            sure: true,
            title: 'write ../p.png',
            target: 'p.png',
            walk: [
              { step: 'from', name: 'a/', found: true },
              { step: 'out', name: '/', found: true },
              { step: 'file', name: 'p.png', found: true },
            ],
            edits: [{ file: 'a/index.html', offset: 9, length: 8, text: '../p.png' }],
          },
        ],
      },
    ],
    unread: [],
  });
});

test('reports of a check that lie in the site are no pages of it', (t) => {
  const folder = temporaryFolder(t, { 'index.html': '<img src="none.svg" alt="">' });
  const before = cravel(folder, 'check').stdout;
  for (const as of ['html', 'json', 'sarif', 'junit'])
    cravel(folder, 'check', '--as', as, '--out', `report.${as === 'junit' ? 'xml' : as}`);
  const after = cravel(folder, 'check', '--only', 'broken,fragile,misplaced,placeholder-title,unreached');
  assert.doesNotMatch(after.stdout, /report\.html/);
  assert.match(before, /in 1 page of 1 file\./);
  assert.match(after.stdout, /in 1 page of 5 files\./);
});

test('the folder may be named, or given by --dir', (t) => {
  const folder = temporaryFolder(t, { 'work/site/index.html': 'x' });
  for (const args of [['work/site'], ['--dir', 'work/site'], ['site', '--dir', 'work']]) {
    const { code, stdout } = cravel(folder, 'check', ...args);
    assert.deepEqual([code, stdout.includes('Every reference holds')], [0, true], args.join(' '));
  }
});

test('input that cannot be checked is named, with what to do, and exits with 2', (t) => {
  const folder = temporaryFolder(t, {
    file: 'x',
    'plain/a.txt': 'x',
    'binary/a.html': new Uint8Array([0x89, 0, 1]),
    'wide/a.html': '\uFEFF<p>',
  });
  mkdirSync(join(folder, 'empty'));
  const rows: readonly (readonly [args: readonly string[], expected: RegExp])[] = [
    [['none'], /There is no folder none\.\nCheck the spelling/],
    [['file'], /file is a file, not a folder\.\nName the folder/],
    [['empty'], /The folder empty has no files\.\nLay out a project/],
    [['plain'], /The folder plain has 1 file, but no page .*\nName the folder that gets published/],
    [
      ['--as', 'xml'],
      /--as must be text, json, ndjson, sarif, junit or html\.\nSee the options with: --help/,
    ],
    [['--most', '0'], /--most must be a number from 1, or all/],
    [['wide', 'none'], /There is no folder none\./],
    [
      ['plain', 'wide', '--watch'],
      /Only one site can be watched at a time, and these are several: plain, wide\./,
    ],
  ];
  for (const [args, expected] of rows) {
    const { code, stderr } = cravel(folder, 'check', ...args);
    assert.equal(code, 2, args.join(' '));
    assert.match(stderr, expected);
    assert.doesNotMatch(stderr, /\n\s+at /, 'no stack trace');
  }
});

test('links round in a circle and links to nowhere are noted, and the rest is checked', (t) => {
  const folder = temporaryFolder(t, { 'index.html': '<img src=a.png>', 'sub/b.html': 'x' });
  symlinkSync('..', join(folder, 'sub/up'));
  symlinkSync('round', join(folder, 'round'));
  symlinkSync('gone', join(folder, 'dangling'));
  const { code, stdout } = cravel(folder, 'check');
  assert.equal(code, 2);
  assert.match(stdout, /no file a\.png/);
  assert.match(stdout, /^Not read: sub\/up: this link leads back/m);
  assert.match(stdout, /dangling 1:1 .*unused\n +a link to gone, where nothing is.*\n.*\n +round 1:1/);
});

test('control characters in names and addresses are shown escaped', (t) => {
  const folder = temporaryFolder(t, { 'a\u001b[31m.html': '<img src="x\u0007\u202egnp.x">' });
  const { stdout } = cravel(folder, 'check');
  assert.match(stdout, /a\\x1b\[31m\.html 1:11/);
  assert.match(stdout, /<img src="x\\x07\\u202egnp\.x">/);
  assert.doesNotMatch(stdout, /[\u001b\u0007\u202e]/);
});

test('an unreadable file is named and the rest is checked', { skip: process.getuid?.() === 0 }, (t) => {
  const folder = temporaryFolder(t, { 'index.html': 'x', 'b.html': 'x' });
  chmodSync(join(folder, 'b.html'), 0);
  const { code, stdout } = cravel(folder, 'check');
  assert.equal(code, 2);
  assert.match(
    stdout,
    /^Not read: b\.html: reading or writing it is not permitted: change its permissions\.$/m,
  );
});

test('a page of 50 MB is read whole', (t) => {
  const paragraph = '<p>The boat leaves on the hour. <a href="index.html">Home</a></p>\n';
  const page = `${paragraph.repeat(50_000_000 / paragraph.length)}<img src=last.png>`;
  const folder = temporaryFolder(t, { 'index.html': page });
  const { code, stdout } = cravel(folder, 'check');
  assert.equal(code, 1);
  assert.match(stdout, /Read 757,576 references.*\n {6}1 {2}broken · absent /s);
});

test('a reader that stops early, such as head, is no fault', (t) => {
  const pages = Array.from({ length: 500 }, (_, index) => [
    `p${index}.html`,
    `<img src=${index}.png>`.repeat(40),
  ]);
  const folder = temporaryFolder(t, Object.fromEntries(pages));
  const command = `"${process.execPath}" "${join(projectFolder, 'dist/cravel.js')}" check --most all | head -1`;
  const { stdout, stderr } = spawnSync('bash', ['-c', command], { cwd: folder, encoding: 'utf8' });
  assert.deepEqual([stdout.split('\n').length, stderr], [2, '']);
});

test('the demo finds each planted mistake, and nothing in the sound site', (t) => {
  const folder = temporaryFolder(t);
  const { code, stdout } = cravel(folder, 'demo', 'try');
  assert.equal(code, 0);
  const sound = cravel(folder, 'check', 'try/gullhaven-ferry', '--as', 'json');
  assert.deepEqual((JSON.parse(sound.stdout) as JsonReport).findings, []);
  const mistaken = cravel(
    folder,
    'check',
    'try/gullhaven-ferry-with-mistakes',
    '--as',
    'json',
    '--only',
    'broken,beyond-site,late-stylesheet,lacks-viewport',
  );
  const found = (JSON.parse(mistaken.stdout) as JsonReport).findings;
  const planted = [
    ...readFileSync(join(projectFolder, 'demo/mistakes.yaml'), 'utf8').matchAll(/rule: (.+)/g),
  ].map(([, rule]) => rule as string);
  const causes = new Set(
    found.map(
      ({ rule, target, written }) =>
        `${rule} ${target ?? written} ${rule === 'absent-anchor' ? written : ''}`,
    ),
  );
  assert.deepEqual([...causes].map((cause) => cause.split(' ')[0]).sort(), planted.sort());
  for (const [, what] of stdout.matchAll(/^ +\d+ {2}(.+)$/gm)) assert.ok((what as string).length < 80);
  const table = stdout.slice(stdout.indexOf('The check before and after'));
  assert.match(table, /broken · absent +5 +1\n/);
  assert.match(
    table,
    /misplaced · late-stylesheet +1 +0\n[\s\S]*untidy · lacks-viewport +1 +0\n[\s\S]* all +\d+ +11\n/,
  );
  const again = cravel(folder, 'demo', 'try');
  assert.equal(again.code, 2);
});

test('help has examples and the exit codes', (t) => {
  const folder = temporaryFolder(t);
  for (const args of [['scaffold'], ['check'], ['demo']]) {
    const { code, stdout, stderr } = cravel(folder, ...args, '--help');
    assert.deepEqual([code, stderr], [0, '']);
    assert.match(stdout, new RegExp(`Examples:\\n  cravel ${args[0]}`));
    assert.match(stdout, /Exit codes: 0 done and clean, 1 findings/);
  }
  assert.equal(cravel(folder, '--version').stdout, '0.1.0\n');
  assert.match(cravel(folder, 'chek').stderr, /unknown command 'chek'/);
  assert.equal(cravel(folder, 'chek').code, 2);
});

test('cravel.yaml changes grades, accepts what is known with its reason, and says what fails a check', (t) => {
  const head =
    '<!doctype html><html lang=en><meta charset=utf-8><meta name=viewport content=x><meta name=description content=x><title>Ferry</title>';
  const folder = temporaryFolder(t, {
    'index.html': `${head}<img src="/later.svg"><a href="/pay/">pay</a><a href="https://gullhaven.example/ferry/a.html">a</a><a href="/ferry/index.html">i</a>`,
    'old.txt': 'x',
    'drafts/plan.html': '<a href="nowhere.html">',
    'big.psd': 'x',
  });
  const run = (yaml: string, ...args: string[]) => {
    writeFileSync(join(folder, 'cravel.yaml'), yaml);
    return cravel(folder, 'check', '--as', 'json', ...args);
  };
  const rulesIn = (yaml: string) =>
    (JSON.parse(run(yaml).stdout) as JsonReport).findings.map(
      ({ rule, grade, written }) => `${grade} ${rule} ${written}`,
    );
  const LEFT = 'leave-out: [drafts/**, "*.psd"]\n';
  assert.deepEqual(rulesIn(LEFT), [
    'broken absent /later.svg',
    'broken absent /pay/',
    'broken absent /ferry/index.html',
    'untidy unused old.txt',
  ]);
  const PUBLISHED = `${LEFT}published-at: https://gullhaven.example/ferry/\n`;
  assert.deepEqual(rulesIn(PUBLISHED), [
    'broken absent https://gullhaven.example/ferry/a.html',
    'untidy unused old.txt',
  ]);
  const ACCEPT =
    'accept:\n  - { rule: absent, written: "/pay/", because: served by the ticket system }\n  - { rule: twice, because: gone }\n';
  const accepted = run(`${LEFT}${ACCEPT}grades: { unused: silent, absent: untidy }\n`);
  assert.deepEqual((JSON.parse(accepted.stdout) as JsonReport).sites[0]?.counts, {
    broken: 0,
    fragile: 0,
    misplaced: 0,
    untidy: 2,
  });
  assert.equal(accepted.code, 0);
  assert.match(
    accepted.stderr,
    /left out: 1 finding\.\ncravel\.yaml accepts twice \(gone\), and nothing like it is found/,
  );
  assert.equal(run(`${LEFT}fail-on: [fragile]\n`).code, 0);
  assert.equal(run(`${LEFT}fail-on: [fragile]\n`, '--fail-on', 'unused').code, 1);
  assert.equal(run(LEFT, '--only', 'fragile').code, 0);
  const mistakes: readonly (readonly [yaml: string, says: RegExp])[] = [
    ['grades: { absnt: silent }', /1:11: absnt is no rule; did you mean absent\?\n/],
    ['grades: { absent: bad }', /1:11: bad is no grade/],
    ['fail-on: [brokn]', /brokn is no grade or rule; did you mean broken\?/],
    ['accept: [{ rule: absent }]', /because /],
    ['publishd-at: x', /publishd-at is not a known key; did you mean published-at\?/],
    ['published-at: gullhaven.example', /published-at must be an http\(s\) address/],
  ];
  for (const [yaml, says] of mistakes) {
    const { code, stderr } = run(yaml);
    assert.deepEqual([code, says.test(stderr)], [2, true], stderr);
  }
  const unknown = cravel(folder, 'check', '--only', 'absnt', '--dir', '/tmp');
  assert.match(unknown.stderr, /There is no grade and no rule named absnt\.\nDid you mean: absent\?/);
});

test('a reference is shown as it is written in its format', (t) => {
  const site = temporaryFolder(t, {
    'index.html':
      '<link rel=stylesheet href=a.css><script type=module src=a.mjs></script><link rel=manifest href=app.webmanifest><img src=""><use href="x"><script type="importmap">{"imports":{"x":"./b.mjs"}}</script><iframe src="f.html">',
    'a.css': '@import "b.css"; p { background: image-set("p.png" 1x), url(q.png) }',
    'a.mjs':
      'import "./c.mjs"; export * from "./d.mjs"; import("./e.mjs"); new URL("p.png", import.meta.url);',
    'app.webmanifest': '{"icons":[{"src":"i.png"}]}',
    'sitemap.xml': '<urlset><url><loc>g.html</loc></url></urlset>',
  });
  const { stdout } = cravel(
    site,
    'check',
    '--by',
    'spot',
    '--most',
    'all',
    '--only',
    'broken,lacks-language',
  );
  const shown = [...stdout.matchAll(/ · (?!.* {2}).*\n {4}(.*)\n/g)].map(([, line]) => line);
  // By the harm that they do.
  assert.deepEqual(shown, [
    '@import "b.css"',
    'import "./c.mjs"',
    'export from "./d.mjs"',
    'import("./e.mjs")',
    'importmap imports "./b.mjs"',
    'image-set("p.png")',
    'new URL("p.png")',
    'url(q.png)',
    '<img src="">',
    '<iframe src="f.html">',
    'manifest icons.src "i.png"',
    'sitemap loc "g.html"',
    'the page does not say its language',
  ]);
});

const HEAD = '<!doctype html><html lang="en"><title>Ferry</title>';

test('a script that is nested too deeply is told as not read, and the rest of the site is judged; a long row is no nest', (t) => {
  const nest = (open: string, inner: string, close: string, depth: number) =>
    open.repeat(depth) + inner + close.repeat(depth);
  const load = 'import("./none.js")';
  const rows: readonly (readonly [what: string, script: string, isRead: boolean])[] = [
    ['functions', nest('(function(){', load, '})()', 275), false],
    ['functions as bundles have them', nest('(function(){', load, '})()', 60), true],
    ['templates', nest('`$\u007b', load, '}`', 3000), false],
    ['blocks', nest('{', load, '}', 5000), false],
    ['static blocks', nest('class A{static{', load, '}}', 3000), false],
    ['arrows', `${'a=>'.repeat(5000)}${load}`, false],
    ['lists', nest('[', load, ']', 4000), false],
    ['brackets in a string', `a="${'('.repeat(2000)}";${load}`, true],
    ['a sum', `a="a"${'+"a"'.repeat(5000)};${load}`, true],
    ['conditions in a row', `a${'&&a'.repeat(5000)};${load}`, true],
    ['properties of properties', `a${'.b'.repeat(5000)};${load}`, true],
    ['calls of calls', `a${'()'.repeat(5000)};${load}`, true],
  ];
  for (const [what, script, isRead] of rows) {
    const folder = temporaryFolder(t, {
      'index.html': `${HEAD}<script type="module" src="a.js"></script><img src="pier.svg" alt="">`,
      'a.js': script,
    });
    const { code, stdout, stderr } = cravel(folder, 'check', '--only', 'broken');
    assert.equal(code, isRead ? 1 : 2, `${what}: ${stderr}`);
    assert.match(stdout, /there is no file pier\.svg/, what);
    if (isRead) assert.match(stdout, /there is no file none\.js/, what);
    else assert.match(stdout, /Not read: a\.js: its code is nested too deeply to be read/, what);
  }
});

test('pipes and devices in a site are told and never opened', { skip: process.platform === 'win32' }, (t) => {
  const folder = temporaryFolder(t, { 'index.html': `${HEAD}<img src="zero.png" alt="">` });
  spawnSync('mkfifo', [join(folder, 'pipe.html'), join(folder, 'cravel.yaml')]);
  symlinkSync('/dev/zero', join(folder, 'zero.png'));
  const piped = cravel(folder, 'check');
  assert.deepEqual(
    [piped.code, /cravel\.yaml is no file that can be read/.test(piped.stderr)],
    [2, true],
    piped.stderr,
  );
  rmSync(join(folder, 'cravel.yaml'));
  const { code, stdout } = cravel(folder, 'check');
  assert.equal(code, 2);
  for (const name of ['pipe.html', 'zero.png'])
    assert.match(stdout, new RegExp(`Not read: ${name}: it is neither a file nor a folder: take it away`));
});

test('the command that a finding names settles it', (t) => {
  const head = '<!doctype html><html lang="en"><meta charset="utf-8"><title>';
  const wired = '<link rel="stylesheet" href="css/a.css">';
  const folder = temporaryFolder(t, {
    ...Object.fromEntries(
      ['a', 'b', 'c', 'd'].map((name) => [
        `${name}.html`,
        `${head}${name}</title>${wired}<a href="./">x</a>`,
      ]),
    ),
    'index.html': `${head}Ferry</title><a href="fares.html">f</a><a href="piers/">p</a><a href="css/">c</a><script src="lib/tide.min.js"></script>`,
    'css/a.css': 'p{}',
    'print/b.css': 'p{}',
    'b.html': `${head}b</title>${wired}<link rel="stylesheet" href="print/b.css">`,
  });
  const mends = () =>
    new Map(checkAsJson(folder).causes.map(({ rule, mend, message }) => [`${rule}: ${message}`, mend]));
  const named = mends();
  assert.deepEqual(
    [...named].filter(([, mend]) => mend !== null),
    [
      [
        "absent: there is no folder lib in the site's root",
        'cravel adopt <folder, archive or address> --wire',
      ],
      ["absent: there is no file fares.html in the site's root", 'cravel page ./fares.html'],
      ["absent: there is no folder piers in the site's root", 'cravel page ./piers/'],
      ['lacks-index: there is no index.html in css', 'cravel page ./css/'],
      ['wrong-place: styles live in css/ here', 'cravel move print/b.css css/'],
      ['lacks-description: the page has no description', 'cravel mend --guesses --only lacks-description'],
      ['lacks-viewport: the page says nothing of the viewport', 'cravel mend --only lacks-viewport'],
      [
        'odd-one-out: 4 of 5 pages load css/a.css, and this one does not',
        'cravel wire css/a.css --into index.html',
      ],
    ],
  );
  for (const [what, mend] of named) {
    const [program, ...args] = (mend ?? '').split(' ');
    // What a person must be asked is asked at a terminal.
    if (program !== 'cravel' || args[0] === 'adopt' || args.includes('--guesses')) continue;
    const { code, stderr } = cravel(folder, ...args);
    assert.equal(code, 0, `${mend}: ${stderr}`);
    assert.ok(!mends().has(what), mend ?? '');
  }
});

test('a library that the settings name and that is not there is told', (t) => {
  const folder = temporaryFolder(t, {
    'index.html': '<!doctype html><title>Ferry</title>',
    'lib/tide/tide.js': 'let a;',
    'lib/buoy/buoy.js': 'let b;',
    'cravel.yaml':
      'libraries:\n  tide: { folder: lib/tide, scripts: [tide.js] }\n  buoy: { folder: lib/buoy, styles: [buoy.css] }\n  gull: { folder: lib/gull }\n',
  });
  const { code, stderr } = cravel(folder, 'check');
  const told = (name: string, lacking: string) =>
    `cravel.yaml has the library ${name}, and there is no ${lacking}: take the entry out, or adopt the library again.\n`;
  assert.deepEqual([code, stderr], [0, told('buoy', 'lib/buoy/buoy.css') + told('gull', 'lib/gull/')]);
});

test('a page that is there is linked from the navigation when the call is made again for it', (t) => {
  const folder = temporaryFolder(t);
  cravel(folder, 'scaffold', 'site');
  const site = join(folder, 'site');
  assert.match(cravel(site, 'page', 'tides').stderr, /call again with --in-nav/);
  assert.equal(cravel(site, 'page', 'tides').code, 2);
  const again = cravel(site, 'page', 'tides', '--in-nav');
  assert.deepEqual(
    [again.code, again.stderr],
    [0, 'Linked from the navigation, and there before: tides.html.\n'],
  );
  assert.match(readFileSync(join(site, 'index.html'), 'utf8'), /<a href="tides\.html">Tides<\/a>/);
  const idle = cravel(site, 'page', 'tides', '--in-nav');
  assert.deepEqual(
    [idle.code, idle.stderr],
    [0, 'Nothing to do: the navigation leads to tides.html already.\n'],
  );
});
