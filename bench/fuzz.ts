/**
 * `npm run fuzz -- <minutes> [<folder>]`: makes up sites of random bytes and of real files with mistakes in them (those of
 * the demo, the starters, the tests' corpora and the folder), checks each twice, writes every report, and changes pages.
 * Nothing may throw, hang or differ from one run to the next, and the built program may have no fault of its own. Each site
 * comes of its number alone; the next call goes on with the number after the last one.
 */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { cuts } from '../src/command/declarations.ts';
import { startCheck } from '../src/core/check/check.ts';
import { CravelError } from '../src/core/errors.ts';
import { replaceInPage } from '../src/core/library/replace.ts';
import { loadOrder } from '../src/core/order/order.ts';
import { ScriptUses } from '../src/core/order/script-uses.ts';
import { makeLike } from '../src/core/page/make.ts';
import { openPage } from '../src/core/page/page.ts';
import { mastersOf, partEdits } from '../src/core/page/parts.ts';
import { unwire, wire } from '../src/core/page/wire.ts';
import type { SiteReport } from '../src/core/report.ts';
import { readSettings } from '../src/core/settings/read.ts';
import { makeInventory } from '../src/core/site/inventory.ts';
import { reportAsPage } from '../src/show/html.ts';
import { reportAsJson, reportAsLines } from '../src/show/json.ts';
import { reportAsJunit } from '../src/show/junit.ts';
import { paintFor } from '../src/show/paint.ts';
import { reportAsSarif } from '../src/show/sarif.ts';
import { reportAsText } from '../src/show/text.ts';
import { cases, files as corpus } from '../test/corpus/reference-cases.ts';
import { TOKENS } from '../test/support/tokens.ts';

/** Milliseconds of the processor that one site may take, and every how many the built program reads it, too. */
const PATIENCE = 10_000;
const PROGRAM = 40;

type Random = () => number;
type Site = Map<string, Uint8Array>;

const projectFolder = process.cwd();
const programFile = join(projectFolder, 'dist/cravel.js');
const [minutes = '1', folder] = process.argv.slice(3);
const results = join(projectFolder, 'node_modules/.cache/cravel/fuzz.json');
const seeds = gather([
  join(projectFolder, 'demo'),
  join(projectFolder, 'starters'),
  ...(folder === undefined ? [] : [folder]),
]);
for (const [path, content] of Object.entries(corpus)) seeds.set(path, Buffer.from(content));
for (const [index, { head, body }] of cases.entries())
  seeds.set(`case-${index}.html`, Buffer.from(`<!doctype html><head>${head}</head><body>${body}`));
const names = [...seeds.keys()];

const sarif = new Ajv2020({ strict: false, validateFormats: false }).compile(
  JSON.parse(readFileSync(join(projectFolder, 'test/corpus/sarif-2.1.0.schema.json'), 'utf8')),
);

const EXTENSIONS = [
  'html',
  'html',
  'html',
  'css',
  'js',
  'svg',
  'webmanifest',
  'xml',
  'mjs',
  'xhtml',
  'json',
  'png',
];
const FIXED = [
  'index.html',
  'sitemap.xml',
  'feed.xml',
  'browserconfig.xml',
  'cravel.yaml',
  '404.html',
  'manifest.json',
  'constructor',
  '__proto__.html',
];

let number = Number(readResult().next ?? 1);
const faults: string[] = readResult().faults ?? [];
const started = performance.now();
const first = number;
for (; performance.now() - started < Number(minutes) * 60_000; number++) {
  const random = randomFrom(number);
  const site = makeSite(random);
  const began = process.cpuUsage();
  try {
    tryOut(site, random);
    if (number % PROGRAM === 0) tryProgram(site);
  } catch (error) {
    faults.push(`site ${number}: ${(error as Error).stack?.slice(0, 600)}`);
    console.log(faults.at(-1));
  }
  const { user } = process.cpuUsage(began);
  if (user / 1000 > PATIENCE) {
    faults.push(`site ${number}: took ${Math.round(user / 1000)} ms`);
    console.log(faults.at(-1));
  }
  if (number % 100 === 0) save();
}
save();
console.log(`${(number - first).toLocaleString('en')} sites, ${faults.length} faults; see ${results}`);
process.exitCode = faults.length === 0 ? 0 : 1;

function tryOut(site: Site, random: Random): void {
  const one = check(site);
  if (JSON.stringify(one) !== JSON.stringify(check(site))) throw new Error('two runs differ');
  const report = { cravel: 2, sites: [one] } as const;
  for (const finding of one.findings)
    if (finding.line < 1 || finding.column < 1 || finding.offset < 0)
      throw new Error(`no place: ${JSON.stringify(finding)}`);
  for (const by of cuts) reportAsText(report, { by, paint: paintFor({}, {}), columns: 80, most: 25 });
  const json = [...reportAsJson(report)].join('');
  JSON.parse(json);
  for (const line of [...reportAsLines(report)].join('').trim().split('\n')) JSON.parse(line);
  if (!sarif(JSON.parse([...reportAsSarif(report)].join(''))))
    throw new Error(`SARIF: ${JSON.stringify(sarif.errors?.[0])}`);
  wellFormed([...reportAsJunit(report, (_site, { grade }) => grade === 'broken')].join(''));
  const page = [...reportAsPage(report, [{ name: '<x>', lineOf: () => '<x>' }])].join('');
  const markup = page.replace(/<(script|style)>[\s\S]*?<\/\1>/g, '');
  for (const [tag, name, attributes] of markup.matchAll(/<([a-z0-9]+)((?:\s+[a-z-]+(?:="[^"]*")?)*)/g))
    if (
      /^(?:img|iframe|object|embed|link|a|base|svg)$/.test(name as string) ||
      /\s(?:on[a-z]+|src|href|style)=/.test((attributes as string).replace(/"[^"]*"/g, ''))
    )
      throw new Error(`the page may act: ${tag}`);
  for (const [path, bytes] of site) if (/\.x?html$/.test(path)) changePage(path, bytes, random);
  const settings = site.get('cravel.yaml');
  if (settings !== undefined) allowing(() => readSettings(new TextDecoder().decode(settings)));
}

function changePage(path: string, bytes: Uint8Array, random: Random): void {
  const page = openPage(path, bytes);
  const settings = {
    order: loadOrder({}, undefined),
    scriptsGo: undefined,
    provided: [],
    scripts: new ScriptUses(() => null),
    areBuilds: () => false,
    swaps: true,
  };
  const kind = pick(random, ['stylesheet', 'script', 'module', 'icon', 'manifest', 'font'] as const);
  const wiring = { kind, path: 'a/x.y' };
  const wired = wire(page, wiring, settings);
  if (wired instanceof Uint8Array) {
    const back = unwire(openPage(path, wired), [wiring], settings);
    if (back !== null && wire(openPage(path, back), wiring, settings) === null)
      throw new Error('taken out, and still there');
  }
  const words = { title: 'T', description: 'D', heading: 'H' };
  allowing(() => makeLike(page, 'd/new.html', words));
  allowing(() => partEdits(page, mastersOf(page)));
  const options = {
    address: 'https://gullhaven.example/',
    files: new Map(),
    digest: () => '',
    fileFor: () => 'lib/x.js',
  };
  allowing(() => replaceInPage(page, options));
}

/** Errors that a person is told are no faults. */
function allowing(work: () => unknown): void {
  try {
    work();
  } catch (error) {
    if (!(error instanceof CravelError)) throw error;
  }
}

/** XML 1.0, 2.1, as far as our reports go: tags pair up, and no character stands that may not. */
function wellFormed(xml: string): void {
  if (
    /[\0-\x08\x0b\x0c\x0e-\x1f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/.test(
      xml,
    )
  )
    throw new Error('JUnit: a character that XML cannot hold');
  const open: string[] = [];
  for (const [, close, name, rest] of xml.matchAll(/<(\/?)([a-z]+)((?:\s+[a-z]+="[^"<]*")*)\s*(?:\/?)>/g)) {
    if (close === '/') {
      if (open.pop() !== name) throw new Error(`JUnit: </${name}>`);
    } else if (!xml.includes(`<${name}${rest}/>`)) open.push(name as string);
  }
  if (open.length > 0) throw new Error(`JUnit: ${open.join(' ')} stay open`);
}

function tryProgram(site: Site): void {
  const root = mkdtempSync(join(tmpdir(), 'cravel-fuzz-'));
  try {
    for (const [path, bytes] of site) {
      mkdirSync(dirname(join(root, path)), { recursive: true });
      writeFileSync(join(root, path), bytes);
    }
    for (const args of [
      ['check'],
      ['check', '--as', 'html', '--only', 'broken'],
      ['parts'],
      ['wire', 'a.css'],
      ['page', 'new'],
    ]) {
      const { status, stderr } = spawnSync(process.execPath, [programFile, ...args], {
        cwd: root,
        encoding: 'utf8',
        timeout: 60_000,
        killSignal: 'SIGKILL',
      });
      if (status === null || status > 2) throw new Error(`cravel ${args.join(' ')}: ${status} ${stderr}`);
    }
  } finally {
    rmSync(root, { recursive: true, force: true });
  }
}

function check(site: Site): SiteReport {
  const read = (path: string) => site.get(path) ?? new Uint8Array();
  const one = startCheck(makeInventory(site.keys()), {
    headOf: read,
    digestOf: (path, algorithm) => createHash(algorithm).update(read(path)).digest('base64'),
  });
  for (const path of one.wanted) one.take(path, read(path));
  return one.report('site', read);
}

function makeSite(random: Random): Site {
  const site: Site = new Map();
  const amount = 1 + Math.floor(random() * 6);
  for (let index = 0; index < amount; index++) {
    const path = index === 0 ? 'index.html' : random() < 0.25 ? pick(random, FIXED) : makePath(random);
    site.set(path, makeContent(random));
  }
  return site;
}

function makePath(random: Random): string {
  const steps = Array.from({ length: Math.floor(random() * 3) }, () =>
    pick(random, ['css', 'js', 'a b', 'É', 'lib', 'x'.repeat(60)]),
  );
  return [
    ...steps,
    `${pick(random, ['a', 'A', 'b.min', 'pier', 'é', 'a(1)', '.x'])}.${pick(random, EXTENSIONS)}`,
  ].join('/');
}

function makeContent(random: Random): Uint8Array {
  if (random() < 0.1)
    return Uint8Array.from({ length: Math.floor(random() * 400) }, () => Math.floor(random() * 256));
  let bytes: Uint8Array = seeds.get(pick(random, names)) ?? new Uint8Array();
  if (random() < 0.05) bytes = Buffer.from(Buffer.from(bytes).toString('latin1'), 'utf16le');
  const changes = Math.floor(random() ** 2 * 30);
  for (let change = 0; change < changes; change++) bytes = mutate(bytes, random);
  return bytes;
}

function mutate(bytes: Uint8Array, random: Random): Uint8Array {
  const at = Math.floor(random() * (bytes.length + 1));
  const length = Math.floor(random() ** 3 * Math.min(200, bytes.length - at));
  const kind = random();
  const rest = bytes.subarray(at + length);
  if (kind < 0.25) return Buffer.concat([bytes.subarray(0, at), rest]);
  if (kind < 0.6)
    return Buffer.concat([bytes.subarray(0, at), Buffer.from(pick(random, TOKENS)), bytes.subarray(at)]);
  if (kind < 0.7)
    return Buffer.concat([bytes.subarray(0, at + length), bytes.subarray(at, at + length), rest]);
  if (kind < 0.8) return bytes.subarray(0, at);
  if (kind < 0.9) {
    const other = seeds.get(pick(random, names)) as Uint8Array;
    const from = Math.floor(random() * other.length);
    return Buffer.concat([bytes.subarray(0, at), other.subarray(from, from + 200), rest]);
  }
  const copy = Uint8Array.from(bytes);
  if (at < copy.length) copy[at] = Math.floor(random() * 256);
  return copy;
}

function gather(folders: readonly string[]): Map<string, Uint8Array> {
  const found = new Map<string, Uint8Array>();
  for (const folder of folders) {
    for (const name of readdirSync(folder, { recursive: true }).map(String)) {
      const path = join(folder, name);
      if (
        found.size < 5000 &&
        statSync(path).isFile() &&
        statSync(path).size < 60_000 &&
        /\.(?:x?html?|css|m?js|svg|json|xml|hbs|webmanifest|ya?ml)$/.test(name)
      )
        found.set(path, readFileSync(path));
    }
  }
  return found;
}

function pick<T>(random: Random, all: readonly T[]): T {
  return all[Math.floor(random() * all.length)] as T;
}

/** Numbers from 0 to 1 that a seed determines. */
function randomFrom(seed: number): Random {
  let state = Math.imul(seed, 0x9e3779b1) >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

function readResult(): { next?: number; faults?: string[] } {
  try {
    return JSON.parse(readFileSync(results, 'utf8'));
  } catch {
    return {};
  }
}

function save(): void {
  mkdirSync(dirname(results), { recursive: true });
  writeFileSync(results, JSON.stringify({ next: number + 1, faults }, null, 2));
}
