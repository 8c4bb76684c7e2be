/** Questions at a terminal; `script` gives the program one. */
import assert from 'node:assert/strict';
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { stripVTControlCharacters } from 'node:util';
import { programFile } from '../support/program.ts';
import { temporaryFolder } from '../support/site.ts';

const skip = spawnSync('script', ['--version']).status === 0 ? false : 'there is no script command here';

/** Milliseconds for one call. */
const PATIENCE = 60_000;

/** Calls cravel at a terminal; after each text that appears, types what is given for it, or sends a signal. */
function atTerminal(
  folder: string,
  call: string,
  answers: readonly (readonly [seen: string, typed: string | { readonly signal: NodeJS.Signals }])[],
): Promise<string> {
  return new Promise((done) => {
    const program = `"${process.execPath}" "${programFile}" ${call}`;
    const command = `sh -c 'echo "process $$"; exec ${program}'; echo "code $?"`;
    const terminal = spawn('script', ['-qec', command, '/dev/null'], {
      cwd: folder,
      env: { PATH: process.env.PATH, HOME: folder, TERM: 'xterm' },
    });
    const waiting = [...answers];
    let shown = '';
    let from = 0;
    terminal.stdout.on('data', (piece: Buffer) => {
      shown += stripVTControlCharacters(piece.toString());
      const [next] = waiting;
      if (next === undefined) return;
      const at = shown.indexOf(next[0], from);
      if (at < 0) return;
      from = at + next[0].length;
      waiting.shift();
      const [, typed] = next;
      if (typeof typed === 'string') terminal.stdin.write(typed);
      else process.kill(Number(/process (\d+)/.exec(shown)?.[1]), typed.signal);
    });
    // A question that does not come would be waited for without end.
    const limit = setTimeout(() => terminal.kill(), PATIENCE);
    terminal.on('close', () => {
      clearTimeout(limit);
      done(shown);
    });
  });
}

test('scaffold asks for what was not said, shows the tree, and makes it when told so', {
  skip,
}, async (t) => {
  const folder = temporaryFolder(t);
  const shown = await atTerminal(folder, 'scaffold ferry --starter flat --set author=Ida', [
    ['What is the site called?', 'Gullhaven Ferry\r'],
    ['What is it about', '\r'],
    ['Which more pages', 'timetable\r'],
    ['Make ferry like this?', 'y\r'],
  ]);
  assert.match(
    shown,
    /timetable\.html +[\d,]+ bytes[\s\S]*Make ferry like this\?[\s\S]*Laid out 7 files[\s\S]*code 0/,
  );
  // What has a default that fits nearly all is not asked for.
  assert.doesNotMatch(shown, /Who makes it|Which words|Which language|stylesheet/);
  assert.match(
    readFileSync(join(folder, 'ferry/timetable.html'), 'utf8'),
    /<title>Timetable · Gullhaven Ferry<\/title>/,
  );
});

test('a question that is broken off, or a no, leaves nothing behind', { skip }, async (t) => {
  const folder = temporaryFolder(t);
  const broken = await atTerminal(folder, 'scaffold ferry --starter flat', [
    ['What is the site called?', '\x03'],
  ]);
  assert.match(broken, /The questions were broken off; nothing was written\.[\s\S]*code 2/);
  const answers = ['What is the site', 'What is it about', 'Which more'].map((seen) => [seen, '\r'] as const);
  const refused = await atTerminal(folder, 'scaffold ferry --starter flat', [
    ...answers,
    ['Make ferry like this?', 'n\r'],
  ]);
  assert.match(refused, /nothing was written[\s\S]*code 2/);
  assert.ok(!existsSync(join(folder, 'ferry')));
  const ended = await atTerminal(folder, 'scaffold ferry --starter flat', [
    ['What is the site called?', { signal: 'SIGINT' }],
  ]);
  assert.match(ended, /The questions were broken off; nothing was written\.[\s\S]*code 2/);
  const silent = await atTerminal(folder, 'scaffold ferry --yes', []);
  assert.match(silent, /Laid out 6 files[\s\S]*code 0/);
});
