/** Sound sites, and mistakes that people make to plant in them. */
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { startCheck } from '../src/core/check/check.ts';
import type { Finding } from '../src/core/report.ts';
import { makeInventory } from '../src/core/site/inventory.ts';
import { inferPlaces, sitePrefix } from '../src/core/site/places.ts';
import { ListedPage } from '../src/core/starter/page-list.ts';
import { fillBlanks } from '../src/core/starter/render.ts';
import { scaffoldLayout } from '../src/core/starter/scaffold.ts';
import { isBuiltIn, loadStarter, starterNames } from '../src/disk/starters.ts';

export type Site = ReadonlyMap<string, Uint8Array>;

/** A text replaced in one file, or files renamed; several, where there are several places for it. */
export type Mistake = (site: Site) => readonly Site[];

const encoder = new TextEncoder();
const decoder = new TextDecoder();
const textOf = (site: Site, path: string) => decoder.decode(site.get(path));
export const isMarkup = (path: string) => path.endsWith('.html');
const isStyle = (path: string) => path.endsWith('.css');
const isScript = (path: string) => path.endsWith('.js');

/** Planted at most, of each kind. */
export const MOST = 6;

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

export const kinds: Readonly<Record<string, Mistake>> = {
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
export const LOST: ReadonlySet<string> = new Set([
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

/** The demo, and a project of every starter. */
export function soundSites(): Site[] {
  return [siteIn(join(import.meta.dirname, '../demo/gullhaven')), ...laidOut()];
}

export function siteIn(root: string): Site {
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

export function check(files: Site): Finding[] {
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
