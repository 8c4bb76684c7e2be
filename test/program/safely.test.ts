/** Changes that follow what is meant: made as a whole, told in full, and taken back byte for byte. */
import assert from 'node:assert/strict';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { cravel } from '../support/program.ts';
import { type Files, temporaryFolder } from '../support/site.ts';

const image = '<svg xmlns="http://www.w3.org/2000/svg"/>';
const head = (title: string, more = '') =>
  `<!doctype html>\n<html lang="en">\n<head>\n  <meta charset="utf-8">\n  <meta name="viewport" content="width=device-width">\n  <title>${title}</title>\n  <meta name="description" content="About ${title}.">\n${more}</head>\n<body>\n`;
const nav = (up: string) =>
  `  <nav><ul>\n    <li><a href="${up}index.html">Home</a></li>\n    <li><a href="${up}fares.html">Fares</a></li>\n  </ul></nav>\n`;
const style = (up: string) => `  <link rel="stylesheet" href="${up}css/main.css">\n`;

const ferry: Files = {
  'index.html': `${head('Ferry', style(''))}${nav('')}  <img src="images/pier.svg" alt="">\n  <p><a href="piers/north.html">North</a></p>\n</body>\n</html>\n`,
  'fares.html': `${head('Fares', style(''))}${nav('')}</body>\n</html>\n`,
  'piers/north.html': `${head('North', style('../'))}${nav('../')}  <img src="../images/pier.svg" alt="">\n</body>\n</html>\n`,
  'css/main.css': '@import "print.css";\nbody { background: url(../images/pier.svg) }\n',
  'css/print.css': 'b { color: black }\n',
  'images/pier.svg': image,
};

/** What a project holds, without what Cravel keeps for its user. */
function contentOf(folder: string): Record<string, string> {
  const paths = readdirSync(folder, { recursive: true }).map(String).sort();
  const own = paths.filter((path) => !path.startsWith('.local') && !path.startsWith('other'));
  return Object.fromEntries(
    own.map((path) => [
      path,
      statSync(join(folder, path)).isDirectory() ? 'folder' : readFileSync(join(folder, path), 'utf8'),
    ]),
  );
}

test('every change is shown first, made as it was shown, sound afterwards, and taken back', (t) => {
  const rows: readonly (readonly [args: readonly string[], changes: Files, said: RegExp, wrong?: Files])[] = [
    [['move', 'images', 'pictures'], {}, /Moved 1 file; 3 references in 3 files follow/],
    [
      ['move', 'fares.html', 'piers/north.html', 'more/'],
      {},
      /Moved 2 files; 5 references in 3 files follow/,
    ],
    [
      ['move', '--safe-names'],
      {},
      /Moved 1 file; 1 reference/,
      {
        'My Pier.svg': image,
        'fares.html': `${head('Fares', style(''))}${nav('')}<img src="My%20Pier.svg" alt="">\n`,
      },
    ],
    [
      ['remove', 'css/print.css'],
      { 'css/main.css': 'body { background: url(../images/pier.svg) }\n' },
      /Removed 1 file; 1 reference in 1 file went along/,
    ],
    [['remove', 'fares.html'], {}, /Removed 1 file; 2 references in 2 files went along/],
    [
      ['mend'],
      { 'fares.html': ferry['fares.html'] as string },
      /Mended 1 finding in 1 file/,
      { 'fares.html': (ferry['fares.html'] as string).replace('css/main', 'main') },
    ],
    [
      ['lift', 'fares.html:9'],
      {},
      /Lifted to css\/fares\.css, from 1 page/,
      { 'fares.html': head('Fares', '  <style>\n    b { color: red }\n  </style>\n') + nav('') },
    ],
    [
      ['bring', 'boats.html', '--from', 'other'],
      {},
      /Brought 2 files from other/,
      {
        'other/boats.html': head('Boats', '  <link rel="stylesheet" href="boats.css">\n'),
        'other/boats.css': 'i { color: red }\n',
        'cravel.yaml': 'leave-out: [ "other/**" ]\n',
      },
    ],
  ];
  for (const [args, changes, said, wrong = {}] of rows) {
    const folder = temporaryFolder(t, { ...ferry, ...wrong });
    const before = contentOf(folder);
    const dry = cravel(folder, ...args, '--dry-run');
    const what = `${args.join(' ')}: ${dry.stderr}`;
    assert.deepEqual(
      [dry.code, /nothing was written/.test(dry.stderr), contentOf(folder)],
      [0, true, before],
      what,
    );
    assert.notEqual(dry.stdout, '', what);
    const real = cravel(folder, ...args);
    assert.equal(real.code, 0, real.stderr);
    assert.match(real.stderr, said);
    const after = contentOf(folder);
    assert.notDeepEqual(after, before);
    for (const [path, content] of Object.entries(changes)) assert.equal(after[path], content, what);
    const check = cravel(folder, 'check', '--only', 'broken,fragile,misplaced', '.');
    assert.match(check.stdout, /Nothing of that is found/, `${what} ${check.stdout}`);
    const again = cravel(folder, 'undo');
    assert.deepEqual([again.code, contentOf(folder)], [0, before], again.stderr);
  }
});

test('a part comes by its name, its references as they are to be here', (t) => {
  const folder = temporaryFolder(t, {
    'site/index.html': `${head('Ferry')}</body>\n</html>\n`,
    'other/start.html': `${head('Old')}<!-- Part: foot --><footer><img src="img/f.svg" alt=""><a href="start.html">x</a></footer><!-- End of part: foot -->\n</body>`,
    'other/cravel.yaml': 'entry: start.html\nplaces: { images: img }\n',
    'other/img/f.svg': image,
    'site/images/x.svg': image,
  });
  const { code, stderr } = cravel(join(folder, 'site'), 'bring', 'foot', '--from', '../other');
  assert.deepEqual([code, /Put the part foot at the end of index\.html/.test(stderr)], [0, true], stderr);
  assert.ok(
    readFileSync(join(folder, 'site/index.html'), 'utf8').includes(
      '<footer><img src="images/f.svg" alt=""><a href="index.html">x</a></footer><!-- End of part: foot -->\n</body>',
    ),
    readFileSync(join(folder, 'site/index.html'), 'utf8'),
  );
  assert.equal(cravel(join(folder, 'site'), 'bring', 'foot', '--from', '../other').code, 2);
});

test('changes are taken back one after the other, and not where somebody has changed a file since', (t) => {
  const folder = temporaryFolder(t, ferry);
  const first = contentOf(folder);
  cravel(folder, 'move', 'images', 'pictures');
  const second = contentOf(folder);
  cravel(folder, 'move', 'pictures/pier.svg', 'pictures/quay.svg');
  const listed = cravel(folder, 'undo', '--list');
  assert.match(
    listed.stdout,
    /^[\d-]{10} [\d:]{5} {2}move pictures\/pier\.svg pictures\/quay\.svg, 5 files\n[\d-]{10} [\d:]{5} {2}move images pictures, 5 files\n$/,
  );
  writeFileSync(join(folder, 'fares.html'), `${ferry['fares.html']} `);
  assert.equal(cravel(folder, 'undo').code, 0, 'it is none of those that changed');
  assert.deepEqual({ ...contentOf(folder), 'fares.html': ferry['fares.html'] }, second);
  const kept = readFileSync(join(folder, 'index.html'), 'utf8');
  writeFileSync(join(folder, 'index.html'), `${kept} `);
  const refused = cravel(folder, 'undo');
  assert.deepEqual(
    [refused.code, /^index\.html was changed since/.test(refused.stderr)],
    [2, true],
    refused.stderr,
  );
  assert.match(cravel(folder, 'undo', '--list').stderr, /cannot be taken back as it stands: index\.html/);
  writeFileSync(join(folder, 'index.html'), kept);
  writeFileSync(join(folder, 'fares.html'), ferry['fares.html'] as string);
  assert.equal(cravel(folder, 'undo').code, 0);
  assert.deepEqual(contentOf(folder), first);
  const none = cravel(folder, 'undo');
  assert.deepEqual([none.code, /No change of cravel/.test(none.stderr)], [2, true]);
  assert.equal(cravel(folder, 'undo', '--finish').code, 2);
});

test('how much is kept for undo is a setting; the last change always stays', (t) => {
  const large = 'x'.repeat(700_000);
  const files = { ...ferry, 'a.txt': large, 'b.txt': large };
  for (const [megabytes, amount] of [
    [0, 0],
    [1, 1],
    [200, 2],
  ]) {
    const folder = temporaryFolder(t, { ...files, 'cravel.yaml': `undo-megabytes: ${megabytes}\n` });
    for (const path of ['a.txt', 'b.txt']) cravel(folder, 'remove', path);
    assert.equal(cravel(folder, 'undo', '--list').stdout.split('\n').length - 1, amount);
  }
});

test('what cannot be moved, removed or brought is refused, and nothing is written', (t) => {
  const folder = temporaryFolder(t, { ...ferry, 'piers/draft.txt': 'x', 'other/fares.html': 'x' });
  symlinkSync('pier.svg', join(folder, 'images/link.svg'));
  mkdirSync(join(folder, 'empty'));
  const before = contentOf(folder);
  const rows: readonly (readonly [args: readonly string[], said: RegExp])[] = [
    [['move', 'index.html', 'fares.html'], /^fares\.html is there already/],
    [['move', 'piers', 'piers/deep'], /^piers\/deep\/ lies in piers\//],
    [['move', 'index.html', '../index.html'], /lies outside of the site/],
    [['move', 'index.htm', 'x.html'], /There is no file index\.htm[\s\S]*index\.html/],
    [['move', 'images', 'pictures'], /images\/link\.svg is a link/],
    [['move', 'css/main.css', 'css/print.css', 'fares.html'], /fares\.html is there already/],
    [['move', 'index.html'], /where to, must both be named/],
    [['move', '--already', 'index.html', 'fares.html'], /index\.html is still there/],
    [['move', 'css/m*.css', 'styles'], /no folder styles[\s\S]*write styles\/ for a folder/],
    [['move', 'index.html', 'fares.html/x.html'], /fares\.html is there already/],
    [['remove', 'images/pier.svg'], /images\/pier\.svg is still shown: css\/main\.css 2, index\.html/],
    [['remove', 'piers/north.html'], /piers\/north\.html is still shown: index\.html/],
    [['remove', 'none.css'], /There is no file none\.css/],
    [['lift', 'fares.html:1'], /At fares\.html:1 stands no script/],
    [['lift', 'fares'], /does not say which code/],
    [['bring', 'fares.html', '--from', 'other'], /other\/fares\.html would become fares\.html/],
    [['bring', 'none.html', '--from', 'other'], /There is no none\.html in other/],
    [['bring', 'fares.html'], /is not said/],
    [['mend', '--guesses'], /there is no terminal to ask at/],
    [['mend', '--only', 'absnt'], /Did you mean: absent/],
    [['undo', '--list', '--finish'], /were both given/],
  ];
  for (const [args, said] of rows) {
    const { code, stderr } = cravel(folder, ...args);
    assert.deepEqual([code, said.test(stderr)], [2, true], `${args.join(' ')}: ${stderr}`);
    assert.deepEqual(contentOf(folder), before, args.join(' '));
  }
  const forced = cravel(folder, 'remove', 'piers/north.html', '--all-the-same');
  assert.match(forced.stderr, /These lead nowhere now: index\.html/);
});

test('a folder moves with all that it holds, modes and times', (t) => {
  const folder = temporaryFolder(t, {
    ...ferry,
    'piers/.draft.txt': 'd',
    'piers/run.sh': 'x',
    'cravel.yaml': 'leave-out: [ "piers/raw/**" ]\nplaces: { images: images }\n',
    'piers/raw/a.psd': 'r',
  });
  mkdirSync(join(folder, 'piers/later'));
  const within = () => readdirSync(join(folder, 'piers'), { recursive: true }).sort();
  const before = within();
  chmodSync(join(folder, 'piers/run.sh'), 0o755);
  const { mtimeMs } = statSync(join(folder, 'piers/run.sh'));
  const { stdout } = cravel(folder, 'move', 'piers', 'docks');
  assert.match(stdout, /^moved {4}piers\/north\.html ▸ docks\/north\.html$/m);
  assert.ok(!existsSync(join(folder, 'piers')));
  const moved = statSync(join(folder, 'docks/run.sh'));
  assert.deepEqual([moved.mode & 0o777, Math.round(moved.mtimeMs)], [0o755, Math.round(mtimeMs)]);
  for (const path of ['.draft.txt', 'raw/a.psd', 'later'])
    assert.ok(existsSync(join(folder, 'docks', path)), path);
  assert.match(readFileSync(join(folder, 'cravel.yaml'), 'utf8'), /"docks\/raw\/\*\*"/);
  cravel(folder, 'undo');
  assert.deepEqual([within(), existsSync(join(folder, 'docks'))], [before, false]);
});

test('what was renamed by other means is offered, and followed', (t) => {
  const folder = temporaryFolder(t, ferry);
  renameSync(join(folder, 'fares.html'), join(folder, 'fare.html'));
  renameSync(join(folder, 'images'), join(folder, 'pictures'));
  const { stdout } = cravel(folder, 'check', '.');
  const offered = [...stdout.matchAll(/cravel (move --already \S+ \S+)/g)].map(([, args]) => args as string);
  assert.deepEqual(offered.sort(), ['move --already fares.html fare.html', 'move --already images pictures']);
  for (const args of offered) assert.equal(cravel(folder, ...args.split(' ')).code, 0);
  assert.match(cravel(folder, 'check', '--only', 'broken', '.').stdout, /Nothing of that is found/);
  // Whatever it is called now, and wherever it lies: by what it was when it was packed.
  writeFileSync(join(folder, 'pictures/pier.svg'), `${image}<!-- the pier -->`);
  assert.equal(cravel(folder, 'pack', '--to', join(temporaryFolder(t), 'packed'), '--all-the-same').code, 0);
  mkdirSync(join(folder, 'drawings'));
  writeFileSync(join(folder, 'drawings/buoy.svg'), image);
  renameSync(join(folder, 'pictures/pier.svg'), join(folder, 'drawings/where-ships-lie.svg'));
  const call = 'move --already pictures/pier.svg drawings/where-ships-lie.svg';
  assert.ok(cravel(folder, 'check', '.').stdout.includes(`cravel ${call}`));
  assert.equal(cravel(folder, ...call.split(' ')).code, 0);
  assert.match(cravel(folder, 'check', '--only', 'broken', '.').stdout, /Nothing of that is found/);
});
