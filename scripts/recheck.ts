/**
 * Checks a check: every `absent`, `letter-case`, `lacks-index`, `beyond-site` and `absent-anchor` finding about links,
 * images, scripts and stylesheets of a folder of pages is looked for in another way: parse5's tree, `new URL`, and the
 * disk. Prints what only one of the two finds: `node --import tsx scripts/recheck.ts <folder>`.
 */
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { type DefaultTreeAdapterTypes, parse } from 'parse5';
import { checkFolder } from '../src/disk/check.ts';
import { inWords } from '../src/show/holder.ts';

type Node = DefaultTreeAdapterTypes.Node;

const HOST = 'http://gullhaven.example/a/b/c/d/e/f/';
const held: Readonly<Record<string, string>> = {
  a: 'href',
  area: 'href',
  img: 'src',
  script: 'src',
  iframe: 'src',
  embed: 'src',
  link: 'href',
};
const compared = new Set(Object.entries(held).map(([element, attribute]) => `${element} ${attribute}`));
const rules = new Set([
  'absent',
  'letter-case',
  'lacks-index',
  'beyond-site',
  'absent-anchor',
  'host-dependent',
]);

const root = process.argv[2] ?? '.';
const pages = readdirSync(root, { recursive: true, encoding: 'utf8' }).filter((path) =>
  /\.x?html?$/i.test(path),
);
const anchorsOf = new Map<string, Set<string>>();
const links: { file: string; holder: string; written: string; base: string }[] = [];
for (const file of pages)
  look(file, parse(readFileSync(join(root, file), 'utf8'), { scriptingEnabled: false }));

const ours = new Map<string, number>();
for (const { rule, file, holder, written } of (await checkFolder(root)).sites.flatMap(
  (site) => site.findings,
)) {
  const words = inWords(holder);
  if (rules.has(rule) && compared.has(words)) count(ours, `${file} ${words} ${written}`);
}
const theirs = new Map<string, number>();
for (const { file, holder, written, base } of links)
  if (fails(written, base)) count(theirs, `${file} ${holder} ${written.trim()}`);

let differences = 0;
for (const key of new Set([...ours.keys(), ...theirs.keys()])) {
  const [one, other] = [ours.get(key) ?? 0, theirs.get(key) ?? 0];
  if (one === other) continue;
  differences++;
  console.log(`${key}\n    found by the check ${one} times, by brute force ${other} times`);
}
const sum = [...theirs.values()].reduce((total, amount) => total + amount, 0);
console.log(
  `${pages.length} pages, ${links.length} references compared, ${sum} fail, ${differences} differences`,
);
process.exitCode = differences === 0 ? 0 : 1;

function look(file: string, document: Node): void {
  const anchors = new Set<string>();
  anchorsOf.set(file, anchors);
  let base = HOST + file.split('/').map(encodeURIComponent).join('/');
  let hasBase = false;
  const own: [holder: string, written: string][] = [];
  const visit = (node: Node, hidden: boolean) => {
    if ('attrs' in node) {
      const value = (name: string) => node.attrs.find((attribute) => attribute.name === name)?.value;
      const id = value('id');
      const name = node.tagName === 'a' ? value('name') : undefined;
      if (!hidden) for (const anchor of [id, name]) if (anchor) anchors.add(anchor);
      const href = value('href');
      if (node.tagName === 'base' && href !== undefined && !hasBase && !hidden) {
        base = new URL(href, base).href;
        hasBase = true;
      }
      const attribute = held[node.tagName];
      const written = attribute === undefined ? undefined : value(attribute);
      const isHtml = node.namespaceURI === 'http://www.w3.org/1999/xhtml';
      if (written !== undefined && isHtml && isLink(node.tagName, value))
        own.push([`${node.tagName} ${attribute}`, written]);
    }
    const isHidden =
      hidden || ('tagName' in node && (node.tagName === 'noscript' || node.tagName === 'template'));
    for (const child of 'childNodes' in node ? node.childNodes : []) visit(child, isHidden);
    if ('content' in node) visit(node.content, true);
  };
  visit(document, false);
  for (const [holder, written] of own) links.push({ file, holder, written, base });
}

/** Links of these relations name a file of the site. */
function isLink(element: string, value: (name: string) => string | undefined): boolean {
  if (element !== 'link')
    return (
      element !== 'script' ||
      !/^(?!$|module$|text\/javascript$|application\/javascript$)/i.test(value('type')?.trim() ?? '')
    );
  return /(?:^|\s)(?:stylesheet|icon|next|prev|help|search|author|license|alternate|manifest|canonical)(?:\s|$)/i.test(
    value('rel') ?? '',
  );
}

function fails(written: string, base: string): boolean {
  let url: URL;
  try {
    url = new URL(written, base);
  } catch {
    return false;
  }
  if (url.origin !== new URL(HOST).origin) return false;
  // Own host, and written with it: another site for a check that knows of none.
  if (/^\s*(?:https?:|\/\/)/i.test(written)) return false;
  const from = /^\s*[/\\]/.test(written) ? new URL(HOST).pathname.slice(0, -1) + url.pathname : url.pathname;
  const start = new URL(HOST).pathname;
  if (!from.startsWith(start)) return true;
  const path = decodeURIComponent(from.slice(start.length).replace(/%(?![0-9a-f]{2})/gi, '%25')).replace(
    /\/{2,}/g,
    '/',
  );
  const found = fileAt(path);
  if (found === null) return written.trim() !== '';
  const fragment = decodeURIComponent(
    url.hash
      .slice(1)
      .replace(/:~:.*$/, '')
      .replace(/%(?![0-9a-f]{2})/gi, '%25'),
  );
  const anchors = anchorsOf.get(found);
  if (fragment === '' || anchors === undefined || /^top$/i.test(fragment)) return isFolderWithoutSlash(path);
  return isFolderWithoutSlash(path) || !(anchors.has(fragment) || anchors.has(url.hash.slice(1)));
}

function isFolderWithoutSlash(path: string): boolean {
  return (
    path !== '' &&
    !path.endsWith('/') &&
    existsSync(join(root, path)) &&
    statSync(join(root, path)).isDirectory()
  );
}

function fileAt(path: string): string | null {
  const isFolder = path === '' || path.endsWith('/') || isFolderWithoutSlash(path);
  const file = isFolder ? `${path.replace(/\/?$/, path === '' ? '' : '/')}index.html` : path;
  return existsSync(join(root, file)) && statSync(join(root, file)).isFile() ? file : null;
}

function count(amounts: Map<string, number>, key: string): void {
  amounts.set(key, (amounts.get(key) ?? 0) + 1);
}
