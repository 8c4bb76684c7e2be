/** Packing: what was checked is published, nothing else, as the same bytes, and put in place as a whole. */
import assert from 'node:assert/strict';
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { type TestContext, test } from 'node:test';
import { Allowance } from '../../src/core/library/allowance.ts';
import { archiveFormat, unpack } from '../../src/disk/archive.ts';
import { cravel, programFile } from '../support/program.ts';
import { type Files, temporaryFolder } from '../support/site.ts';

const head = (title: string, more = '') =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${title}</title><meta name="description" content="About ${title}.">${more}</head><body>`;
const readable = 'var Buoys = { ring: 1 };\n';

const ferry: Files = {
  'cravel.yaml':
    'leave-out: ["drafts/**"]\nlibraries:\n  buoys: { folder: lib/buoys, scripts: [buoys.js], release: { buoys.js: buoys.min.js } }\n',
  'index.html': `${head('Ferry', '<link rel="stylesheet" href="css/main.css">')}<img src="images/pier.svg" alt=""><a href="piers/north.html">North</a><script src="lib/buoys/buoys.js"></script><script src="js/tides.js"></script></body></html>`,
  'piers/north.html': `${head('North', '<link rel="stylesheet" href="../css/main.css">')}<a href="../index.html">Home</a></body></html>`,
  'css/main.css': '/* The ferry. */\nbody { color: teal }\n',
  'js/tides.js': '/* Tides. */\nvar tides = Buoys.ring;\n',
  'lib/buoys/buoys.js': readable,
  'lib/buoys/buoys.min.js': 'var Buoys={ring:1};',
  'images/pier.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
  'images/pier.psd': 'layers',
  'drafts/fares.html': '<p>Later',
  'README.md': '# Notes',
  '.env': 'KEY=1',
  '.git/HEAD': 'ref',
  '.well-known/security.txt': 'Contact: crew@gullhaven.example',
};
const published = [
  '.well-known/security.txt',
  'css/main.css',
  'images/pier.svg',
  'index.html',
  'js/tides.js',
  'lib/buoys/buoys.min.js',
  'piers/north.html',
];

function filesIn(folder: string): string[] {
  return readdirSync(folder, { recursive: true })
    .map(String)
    .filter((path) => !path.includes('.local/') && statSync(join(folder, path)).isFile())
    .sort();
}

/** A project, with room beside it. */
function project(t: TestContext, files: Files = ferry): { root: string; beside: string } {
  const beside = temporaryFolder(
    t,
    Object.fromEntries(Object.entries(files).map(([path, text]) => [`site/${path}`, text])),
  );
  return { root: join(beside, 'site'), beside };
}

test('a folder or an archive gets what is the site, and each file that stays is named with its reason', async (t) => {
  const { root, beside } = project(t);
  const dry = cravel(root, 'pack', '--dry-run');
  assert.match(dry.stdout, /Would pack 7 files/);
  assert.deepEqual(readdirSync(beside), ['site']);
  const { code, stdout } = cravel(root, 'pack', '--to', '../out/ferry');
  assert.equal(code, 0);
  for (const line of [
    /left out {2}README\.md +for those who build/,
    /images\/pier\.psd +a source/,
    /drafts\/fares\.html +leave-out names it/,
    /\.env +it may hold a secret/,
    /swapped +1 reference to minified builds; left out: lib\/buoys\/buoys\.js/,
    /Packed 7 files into \.\.\/out\/ferry, [\d,]+ bytes/,
  ])
    assert.match(stdout, line);
  const folder = join(beside, 'out/ferry');
  assert.deepEqual(filesIn(folder), published);
  assert.equal(statSync(join(folder, 'index.html')).mode & 0o777, 0o644);
  for (const form of ['zip', 'tar.gz']) {
    assert.equal(cravel(root, 'pack', '--to', `../ferry.${form}`).code, 0);
    const bytes = readFileSync(join(beside, `ferry.${form}`));
    const format = archiveFormat(bytes);
    assert.ok(format !== null);
    const unpacked = await unpack(form, bytes, format, new Allowance(form, { files: 100, bytes: 1e6 }));
    assert.deepEqual([...unpacked.keys()].sort(), published);
    for (const [path, content] of unpacked) assert.ok(readFileSync(join(folder, path)).equals(content), path);
  }
  // Nothing of it stays in the project or beside the targets.
  assert.deepEqual(readdirSync(beside).sort(), ['ferry.tar.gz', 'ferry.zip', 'out', 'site']);
  assert.ok(!existsSync(join(root, '.cravel')));
  // Where nothing can be noted that is said, and the copy is there.
  for (const state of ['/dev/null/x', '/proc/x']) {
    const env = { PATH: process.env.PATH, HOME: beside, XDG_STATE_HOME: state };
    const args = [programFile, 'pack', '--to', `../unnoted${state.length}`];
    const unnoted = spawnSync(process.execPath, args, { cwd: root, env, encoding: 'utf8', timeout: 60_000 });
    assert.deepEqual([unnoted.status, /could not be noted/.test(unnoted.stderr)], [0, true], unnoted.stderr);
  }
  const more = cravel(root, 'pack', '--to', '../more', '--with', '*.psd', '--only-used');
  assert.match(more.stdout, /Packed 8 files/);
});

test('the same site gives the same bytes, whatever its times, its folder and the time zone are', (t) => {
  const { root, beside } = project(t);
  const copy = join(beside, 'copy/of/it');
  cpSync(root, copy, { recursive: true });
  for (const path of filesIn(copy)) utimesSync(join(copy, path), 1e9, 1e9);
  for (const form of ['zip', 'tar.gz']) {
    const hashes = [root, copy].map((folder, index) => {
      const target = join(beside, `${index}.${form}`);
      const env = { PATH: process.env.PATH, HOME: beside, TZ: index === 0 ? 'UTC' : 'Asia/Kathmandu' };
      const args = [programFile, 'pack', '--to', target, '--shrink', '--named-by-content'];
      assert.equal(spawnSync(process.execPath, args, { cwd: folder, env }).status, 0);
      return createHash('sha256').update(readFileSync(target)).digest('hex');
    });
    assert.equal(hashes[0], hashes[1], form);
  }
});

test('what fails visitors is not packed, unless somebody wants it all the same', (t) => {
  const { root, beside } = project(t, {
    ...ferry,
    'fares.html': `${head('Fares')}<img src="lost.png" alt="">`,
  });
  const { code, stdout, stderr } = cravel(root, 'pack', '--to', '../out');
  assert.equal(code, 1);
  assert.match(stdout, /fares\.html 1:\d+ +broken · absent/);
  assert.match(stderr, /Nothing was packed: 1 finding would reach visitors.*--all-the-same/);
  assert.deepEqual(readdirSync(beside), ['site']);
  // A build for visitors that is not what the other one is fails in the copy alone.
  const other = project(t, { ...ferry, 'lib/buoys/buoys.min.js': 'var Other={};' });
  const worse = cravel(other.root, 'pack', '--to', '../out');
  assert.equal(worse.code, 1);
  assert.match(worse.stdout, /js\/tides\.js 2:\d+ +broken/);
  assert.match(worse.stderr, /Nothing was packed: the copy would fail visitors where the site does not/);
  assert.deepEqual(readdirSync(other.beside), ['site']);
  const forced = cravel(root, 'pack', '--to', '../out', '--all-the-same');
  assert.equal(forced.code, 0);
  assert.match(forced.stdout, /The check fails for 1 finding: packed all the same/);
});

test('a target is replaced as a whole, and only where nothing that is not in the site is lost', (t) => {
  const { root, beside } = project(t);
  const out = join(beside, 'out');
  const rows: readonly (readonly [to: string, said: RegExp, before?: () => void])[] = [
    [
      '../out',
      /is there already, and Cravel did not put it there/,
      () => {
        mkdirSync(out);
        writeFileSync(join(out, 'a'), '');
      },
    ],
    ['../plain.zip', /is there already/, () => writeFileSync(join(beside, 'plain.zip'), 'x')],
    ['../plain.zip/x', /plain\.zip/],
    [
      '../repository',
      /is a repository/,
      () => mkdirSync(join(beside, 'repository/.git'), { recursive: true }),
    ],
    ['out', /lies in the site/],
    ['.', /lies in the site/],
    ['..', /holds the project/],
    ['../linked/out', /lies in the site/, () => symlinkSync(root, join(beside, 'linked'))],
    ['../x.rar', /does not write/],
  ];
  for (const [to, said, prepare = () => {}] of rows) {
    prepare();
    const before = filesIn(beside);
    const { code, stderr } = cravel(root, 'pack', '--to', to);
    assert.equal(code, 2, `${to}: ${stderr}`);
    assert.match(stderr, said, to);
    assert.deepEqual(filesIn(beside), before, to);
  }
  assert.equal(cravel(root, 'pack', '--to', '../repository', '--replace').code, 2);
  rmSync(join(beside, 'linked'));
  // What a run that was killed left beside the target goes; what only has such a name stays.
  for (const name of ['notes', '4194303-1-0123456789ab']) mkdirSync(join(beside, `.out.cravel-${name}`));
  assert.equal(cravel(root, 'pack', '--to', '../out', '--replace').code, 0);
  assert.deepEqual(filesIn(out), published);
  assert.deepEqual(
    readdirSync(beside).filter((name) => name.startsWith('.out')),
    ['.out.cravel-notes'],
  );
  // Its own work Cravel knows again.
  writeFileSync(join(root, 'css/main.css'), 'body { color: navy }');
  rmSync(join(root, '.well-known'), { recursive: true });
  assert.equal(cravel(root, 'pack', '--to', '../out').code, 0);
  assert.match(readFileSync(join(out, 'css/main.css'), 'utf8'), /navy/);
  assert.ok(!existsSync(join(out, '.well-known')));
  for (const [path, text] of [
    ['by-hand.txt', 'mine'],
    ['index.html', 'edited'],
  ] as const) {
    writeFileSync(join(out, path), text);
    const { code, stderr } = cravel(root, 'pack', '--to', '../out');
    assert.deepEqual([code, stderr.includes(`since it was packed: ${path}`)], [2, true], stderr);
    assert.equal(cravel(root, 'pack', '--to', '../out', '--replace').code, 0);
  }
});

test('of a hostile project what is its own is packed, or nothing', (t) => {
  const { root, beside } = project(t, {
    ...ferry,
    'odd\n\u001b[31mname.txt': 'x',
    'c:\\drive.txt': 'x',
    'aux.txt': 'x',
  });
  writeFileSync(join(beside, 'secret.txt'), 'mine');
  symlinkSync('../secret.txt', join(root, 'link.txt'));
  const refused = cravel(root, 'pack', '--to', '../out');
  assert.equal(refused.code, 2);
  assert.match(refused.stderr, /lead out of the site.*link\.txt \(to \.\.\/secret\.txt\)/);
  rmSync(join(root, 'link.txt'));
  symlinkSync('pier.svg', join(root, 'images/again.svg'));
  const { code, stderr, stdout } = cravel(root, 'pack', '--to', '../out.zip');
  assert.ok(!`${stdout}${stderr}`.includes('\u001b'), stderr);
  assert.equal(code, 2, stdout);
  assert.match(stderr, /could not be unpacked everywhere: .*drive\.txt.*--safe-names/s);
  assert.ok(!existsSync(join(beside, 'out.zip')));
  for (const name of ['odd\n\u001b[31mname.txt', 'c:\\drive.txt', 'aux.txt']) rmSync(join(root, name));
  assert.equal(cravel(root, 'pack', '--to', '../out').code, 0);
  assert.ok(statSync(join(beside, 'out/images/again.svg')).isFile());
  spawnSync('mkfifo', [join(root, 'pipe.css')]);
  const device = cravel(root, 'pack', '--to', '../other');
  assert.deepEqual(
    [device.code, /could not be read.*pipe\.css/.test(device.stderr)],
    [2, true],
    device.stderr,
  );
});

test('a release is switched on and off in the project itself, as one change each', (t) => {
  const { root } = project(t);
  const index = () => readFileSync(join(root, 'index.html'), 'utf8');
  const before = index();
  assert.match(
    cravel(root, 'release', 'show').stdout,
    /buoys\.js +loaded by 1 file\nlib\/buoys\/buoys\.min\.js +not loaded/,
  );
  assert.match(cravel(root, 'release', 'on', '--dry-run').stdout, /^\+.*buoys\.min\.js/m);
  assert.equal(cravel(root, 'release', 'on').code, 0);
  assert.match(index(), /buoys\.min\.js/);
  assert.match(cravel(root, 'release', 'on').stderr, /Nothing to do/);
  assert.equal(cravel(root, 'release', 'off').code, 0);
  assert.equal(index(), before);
  cravel(root, 'undo');
  assert.match(index(), /buoys\.min\.js/);
  assert.equal(cravel(root, 'release', 'sideways').code, 2);
});
