/**
 * `npm run opened -- <folder>…`: opens every page of each folder in the bundled Chromium, other hosts blocked, and holds
 * what then fails to what the check says: requests that got nothing, and exceptions that nobody caught. Tells what the
 * check missed and what it blames though it came; the last lines are a table.
 */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import type { BrowserContext } from 'playwright-core';
import { isLoaded } from '../src/core/read/loaded.ts';
import { readFile } from '../src/core/read/read.ts';
import type { Kind } from '../src/core/read/reading.ts';
import { servePlainly, startBrowser } from '../test/support/browser.ts';
import { projectFolder } from '../test/support/program.ts';

interface Told {
  readonly rule: string;
  readonly grade: string;
  readonly file: string;
  readonly line: number;
  readonly endLine: number;
  readonly kind: Kind | null;
  readonly written: string;
  readonly target: string | null;
  readonly message: string;
  readonly pages: readonly string[] | null;
  readonly reached: boolean;
}

interface Thrown {
  readonly file: string;
  readonly line: number;
  readonly text: string;
}

/** What opening one page came to. */
interface Opened {
  /** Paths of the folder that got nothing, by who asked. */
  readonly refused: Map<string, 'parser' | 'script'>;
  readonly got: Set<string>;
  readonly thrown: Thrown[];
  /** Scripts of other hosts were asked for. */
  asksOthers: boolean;
}

/** What may only happen when somebody does something is not tried. */
const ORDER =
  /^(?:before-its-library|library-left-out|nobody-makes|does-not-parse|before-its-element|element-left-out)$/;
/** Exceptions that the rules are to tell. */
const TELLING =
  /^(?:SyntaxError|ReferenceError: \S+ is not defined|TypeError: (?:Cannot (?:read|set) properties of null|\S+ is not a function))/;
const AT_ONCE = 4;
const PATIENCE = 15_000;

const folders = process.argv.slice(2);
if (folders.length === 0) {
  console.error('Name folders with pages: npm run opened -- <folder>…');
  process.exit(2);
}
const browser = await startBrowser();
const table: string[] = [];
let faults = 0;
for (const folder of folders) {
  const { findings, pages } = told(folder);
  if (pages.length === 0) continue;
  const opened = await openAll(folder, pages);
  const differences = [...opened].flatMap(([page, one]) => differencesOn(page, one, findings));
  const amount = (what: string) => differences.filter((line) => line.startsWith(what)).length;
  const all = [...opened.values()];
  const sum = (of: (one: Opened) => number) => all.reduce((total, one) => total + of(one), 0);
  console.log(differences.map((line) => `${basename(folder)}: ${line}`).join('\n'));
  faults += differences.length;
  const isUnknown = (line: string) => line.startsWith('not told') && line.includes(' (other hosts): ');
  const row = [
    basename(folder),
    all.length,
    sum(({ got, refused }) => got.size + refused.size),
    sum(({ refused }) => refused.size),
    amount('missed'),
    amount('blamed'),
    sum(({ thrown }) => thrown.filter(({ text }) => TELLING.test(text)).length),
    differences.filter((line) => line.startsWith('not told') && !isUnknown(line)).length,
    differences.filter(isUnknown).length,
    amount('told on'),
  ];
  table.push(`| ${row.join(' | ')} |`);
}
await browser.close();
console.log(
  [
    '| folder | pages | requests | refused | missed | blamed | thrown | not told | unknown | not thrown |',
    '|---|---|---|---|---|---|---|---|---|---|',
    ...table,
  ].join('\n'),
);
process.exit(faults > 0 ? 1 : 0);

function told(folder: string): { findings: readonly Told[]; pages: readonly string[] } {
  const report = (...more: string[]) => {
    try {
      return execFileSync(
        process.execPath,
        [join(projectFolder, 'dist/cravel.js'), 'check', folder, ...more],
        {
          encoding: 'utf8',
          maxBuffer: 1 << 30,
          stdio: ['ignore', 'pipe', 'ignore'],
        },
      );
    } catch (error) {
      return (error as { stdout: string }).stdout;
    }
  };
  const text = report('--as', 'json');
  if (!text.startsWith('{')) return { findings: [], pages: [] };
  const { findings } = JSON.parse(text) as { findings: readonly Told[] };
  const list = execFileSync('find', [folder, '-name', '*.html', '-type', 'f'], { encoding: 'utf8' });
  const pages = list
    .split('\n')
    .flatMap((path) => (path === '' ? [] : path.slice(folder.replace(/\/*$/, '/').length)));
  const isOpened = (path: string) =>
    /(?:^|\/)index\.html$/.test(path) ||
    readFile(path, readFileSync(join(folder, path)))?.page?.form === 'page';
  return { findings, pages: pages.filter(isOpened).sort() };
}

async function openAll(folder: string, pages: readonly string[]): Promise<Map<string, Opened>> {
  const server = await servePlainly(folder);
  const context = await browser.newContext();
  await context.route(
    (url) => !url.href.startsWith(server.address),
    (route) => route.abort(),
  );
  const waiting = [...pages];
  const opened = new Map<string, Opened>();
  const work = async () => {
    for (let path = waiting.shift(); path !== undefined; path = waiting.shift())
      opened.set(path, await open(context, server.address, path));
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  await context.close();
  server.close();
  return new Map([...opened].sort(([one], [other]) => (one < other ? -1 : 1)));
}

async function open(context: BrowserContext, address: string, path: string): Promise<Opened> {
  const found: Opened = { refused: new Map(), got: new Set(), thrown: [], asksOthers: false };
  const page = await context.newPage();
  const session = await context.newCDPSession(page);
  const initiators = new Map<string, 'parser' | 'script'>();
  const pathOf = (url: string) => {
    const { pathname } = new URL(url);
    return decodeURIComponent(pathname.replace(/%(?![0-9a-f]{2})/gi, '%25')).replace(/^\/ferry\//, '');
  };
  session.on('Network.requestWillBeSent', ({ request, initiator, type }) => {
    initiators.set(request.url, initiator.type === 'script' ? 'script' : 'parser');
    if (!request.url.startsWith(address) && /^https?:/.test(request.url) && type === 'Script')
      found.asksOthers = true;
  });
  session.on('Network.responseReceived', ({ response: { url, status } }) => {
    if (!url.startsWith('http') || /\/favicon\.ico$/.test(url)) return;
    if (status < 400) found.got.add(pathOf(url));
    else found.refused.set(pathOf(url), initiators.get(url) ?? 'parser');
  });
  session.on('Runtime.exceptionThrown', ({ exceptionDetails }) => {
    const { url = '', lineNumber, exception, stackTrace, text } = exceptionDetails;
    const [frame] = stackTrace?.callFrames ?? [];
    const place = frame?.url || url;
    if (!place.startsWith(address)) return;
    const description = (exception?.description ?? text).split('\n')[0] as string;
    found.thrown.push({
      file: pathOf(place),
      line: (frame?.lineNumber ?? lineNumber) + 1,
      text: description,
    });
  });
  await session.send('Network.enable');
  await session.send('Runtime.enable');
  try {
    await page.goto(address + path.split('/').map(encodeURIComponent).join('/'), {
      waitUntil: 'load',
      timeout: PATIENCE,
    });
    await page.waitForTimeout(200);
  } catch {
    // What never comes to an end is told by what came until then.
  }
  await page.close({ runBeforeUnload: false }).catch(() => {});
  return found;
}

/** What a browser and the check say differently of a page. */
function differencesOn(
  page: string,
  { refused, got, thrown, asksOthers }: Opened,
  findings: readonly Told[],
): string[] {
  const differences: string[] = [];
  const targets = new Set(findings.flatMap(({ target, written }) => [target ?? '', written]));
  for (const [path, who] of refused)
    if (who === 'parser' && !targets.has(path) && !targets.has(path.replace(/index\.html$/, '')))
      differences.push(`missed on ${page}: ${path} got nothing`);
  for (const one of findings) {
    const isOfPage = one.pages?.includes(page) ?? one.file === page;
    if (!isOfPage || one.grade !== 'broken' || !one.reached) continue;
    if (ORDER.test(one.rule)) {
      const isThrown = thrown.some(
        ({ file, line }) => file === one.file && line >= one.line && line <= one.endLine,
      );
      if (!isThrown)
        differences.push(`told on ${page}, not thrown: ${one.file}:${one.line} ${one.rule} ${one.written}`);
    } else if (
      one.kind !== null &&
      isLoaded({ kind: one.kind }) &&
      one.target !== null &&
      got.has(one.target)
    ) {
      if (one.rule === 'absent' || one.rule === 'letter-case')
        differences.push(`blamed on ${page}: ${one.rule} ${one.target}, which came`);
    }
  }
  for (const { file, line, text } of thrown) {
    if (!TELLING.test(text)) continue;
    const isTold = findings.some(
      (one) =>
        ORDER.test(one.rule) && one.file === file && (one.rule === 'does-not-parse' || one.line === line),
    );
    if (!isTold)
      differences.push(`not told on ${page}${asksOthers ? ' (other hosts)' : ''}: ${file}:${line} ${text}`);
  }
  return differences;
}
