/**
 * `npm run bench -- <folder>`, first part: how fast references are read, on one thread, against the yardsticks: cat
 * (reading all bytes), htmlparser2 (its bare event loop), parse5 (a full parse with locations), css-tree.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse as parseCss } from 'css-tree';
import { Parser } from 'htmlparser2';
import { parse as parseHtml } from 'parse5';
import { readCss } from '../src/core/read/css.ts';
import { readHtml } from '../src/core/read/html.ts';
import { extensionOf } from '../src/core/site/inventory.ts';
import { type Contestant, race } from './clock.ts';
import { raceOfPrograms } from './programs.ts';

interface File {
  readonly path: string;
  readonly bytes: Buffer;
}

/** parse5 takes so long that a part of the pages stands for all. */
const MOST_FOR_TREES = 20e6;
const MOST = 120e6;

const folder = process.argv[2] ?? 'demo/gullhaven';
const files = readdirSync(folder, { recursive: true }).map((name) => join(folder, String(name)));
console.log(`${folder}\n`);

report('HTML', load(files, ['html', 'htm', 'xhtml']), [
  { name: 'cat', run: readAll },
  { name: 'Cravel, every reference', run: (batch) => batch.forEach(({ bytes }) => void readHtml(bytes)) },
  {
    name: 'htmlparser2, bare event loop',
    run: (batch) =>
      batch.forEach(({ bytes }) => {
        const parser = new Parser({});
        parser.write(bytes.toString());
        parser.end();
      }),
  },
  {
    name: 'parse5, full parse with locations',
    run: (batch) =>
      batch.forEach(({ bytes }) => void parseHtml(bytes.toString(), { sourceCodeLocationInfo: true })),
  },
]);
report('CSS', load(files, ['css']), [
  { name: 'cat', run: readAll },
  { name: 'Cravel, every reference', run: (batch) => batch.forEach(({ bytes }) => void readCss(bytes)) },
  {
    name: 'css-tree, full parse with positions',
    run: (batch) => batch.forEach(({ bytes }) => void parseCss(bytes.toString(), { positions: true })),
  },
]);

raceOfPrograms(folder);

function load(paths: readonly string[], extensions: readonly string[]): File[] {
  const found: File[] = [];
  let size = 0;
  for (const path of paths) {
    if (size > MOST || !extensions.includes(extensionOf(path))) continue;
    const bytes = readFileSync(path);
    found.push({ path, bytes });
    size += bytes.length;
  }
  return found;
}

function readAll(batch: readonly File[]): void {
  for (const { path } of batch) readFileSync(path);
}

function report(language: string, all: readonly File[], contestants: readonly Contestant<File>[]): void {
  if (all.length === 0) return;
  const slowest = contestants.at(-1) as Contestant<File>;
  const sizeOf = ({ bytes }: File) => bytes.length;
  const total = all.reduce((sum, file) => sum + sizeOf(file), 0);
  const part: File[] = [];
  for (let size = 0, at = 0; at < all.length && size < MOST_FOR_TREES; at++) {
    part.push(all[at] as File);
    size += sizeOf(all[at] as File);
  }
  const partTotal = part.reduce((sum, file) => sum + sizeOf(file), 0);
  const seconds = race(contestants.slice(0, -1), all, sizeOf);
  seconds.set(
    slowest.name,
    (race([slowest], part, sizeOf, { rounds: 2 }).get(slowest.name) as number) * (total / partTotal),
  );
  const ours = seconds.get('Cravel, every reference') as number;
  console.log(`${language}: ${all.length} files, ${(total / 1e6).toFixed(1)} MB`);
  for (const [name, spent] of seconds) {
    const speed = (total / 1e6 / spent).toFixed(0).padStart(6);
    const ratio = (spent / ours).toFixed(2).padStart(7);
    console.log(`  ${name.padEnd(36)} ${speed} MB/s  ${ratio} × Cravel's time`);
  }
  console.log();
}
