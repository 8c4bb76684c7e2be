import assert from 'node:assert/strict';
import { readFileSync, renameSync, rmSync, statSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { setTimeout } from 'node:timers/promises';
import { cravel, cravelRunning } from '../support/program.ts';
import { temporaryFolder } from '../support/site.ts';

const head =
  '<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">';
const page = (title: string, body: string) =>
  `${head}<title>${title}</title><meta name="description" content="${title} of the ferry"><body>${body}`;

for (const [how, env] of [
  ['', {}],
  [', also where it is looked at every second', { CRAVEL_WATCH: 'poll' }],
] as const)
  test(`a watched site is reported again when a file changes, comes or goes, and nothing else is read again${how}`, async (t) => {
    const folder = temporaryFolder(t, {
      'index.html': page('Home', '<a href="fares.html#day">Fares</a> <img src="pier.svg" alt="">'),
      'fares.html': page('Fares', '<h2 id="day">Day</h2><a href="index.html">Home</a>'),
      'boats.html': page('Boats', '<a href="index.html">Home</a><a href="fares.html">Fares</a>'),
    });
    const inFolder = (path: string) => join(folder, path);
    const away = temporaryFolder(t);
    // In one step, so that nobody sees half a file.
    const put = (path: string, text: string) => {
      writeFileSync(join(away, path), text);
      renameSync(join(away, path), inFolder(path));
    };
    const run = cravelRunning(t, { folder, env }, 'check', '--watch', '--only', 'broken');
    if (how !== '') await run.noted(/^The folder is looked at every second, as CRAVEL_WATCH asks for\.$/);
    await run.noted(/^Watching this folder; Ctrl-C ends\.$/);
    assert.match(run.written(), /there is no file pier\.svg/);

    put('pier.svg', '<svg xmlns="http://www.w3.org/2000/svg"/>');
    await run.noted(/ 2 files read again, 1 finding gone; Ctrl-C ends\.$/);
    assert.match(run.written(), /Nothing of that is found\./);

    put('fares.html', page('Fares', '<h2 id="days">Day</h2>'));
    await run.noted(/ 1 file read again, 1 finding more/);
    assert.match(run.written(), /no id="day" in fares\.html/);

    renameSync(inFolder('fares.html'), inFolder('prices.html'));
    await run.noted(/read again, .*(gone|more)/);
    assert.match(run.written(), /there is no file fares\.html/);

    put('cravel.yaml', 'grade:\n');
    assert.match(await run.noted(/cravel\.yaml/), /1:1: grade is not a known key; did you mean grades\?/);
    rmSync(inFolder('cravel.yaml'));
    await run.noted(/ 0 files read again, nothing changed/);
    assert.equal(await run.end(), 1);
  });

test('a watched report in another format is kept up to date in its file', async (t) => {
  const folder = temporaryFolder(t, { 'index.html': page('Home', '<img src="pier.svg" alt="">') });
  const { code, stderr } = cravel(folder, 'check', '--watch', '--as', 'json');
  assert.deepEqual(
    [code, stderr],
    [
      2,
      'A report as json cannot be drawn over and over.\nWrite it to a file, which is then kept up to date: --out <file>\n',
    ],
  );
  const out = temporaryFolder(t, { 'pier.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>' });
  const run = cravelRunning(t, folder, 'check', '--watch', '--as', 'json', '--out', join(out, 'report.json'));
  const broken = () => JSON.parse(readFileSync(join(out, 'report.json'), 'utf8')).sites[0].counts.broken;
  await run.noted(/^Watching/);
  assert.equal(broken(), 1);
  renameSync(join(out, 'pier.svg'), join(folder, 'pier.svg'));
  await run.noted(/1 finding gone/);
  assert.equal(broken(), 0);
  assert.equal(await run.end(), 0);
});

test('the watching ends with the code of the last report, also just as a change is looked at', async (t) => {
  const folder = temporaryFolder(t, { 'index.html': page('Home', '<img src="pier.svg" alt="">') });
  for (const after of [76, 79, 82, 85, 88]) {
    const run = cravelRunning(t, folder, 'check', '--watch', '--only', 'broken');
    await run.noted(/^Watching/);
    writeFileSync(join(folder, 'index.html'), page(`Home ${after}`, '<img src="boat.svg" alt="">'));
    await setTimeout(after);
    assert.equal(await run.end(), 1, `${after} ms`);
  }
});

test('links that go round, a report inside of the site and edits that keep their time are no trouble', async (t) => {
  const shared = temporaryFolder(t, { 'a.css': 'a{}' });
  const style = '<link rel="stylesheet" href="shared/a.css">';
  const folder = temporaryFolder(t, { 'index.html': page('Home', `${style}<img src="pier.svg" alt="">`) });
  for (const name of ['l1', 'l2', 'l3']) symlinkSync('.', join(folder, name));
  symlinkSync(shared, join(folder, 'shared'));
  const run = cravelRunning(
    t,
    folder,
    'check',
    '--watch',
    '--only',
    'broken',
    '--as',
    'json',
    '--out',
    'report.json',
  );
  await run.noted(/^Watching.*Ctrl-C ends/);
  const index = join(folder, 'index.html');
  const { atime, mtime } = statSync(index);
  writeFileSync(index, page('Home', `${style}<img src="pier.svg" alt=""><img src="boat.svg" alt="">`));
  utimesSync(index, atime, mtime);
  assert.match(await run.noted(/Ctrl-C ends/), /1 finding more/);
  writeFileSync(join(shared, 'a.css'), 'a{background:url(sea.svg)}');
  assert.match(await run.noted(/Ctrl-C ends/), /1 finding more/);
  assert.equal(JSON.parse(readFileSync(join(folder, 'report.json'), 'utf8')).sites[0].counts.broken, 3);
  assert.equal(await run.end(), 2);
});
