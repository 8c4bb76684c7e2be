/**
 * `npm run mistakes`: plants mistakes that people make in sound sites, one at a time, checks each, and prints for each kind
 * how often the mistake was found, and how often what was meant is offered. The demo and a project of every starter, or
 * the folder that is named; `--write` puts the table into the docs, `--browser` opens what nothing is said
 * of in the browser of the tests.
 */
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import type { Browser } from 'playwright-core';
import { applyEdits } from '../src/core/change/edit.ts';
import { startCheck } from '../src/core/check/check.ts';
import type { Finding } from '../src/core/report.ts';
import { makeInventory } from '../src/core/site/inventory.ts';
import { inferPlaces, sitePrefix } from '../src/core/site/places.ts';
import { ListedPage } from '../src/core/starter/page-list.ts';
import { fillBlanks } from '../src/core/starter/render.ts';
import { scaffoldLayout } from '../src/core/starter/scaffold.ts';
import { isBuiltIn, loadStarter, starterNames } from '../src/disk/starters.ts';
import { servePlainly, startBrowser } from '../test/support/browser.ts';

type Site = ReadonlyMap<string, Uint8Array>;

/** A text replaced in one file, or files renamed; several, where there are several places for it. */
type Mistake = (site: Site) => readonly Site[];

const encoder = new TextEncoder();
const decoder = new TextDecoder();
const textOf = (site: Site, path: string) => decoder.decode(site.get(path));
const isMarkup = (path: string) => path.endsWith('.html');
const isStyle = (path: string) => path.endsWith('.css');
const isScript = (path: string) => path.endsWith('.js');

/** Planted at most, of each kind. */
const MOST = 6;

function withText(site: Site, path: string, text: string): Site {
  return new Map(site).set(path, encoder.encode(text));
}

/** Replaces each match, one at a time, in files that `fits` picks. */
function replacing(
  fits: (path: string) => boolean,
  pattern: RegExp,
  make: (match: RegExpExecArray, path: string) => string | null,
): Mistake {
  return (site) =>
    [...site.keys()].filter(fits).flatMap((path) => {
      const text = textOf(site, path);
      return [...text.matchAll(pattern)].flatMap((match) => {
        const made = make(match, path);
        if (made === null || made === match[0]) return [];
        const at = match.index;
        return [withText(site, path, text.slice(0, at) + made + text.slice(at + match[0].length))];
      });
    });
}

/** Renames each file that matches, and no reference to it. */
function renaming(pattern: RegExp, make: (path: string) => string): Mistake {
  return (site) =>
    [...site.keys()]
      .filter((path) => pattern.test(path) && make(path) !== path)
      .map((path) => {
        const files = new Map(site);
        files.set(make(path), site.get(path) as Uint8Array);
        files.delete(path);
        return files;
      });
}

const ADDRESS = /(?<=(?:src|href)=")(?!https?:|#|mailto:)[^"]+(?=")/g;
const LOCAL = /(?<=(?:src|href)=")(?!https?:|#|mailto:|\.\.\/)[^"]*\/[^"]+(?=")/g;
/** A path in a string of a script. */
const IN_SCRIPT = /(?<=['"])[a-z]+\/[a-z]{4,}\.(?:json|svg|png|html|wav)(?=['"])/g;
const swapped = (text: string, at: number) =>
  text.slice(0, at) + text[at + 1] + text[at] + text.slice(at + 2);

const kinds: Readonly<Record<string, Mistake>> = {
  'a ../ too few': replacing(isMarkup, /(?<=")\.\.\/[^"]+(?=")/g, ([all]) => all.slice(3)),
  'a ../ too many': replacing(isMarkup, ADDRESS, ([all]) => `../${all}`),
  'a ../ too many in a stylesheet': replacing(isStyle, /(?<=url\(["']?)[^)"']+/g, ([all]) => `../${all}`),
  'a path from the page in a stylesheet': replacing(isStyle, /(?<=url\(["']?)\.\.\/[^)"']+/g, ([all]) =>
    all.slice(3),
  ),
  'the folder left out': replacing(isMarkup, LOCAL, ([all]) => all.slice(all.lastIndexOf('/') + 1)),
  'the folder misspelt': replacing(isMarkup, LOCAL, ([all]) => swapped(all, 0)),
  'a capital in a name': replacing(
    isMarkup,
    /(?<=(?:src|href)="[^":]*\/?)[a-z](?=[^"/:]*\.[a-z]+")/g,
    ([all]) => all.toUpperCase(),
  ),
  'a capital in a folder': replacing(isMarkup, LOCAL, ([all]) => all.charAt(0).toUpperCase() + all.slice(1)),
  'letters swapped in a name': replacing(
    isMarkup,
    /(?<=(?:src|href)="[^":#]*)[a-z]{5,}(?=\.[a-z]+")/g,
    ([all]) => swapped(all, 1),
  ),
  'a letter left out of a name': replacing(
    isMarkup,
    /(?<=(?:src|href)="[^":#]*)[a-z]{6,}(?=\.[a-z]+")/g,
    ([all]) => all.slice(0, 2) + all.slice(3),
  ),
  'another extension': replacing(isMarkup, /(?<=(?:src)="[^":#]*)\.svg(?=")/g, () => '.png'),
  'no extension': replacing(isMarkup, /(?<=href="[^":#]*)\.html(?=")/g, () => ''),
  '.htm for .html': replacing(isMarkup, /(?<=href="[^":#]*)\.html(?=")/g, () => '.htm'),
  'a slash at the start': replacing(isMarkup, ADDRESS, ([all]) => (all.startsWith('.') ? null : `/${all}`)),
  backslashes: replacing(isMarkup, LOCAL, ([all]) => all.replaceAll('/', '\\')),
  'an address of the disk': replacing(
    isMarkup,
    ADDRESS,
    ([all]) => `C:\\site\\${all.replace(/^(?:\.\.\/)+/, '').replaceAll('/', '\\')}`,
  ),
  'an address of this machine': replacing(
    isMarkup,
    ADDRESS,
    ([all]) => `http://localhost:5500/${all.replace(/^(?:\.\.\/)+/, '')}`,
  ),
  'http: left out': replacing(
    isMarkup,
    /(?<=href=")(?=[a-z]+\/?[^"]*\.html")/g,
    () => 'www.gullhaven.example/',
  ),
  'a space in an address': replacing(isMarkup, ADDRESS, ([all]) =>
    all.includes('-') ? all.replace('-', ' ') : null,
  ),
  'an empty address': replacing(isMarkup, /(?<=src=")[^"]+(?=")/g, () => ''),
  'an address left out': replacing(isMarkup, /(?<=<(?:script|link)\b[^>]*) (?:src|href)="[^"]+"/g, () => ''),
  'src for href': replacing(isMarkup, /(?<=<link\b[^>]*) href=/g, () => ' src='),
  'href for src': replacing(isMarkup, /(?<=<(?:img|script)\b[^>]*) src=/g, () => ' href='),
  'an attribute misspelt': replacing(
    isMarkup,
    /(?<=<(?:img|script|link|a)\b[^>]*) (src|href)=/g,
    (match) => ` ${swapped(match[1] as string, 1)}=`,
  ),
  'an element misspelt': replacing(isMarkup, /(?<=<)(?:img|link)(?= )/g, ([all]) => swapped(all, 1)),
  'rel misspelt': replacing(isMarkup, /rel="stylesheet"/g, () => 'rel="stylsheet"'),
  'rel left out': replacing(isMarkup, / rel="stylesheet"/g, () => ''),
  'a colon for =': replacing(isMarkup, /(?<=<link\b[^>]*) href="/g, () => ' href:"'),
  'a type that is none': replacing(isMarkup, /<script src/g, () => '<script type="text/js" src'),
  'a media type that is none': replacing(
    isMarkup,
    /rel="stylesheet"/g,
    () => 'rel="stylesheet" media="scren"',
  ),
  'a quote left open': replacing(isMarkup, /(?<=(?:src|href)="[^"]+)"(?=>)/g, () => ''),
  'a > left out': replacing(isMarkup, /(?<=<\/(?:a|p|h2))>/g, () => ''),
  'a title left open': replacing(isMarkup, /<\/title>/g, () => ''),
  'a script left open': replacing(isMarkup, /<\/script>/g, () => ''),
  'a script closed in itself': replacing(
    isMarkup,
    /(<script src="[^"]+"[^>]*)><\/script>/g,
    (match) => `${match[1]}/>`,
  ),
  'a comment left open': replacing(isMarkup, /(?<=<!--[^>]*) -->(?=\s*\n\s*<)/g, () => ''),
  'a comment in a stylesheet left open': replacing(isStyle, /(?<=\/\*[^*]*)\*\/(?=[\s\S]*\{)/g, () => ''),
  'a brace left out': replacing(isStyle, /\n\}(?=\n\n[^\s@])/g, () => '\n'),
  'a brace too many': replacing(isStyle, /\n\}(?=\n\n[^\s@])/g, () => '\n}\n}'),
  'a quote left open in a stylesheet': replacing(isStyle, /(?<=url\("[^"]+)"/g, () => ''),
  'curly quotes in a stylesheet': replacing(
    isStyle,
    /(?<=:[^;"]*)"([^"]+)"/g,
    (match) => `\u201c${match[1]}\u201d`,
  ),
  '@import without quotes': replacing(isStyle, /^/g, () => '@import extra.css;\n'),
  'an anchor in another case': replacing(isMarkup, /(?<=href="[^"]*#)[a-z](?=[^"]*")/g, ([all]) =>
    all.toUpperCase(),
  ),
  'an anchor misspelt': replacing(isMarkup, /(?<=href="[^"]*#)[a-z-]{5,}(?=")/g, ([all]) => swapped(all, 1)),
  'an id renamed': replacing(isMarkup, /(?<=\sid=")[a-z-]{4,}(?=")/g, ([all]) => `${all}s`),
  'a picture renamed': renaming(/^images\//, (path) => path.replace(/\/([^/]+)$/, '/new-$1')),
  'a picture in another case': renaming(/^images\//, (path) =>
    path.replace(
      /\/([a-z])([^/]*)$/,
      (_all, first: string, rest: string) => `/${first.toUpperCase()}${rest}`,
    ),
  ),
  'a page renamed': renaming(/^(?!index)[a-z]+\.html$/, (path) =>
    path.replace(/([a-z]+)\.html$/, '$1-old.html'),
  ),
  'a page in another folder': renaming(/^(?!index)[a-z]+\.html$/, (path) => `pages/${path}`),
  'a stylesheet in another folder': renaming(/^css\//, (path) => path.replace(/^css\//, 'styles/')),
  'a stylesheet with .txt behind': renaming(/\.css$/, (path) => `${path}.txt`),
  'an index page with another name': renaming(/\/index\.html$/, (path) => path.replace('index', 'home')),
  'a stylesheet without content': (site) =>
    [...site.keys()].filter(isStyle).map((path) => withText(site, path, '')),
  'markup in a stylesheet': replacing(isStyle, /^/g, () => '<style>\n'),
  'a page saved as a picture': (site) =>
    [...site.keys()]
      .filter((path) => path.endsWith('.svg'))
      .map((path) => withText(site, path, '<!doctype html><title>Not found</title>')),
  'a script that does not parse': replacing(
    (path) => path.endsWith('.js'),
    /\)(?=[;\s])/g,
    () => '',
  ),
  'the folder left out in a script': replacing(isScript, IN_SCRIPT, ([all]) =>
    all.slice(all.lastIndexOf('/') + 1),
  ),
  'letters swapped in a script': replacing(isScript, IN_SCRIPT, ([all]) =>
    swapped(all, all.lastIndexOf('/') + 2),
  ),
  'a capital in a script': replacing(
    isScript,
    IN_SCRIPT,
    ([all]) => all.charAt(0).toUpperCase() + all.slice(1),
  ),
  'a script loaded twice': replacing(
    isMarkup,
    /(<script src="[^"]+"[^>]*><\/script>)/g,
    (match) => `${match[0]}\n${match[0]}`,
  ),
  'a stylesheet in the body': replacing(
    isMarkup,
    /(<link rel="stylesheet"[^>]+>)([\s\S]*<main>)/g,
    (match) => `${match[2]}${match[1]}`,
  ),
};

/** Kinds with nothing that an edit could put back. */
const LOST: ReadonlySet<string> = new Set([
  'an empty address',
  'an address left out',
  'a comment in a stylesheet left open',
  'a brace left out',
  'a brace too many',
  '@import without quotes',
  'an id renamed',
  'a stylesheet with .txt behind',
  'a stylesheet without content',
  'markup in a stylesheet',
  'a page saved as a picture',
  'a script that does not parse',
  'a script loaded twice',
  'a stylesheet in the body',
]);

const DOCS = join(import.meta.dirname, '../docs/mistakes.md');
const [given] = process.argv.slice(2).filter((word) => !word.startsWith('--'));
const sites =
  given === undefined
    ? [siteIn(join(import.meta.dirname, '../demo/gullhaven')), ...laidOut()]
    : [siteIn(given)];
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

function siteIn(root: string): Site {
  const paths = readdirSync(root, { recursive: true, encoding: 'utf8' }).map((path) =>
    path.replaceAll('\\', '/'),
  );
  const files = paths.filter((path) => statSync(join(root, path)).isFile() && path !== 'cravel.yaml');
  return new Map(files.map((path) => [path, new Uint8Array(readFileSync(join(root, path)))]));
}

/** A project of every starter, with two pages more; the published part of it. */
function laidOut(): Site[] {
  return starterNames()
    .filter(isBuiltIn)
    .map((name) => {
      const starter = loadStarter(name);
      const pages = ['tides', 'piers/north'].map((path) => Object.assign(new ListedPage(), { path }));
      const { files } = scaffoldLayout(starter, fillBlanks(starter, 'ferry', new Map()), pages);
      const prefix = sitePrefix(starter.manifest.site);
      const inside = [...files].filter(([path]) => path.startsWith(prefix) && path !== 'cravel.yaml');
      return new Map(inside.map(([path, bytes]) => [path.slice(prefix.length), bytes]));
    });
}

function check(files: Site): Finding[] {
  const read = (path: string) => files.get(path) ?? new Uint8Array();
  const inventory = makeInventory(files.keys());
  const one = startCheck(inventory, {
    headOf: read,
    digestOf: () => null,
    places: inferPlaces(inventory.folders),
  });
  for (const path of one.wanted) one.take(path, read(path));
  return [...one.report('site', read).findings];
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
