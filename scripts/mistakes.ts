/**
 * `npm run mistakes`: plants mistakes that people make in sound sites, one at a time, checks each, and prints for each kind
 * how often the mistake was found, and how often what was meant is offered. The demo and a project of every starter, or
 * the folder that is named; `--write` puts the table into the docs, `--browser` opens what nothing is said
 * of in the browser of the tests.
 */
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import type { Browser } from 'playwright-core';
import { applyEdits } from '../src/core/change/edit.ts';
import type { Finding } from '../src/core/report.ts';
import { servePlainly, startBrowser } from '../test/support/browser.ts';
import { check, isMarkup, kinds, LOST, MOST, type Site, siteIn, soundSites } from './planting.ts';

const DOCS = join(import.meta.dirname, '../docs/mistakes.md');
const [given] = process.argv.slice(2).filter((word) => !word.startsWith('--'));
const sites = given === undefined ? soundSites() : [siteIn(given)];
const missed: { readonly kind: string; readonly site: Site; readonly one: Site }[] = [];
const rows: (readonly [kind: string, planted: number, found: number, meant: number])[] = [];
for (const [kind, plant] of Object.entries(kinds)) {
  let [planted, found, meant] = [0, 0, 0];
  for (const site of sites) {
    const before = new Set(check(site).map(keyOf));
    const all = plant(site);
    const step = Math.max(1, Math.floor(all.length / MOST));
    for (const one of all.filter((_one, index) => index % step === 0).slice(0, MOST)) {
      const fresh = check(one).filter((finding) => !before.has(keyOf(finding)));
      planted++;
      if (fresh.length > 0) found++;
      else missed.push({ kind, site, one });
      if (isMeant(one, fresh, before)) meant++;
    }
  }
  if (planted > 0) rows.push([kind, planted, found, meant]);
}
const told = tableOf(rows);
console.log(told);
if (process.argv.includes('--write')) writeFileSync(DOCS, pageWith(told));
if (process.argv.includes('--browser')) await openAll();

/** What was not found is opened in a browser: what fails there, and not without the mistake, is told. */
async function openAll(): Promise<void> {
  const browser = await startBrowser();
  let failing = 0;
  for (const { kind, site, one } of missed) {
    const sound = await faultsIn(browser, site);
    const faults = (await faultsIn(browser, one)).filter((fault) => !sound.includes(fault));
    if (faults.length === 0) continue;
    failing++;
    console.log(`${kind}: nothing is said, and in a browser ${faults.join('; ')}`);
  }
  await browser.close();
  console.log(`\nOf ${missed.length} that nothing is said of, ${failing} fail in a browser.`);
  process.exitCode = failing === 0 ? 0 : 1;
}

/** What does not come and what is thrown on the pages of a site. */
async function faultsIn(browser: Browser, files: Site): Promise<string[]> {
  const folder = mkdtempSync(join(tmpdir(), 'cravel-mistakes-'));
  for (const [path, bytes] of files) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), bytes);
  }
  const server = await servePlainly(folder);
  const faults: string[] = [];
  for (const path of [...files.keys()].filter(isMarkup)) {
    const page = await browser.newPage();
    page.on('pageerror', ({ message }) => faults.push(`${path}: ${message}`));
    page.on('response', (response) => {
      const asked = response.url().slice(server.address.length);
      if (response.status() >= 400) faults.push(`${path}: no ${asked}`);
    });
    await page.goto(server.address + path, { waitUntil: 'load' });
    await page.close();
  }
  server.close();
  rmSync(folder, { recursive: true, force: true });
  return faults;
}

/** As a table of Markdown; what cannot be put back counts for nothing of what was meant. */
function tableOf(all: typeof rows): string {
  const meaning = all.filter(([kind]) => !LOST.has(kind));
  const sum = (some: typeof rows, column: 1 | 2 | 3) => some.reduce((total, row) => total + row[column], 0);
  const lines = all.map(([kind, planted, found, meant]) => [
    kind,
    planted,
    found,
    LOST.has(kind) ? '–' : meant,
  ]);
  const share = ((100 * sum(meaning, 3)) / sum(meaning, 1)).toFixed(0);
  const total = ['all', sum(all, 1), sum(all, 2), `${sum(meaning, 3)} of ${sum(meaning, 1)}, ${share} %`];
  return [['mistake', 'planted', 'found', 'what was meant'], ['---', '---:', '---:', '---:'], ...lines, total]
    .map((cells) => `| ${cells.join(' | ')} |`)
    .join('\n');
}

function pageWith(table: string): string {
  return `# Mistakes, and what is said of them

\`npm run mistakes\` plants what people get wrong, one mistake at a time and at most ${MOST} of each kind, in the demo site and in a
project of every starter, and checks each. *Found*: something is said that was not said before. *What was meant*: with the
first mends that are offered nothing is broken any more; a dash stands where no edit could put back what was lost. Not all
that is planted harms somebody: nothing may refer to an id, an open comment may take nothing but another comment, and a \`>\`
that is missing before an end tag may change nothing.
\`npm run mistakes -- <folder>\` does the same with any sound site.

${table}
`;
}

function keyOf({ rule, file, written, message }: Finding): string {
  return `${rule} ${file} ${written} ${message}`;
}

/** Whether the first mends of what was found make the site sound again. */
function isMeant(files: Site, fresh: readonly Finding[], before: ReadonlySet<string>): boolean {
  const after = new Map(files);
  const mends = fresh.flatMap(({ mends }) => mends.slice(0, 1));
  if (mends.length === 0) return false;
  const byFile = new Map<string, Map<string, { start: number; end: number; text: string }>>();
  for (const { file, ...edit } of mends.flatMap(({ edits }) => edits)) {
    const edits = byFile.get(file) ?? new Map();
    byFile.set(file, edits.set(JSON.stringify(edit), edit));
  }
  for (const [file, edits] of byFile)
    after.set(file, applyEdits(after.get(file) as Uint8Array, [...edits.values()]));
  return (
    check(after).filter((finding) => !before.has(keyOf(finding)) && finding.grade === 'broken').length === 0
  );
}
