/** Sites made up at random, moved about, and what their references lead to. */
import fc from 'fast-check';
import { ChangedFiles } from '../../src/core/change/files.ts';
import { type Moved, moveFiles } from '../../src/core/moving/move.ts';
import { renamingOf } from '../../src/core/moving/renaming.ts';
import { readFile } from '../../src/core/read/read.ts';
import { locate } from '../../src/core/resolve/locate.ts';
import { publishedAt, resolveIn } from '../../src/core/resolve/published.ts';
import { baseAddress } from '../../src/core/resolve/resolve.ts';
import { folderOf, makeInventory } from '../../src/core/site/inventory.ts';
import { segmentsTo } from '../../src/core/site/walk.ts';
import { bytesOf, type Files } from './site.ts';

export type Pairs = readonly (readonly [from: string, to: string])[];

const PUBLISHED = publishedAt('https://gullhaven.example/ferry/');

export interface MovedSite extends Moved {
  readonly site: Record<string, Uint8Array>;
}

/** A site after a move, all of it in memory. */
export async function moved(
  files: Files,
  pairs: Pairs,
  { isPublished = false, isDone = false } = {},
): Promise<MovedSite> {
  const content = new Map(Object.entries(files).map(([path, text]) => [path, bytesOf(text)]));
  const all = new ChangedFiles(content.keys(), (path) => content.get(path) as Uint8Array);
  const renaming = renamingOf(pairs);
  const back = renamingOf(pairs.map(([from, to]) => [to, from] as const));
  const paths = isDone ? [...content.keys()].map((path) => back.of(path)) : content.keys();
  const outcome = await moveFiles({
    files: all,
    inventory: makeInventory(paths),
    published: isPublished ? PUBLISHED : null,
    entry: 'index.html',
    renaming,
    bytesOf: (path) => content.get(isDone ? renaming.of(path) : path) as Uint8Array,
    marksOf: () => undefined,
    isDone,
  });
  return { ...outcome, site: Object.fromEntries(all.paths().map((path) => [path, all.read(path)])) };
}

/** What each reference of each file leads to, in order, by the paths that `of` gives. */
export function graphOf(
  files: Readonly<Record<string, Uint8Array | string>>,
  isPublished: boolean,
  of: (path: string) => string = (path) => path,
): Record<string, string[]> {
  const inventory = makeInventory(Object.keys(files));
  const entries = Object.entries(files).flatMap(([file, content]): [string, string[]][] => {
    const reading = readFile(file, bytesOf(content));
    if (reading === null) return [];
    const base = baseAddress(file, reading.base);
    const led = reading.references.map(({ written, kind }) => {
      const target = resolveIn(written, base, isPublished ? PUBLISHED : null);
      if (target.in !== 'site') return `${kind} ${target.in}`;
      const found = locate(inventory, target.path);
      const path = found === null ? `nowhere: ${of(target.path)}` : of(found);
      return `${kind} ${path} ${target.query} ${target.fragment}`;
    });
    return [[of(file), led]];
  });
  return Object.fromEntries(entries.sort(([one], [other]) => (one < other ? -1 : 1)));
}

const folders = ['', 'a/', 'a/b/', 'north pier/', 'é/', 'docs/deep/', 'x.y/'];
const names = [
  'index.html',
  'fares.html',
  'Tide Table.html',
  'main.css',
  'one.css',
  'app.js',
  'pier.svg',
  'q.png',
  'feed.xml',
  'sitemap.xml',
  'site.webmanifest',
  'n&b.png',
];
const tails = ['', '', '', '#spot', '?v=2', '?a=1&b=2#x'];

interface Made {
  readonly paths: readonly string[];
  /** Steps that are written percent-encoded. */
  readonly encoded: ReadonlySet<string>;
  readonly isPublished: boolean;
}

interface Choice {
  readonly target: number;
  readonly way: number;
  readonly tail: number;
  readonly place: number;
}

const choice = fc.record({ target: fc.nat(40), way: fc.nat(9), tail: fc.nat(5), place: fc.nat(11) });
const choices = fc.array(choice, { maxLength: 9 });

/** A site, and a move of something in it. */
export const siteAndMove = fc
  .record({
    files: fc.uniqueArray(fc.tuple(fc.constantFrom(...folders), fc.constantFrom(...names), choices), {
      minLength: 2,
      maxLength: 12,
      selector: ([folder, name]) => folder + name,
    }),
    isPublished: fc.boolean(),
    source: fc.nat(40),
    isFolder: fc.boolean(),
    to: fc.constantFrom(...folders, 'new/', 'new/er place/', 'a/b/c/'),
    name: fc.constantFrom('moved', 'Moved Here', 'é', 'same'),
  })
  .map(({ files, isPublished, source, isFolder, to, name }) => {
    const paths = files.map(([folder, file]) => folder + file);
    const path = paths[source % paths.length] as string;
    const own = folderOf(path);
    const file = path.slice(own.length);
    const extension = file.slice(file.lastIndexOf('.'));
    // Who names a page by its folder has to name the file once it is called otherwise.
    const stays = name === 'same' || file === 'index.html';
    const pair: readonly [string, string] =
      isFolder && own !== '' ? [own, `${to}${name}/`] : [path, to + (stays ? file : `${name}${extension}`)];
    const isTaken = pair[0].endsWith('/')
      ? paths.some((one) => one.startsWith(pair[1])) || pair[1].startsWith(pair[0])
      : paths.includes(pair[1]) || paths.some((one) => one.startsWith(`${pair[1]}/`));
    // What moves is written as it is encoded: nobody could tell afterwards that it was not.
    const encoded = new Set(pair.flatMap((one) => one.split('/')));
    const site = Object.fromEntries(
      files.map(([folder, file, all]) => [
        folder + file,
        contentOf(folder + file, all, { paths, encoded, isPublished }),
      ]),
    );
    return { site, isPublished, pairs: isTaken ? [] : [pair] };
  });

function contentOf(file: string, all: readonly Choice[], made: Made): string {
  const written = all.map((one) => ({ ...one, address: addressOf(file, one, made) }));
  const extension = file.slice(file.lastIndexOf('.') + 1);
  switch (extension) {
    case 'html':
      return `<!doctype html><title>x</title><meta charset=utf-8>\n${written.map(inMarkup).join('\n')}`;
    case 'css':
      return written.map(({ address, place }) => inCss(address, place)).join('\n');
    case 'js':
      return written
        .map(({ address }) =>
          /^[./]/.test(address)
            ? `import ${JSON.stringify(plainSpecifier(address))};`
            : `new URL('${address.replaceAll("'", '%27')}', import.meta.url);`,
        )
        .join('\n');
    case 'webmanifest':
      return JSON.stringify({ icons: written.map(({ address }) => ({ src: address })) });
    case 'xml':
      return file.endsWith('feed.xml')
        ? `<rss><channel>${written.map(({ address }) => `<link>${escaped(address)}</link>`).join('')}</channel></rss>`
        : `<urlset>${written.map(({ address }) => `<url><loc>${escaped(address)}</loc></url>`).join('')}</urlset>`;
    default:
      return extension === 'svg' ? '<svg xmlns="http://www.w3.org/2000/svg"/>' : 'x';
  }
}

/** The dot in front is there where it has to be. */
const plainSpecifier = (address: string) => address.replace(/^\.\/\.\.\//, '../');

const escaped = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;');

function inMarkup({ address, place }: { readonly address: string; readonly place: number }): string {
  const quoted = escaped(address).replaceAll('"', '&quot;');
  const bare = address.replace(/[\s,]/g, (one) => encodeURIComponent(one));
  switch (place) {
    case 0:
      return `<img src='${quoted.replaceAll("'", '&#39;')}'>`;
    case 1:
      return `<img srcset="${escaped(bare)} 2x">`;
    case 2:
      return `<p style="background: url('${quoted.replaceAll("'", '%27')}')">`;
    case 3:
      return `<link rel=stylesheet href="${quoted}">`;
    case 4:
      return `<style>b { background: url("${address.replaceAll('"', '%22')}") }</style>`;
    case 5:
      return `<script type=module>import '${plainSpecifier(/^[./]|^https:/.test(address) ? address : `./${address}`).replaceAll("'", '%27')}';</script>`;
    case 6:
      return `<iframe srcdoc="<a href='${quoted.replaceAll("'", '&#39;')}'>x</a>"></iframe>`;
    case 7:
      return `<template><img src="${quoted}"></template>`;
    case 8:
      return `<img src=${bare.replace(/["'<>=`]/g, (one) => encodeURIComponent(one)).replace(/\\/g, '/') || '#'}>`;
    default:
      return `<a href="${quoted}">x</a>`;
  }
}

function inCss(address: string, place: number): string {
  const safe = address.replace(/["'()\s\\]/g, (one) =>
    encodeURIComponent(one).replace("'", '%27').replace('(', '%28').replace(')', '%29'),
  );
  if (place % 3 === 0) return `b { background: url(${safe}) }`;
  return place % 3 === 1 ? `b { background: url("${safe}") }` : `@font-face { src: url('${safe}') }`;
}

/** An address in one of the ways in which people write them. */
function addressOf(
  file: string,
  { target, way, tail }: Choice,
  { paths, encoded, isPublished }: Made,
): string {
  const all = [...paths, 'none.png', 'a/none/x.html'];
  const path = all[target % all.length] as string;
  const folder = path.endsWith('index.html') && way % 2 === 1 ? folderOf(path) : path;
  const plain = folder
    .split('/')
    .map((step) =>
      way % 3 === 0 || encoded.has(step)
        ? encodeURIComponent(step)
        : step.replace(/[%?#]/g, encodeURIComponent),
    )
    .join('/');
  const end = tails[tail] as string;
  if (way === 4 && isPublished) return `https://gullhaven.example/ferry/${plain}${end}`;
  if (way === 5) return `${isPublished ? '/ferry/' : '/'}${plain}${end}`;
  const steps = segmentsTo(folderOf(file), folder);
  const ups = steps.filter((step) => step === '..').length;
  const rest = plain.split('/').slice(plain.split('/').length - (steps.length - ups));
  const relative = [...steps.slice(0, ups), ...rest].join('/');
  if (relative === '') return `./${end}`;
  return `${way === 6 ? './' : ''}${relative}${end}`;
}
