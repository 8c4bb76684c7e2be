/** Whatever the instant at which a run is killed, the next one finds everything old or everything new. */
import assert from 'node:assert/strict';
import { type SpawnSyncReturns, spawnSync } from 'node:child_process';
import { cpSync, lstatSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type TestContext, test } from 'node:test';
import { zipOf } from '../support/library.ts';
import { programFile, projectFolder } from '../support/program.ts';
import { type Files, temporaryFolder } from '../support/site.ts';

/** Kills for each call; `npm run long` makes many more of one, on many pages, a third of them at any moment in time. */
const KILLS = Number(process.env.CRAVEL_KILLS ?? 4);
const PAGES = Number(process.env.CRAVEL_KILL_PAGES ?? 0);
const ONLY = process.env.CRAVEL_KILL_CALL;

const navigation =
  '<!-- Part: navigation --><nav><a href="index.html">Home</a></nav><!-- End of part: navigation -->';
const page = (title: string, body: string) =>
  `<!doctype html><html lang="en"><title>${title}</title><body>${body}<main></main>`;

function filesWith(pages: number): Files {
  const more = Array.from({ length: pages }, (_, index) => [
    `site/piers/pier-${index}.html`,
    page(`Pier ${index}`, `<link rel="stylesheet" href="../css/tide.css">${'<p>Ferry</p>'.repeat(20)}`),
  ]);
  return {
    'site/index.html': page('Home', navigation),
    'site/fares.html': page('Fares', ''),
    'site/boats.html': page('Boats', '<link rel="stylesheet" href="tide.css"><img src="css/../Tide.svg">'),
    'site/tide.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
    'site/css/tide.css': 'b { color: red; background: url(../tide.svg) }',
    'site/lib/buoys/buoys.js': 'var Buoys = 1;',
    'site/lib/buoys/old.js': 'var Old = 1;',
    'site/cravel.yaml': 'libraries:\n  buoys: { folder: lib/buoys, scripts: [buoys.js] }\n',
    'buoys.zip': zipOf({ 'buoys.js': 'var Buoys = 2;', 'buoys.min.js': 'var Buoys=2' }),
    'data/cravel/starters/line/starter.yaml': 'summary: A line\n',
    'data/cravel/starters/line/old.html': '<p>',
    'half/index.html': page('Half', ''),
    'half/old.css': '',
    'packed/old.html': 'old',
    ...Object.fromEntries(more),
  };
}

interface Call {
  readonly args: readonly string[];
  /** A call that takes back what is unfinished and changes nothing else; without one, the call itself again. */
  readonly next?: readonly string[];
  /** How it may be taken back or brought to its end besides. */
  readonly ways?: readonly Way[];
}

type Way = 'next' | 'undo' | 'finish';

const settles = (folder: string) => ['wire', '--remove', 'css/none.css', '--dir', folder];
const calls: readonly Call[] = [
  { args: ['wire', 'css/tide.css', '--dir', 'site'], next: settles('site') },
  { args: ['page', 'tides', 'piers/north', '--in-nav', '--dir', 'site'], next: settles('site') },
  { args: ['parts', '--dir', 'site'], next: settles('site') },
  { args: ['adopt', '../buoys.zip', '--replace', '--wire', '--dir', 'site'], next: settles('site') },
  { args: ['mend', '--dir', 'site'], next: settles('site') },
  { args: ['move', 'css', 'styles', '--dir', 'site'], next: settles('site') },
  {
    args: ['pack', '--to', '../packed', '--replace', '--all-the-same', '--dir', 'site'],
    next: settles('site'),
    ways: ['next'],
  },
  {
    args: ['pack', '--to', '../site.zip', '--all-the-same', '--dir', 'site'],
    next: settles('site'),
    ways: ['next'],
  },
  { args: ['scaffold', 'half', '--starter', 'flat', '--fill-in'], next: settles('half') },
  { args: ['scaffold', 'new/line', '--starter', 'flat'] },
  { args: ['keep', 'site', 'isle'] },
  { args: ['keep', 'site', 'line', '--replace'] },
];

/** Everything there is, with its mode; what can be taken back lies apart. */
function contentIn(folder: string): Record<string, string> {
  const entries = readdirSync(folder, { recursive: true })
    .map(String)
    .filter((path) => !/^state(?:\/|$)/.test(path))
    .sort();
  return Object.fromEntries(
    entries.map((path) => {
      const stats = lstatSync(join(folder, path));
      const content = stats.isDirectory() ? 'folder' : readFileSync(join(folder, path), 'latin1');
      return [path, `${(stats.mode & 0o777).toString(8)} ${content}`];
    }),
  );
}

function run(
  folder: string,
  args: readonly string[],
  killAt?: number,
  timeout?: number,
): SpawnSyncReturns<string> {
  const killer = join(projectFolder, 'test/support/kill-at.mjs');
  const first = killAt === undefined ? [] : ['--import', killer];
  const env = {
    PATH: process.env.PATH,
    HOME: folder,
    XDG_DATA_HOME: join(folder, 'data'),
    XDG_STATE_HOME: join(folder, 'state'),
    KILL_AT: String(killAt),
  };
  return spawnSync(process.execPath, [...first, programFile, ...args], {
    cwd: folder,
    env,
    encoding: 'utf8',
    ...(timeout === undefined ? {} : { timeout, killSignal: 'SIGKILL' }),
  });
}

/** Kills the call once, lets the next one come or takes it back or brings it to its end, and says what is found then. */
function kill(
  t: TestContext,
  start: string,
  { args, next = args }: Call,
  way: Way,
  moment: { readonly at?: number; readonly time?: number },
  states: Readonly<Record<string, Record<string, string>>>,
): string {
  const folder = temporaryFolder(t);
  cpSync(start, folder, { recursive: true });
  run(folder, args, moment.at, moment.time);
  const site = next.at(-1) as string;
  let wanted: string | null = null;
  if (way !== 'next') {
    const { status, stderr } = run(folder, ['undo', ...(way === 'undo' ? [] : ['--finish']), '--dir', site]);
    assert.ok(status === 0 || /is kept that|No change stands|had not begun/.test(stderr), stderr);
    if (way === 'undo') wanted = 'old';
    else if (status === 0) wanted = 'new';
  }
  const { status, stderr } = run(folder, next);
  const what = `${args.join(' ')}, killed at ${JSON.stringify(moment)}, ${way}: ${stderr}`;
  // What is there already is refused by a call that comes again.
  assert.ok(status === 0 || (next === args && /is there|already/.test(stderr)), what);
  const found = contentIn(folder);
  const state = Object.entries(states).find(([, one]) => JSON.stringify(one) === JSON.stringify(found));
  if (state === undefined) assert.deepEqual(found, states.new, what);
  if (wanted !== null) assert.equal(state?.[0], wanted, what);
  return `${state?.[0]}${way === 'next' ? '' : ` by ${way}`}`;
}

for (const call of calls.filter(({ args: [name] }) => ONLY === undefined || name === ONLY)) {
  test(`cravel ${call.args.join(' ')}, killed at any call of the disk, leaves old or new`, (t) => {
    const start = temporaryFolder(t, filesWith(PAGES));
    mkdirSync(join(start, 'site/css/later'));
    const old = contentIn(start);
    const whole = temporaryFolder(t);
    cpSync(start, whole, { recursive: true });
    const started = performance.now();
    const { stderr, status } = run(whole, call.args, 0);
    const time = performance.now() - started;
    assert.equal(status, 0, stderr);
    const [, calls, places] = /(\d+) calls, telling: (.*)/.exec(stderr) ?? [];
    const [amount, telling] = [Number(calls), (places ?? '').split(' ').map(Number)];
    assert.ok(amount > 10 && telling.length > 0, stderr);
    const states = { ...(call.next === undefined ? {} : { old }), new: contentIn(whole) };
    const seen = new Map<string, number>();
    for (let index = 0; index < KILLS; index++) {
      const part = (index + 0.5) / KILLS;
      // Most calls only prepare: every other kill is right before or after one that does more.
      const sore = (telling[Math.floor(part * telling.length)] as number) + (index % 4 === 0 ? 0 : 1);
      const at = index % 2 === 0 ? sore : 1 + Math.floor(part * amount);
      const moment =
        PAGES > 0 && index % 3 === 0 ? { time: Math.round(((index * 0.618) % 1) * time) } : { at };
      const ways = call.ways ?? (call.next === undefined ? ['next'] : ['next', 'undo', 'finish']);
      const way = ways[index % ways.length] as Way;
      const state = kill(t, start, call, way, moment, states);
      seen.set(state, (seen.get(state) ?? 0) + 1);
    }
    const found = [...seen].map(([state, times]) => `${times} ${state}`).join(', ');
    t.diagnostic(`${KILLS} kills among ${amount} calls of the disk; found then: ${found}`);
  });
}
