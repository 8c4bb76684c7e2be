/** From an address as written to its target, by the parsing rules of the URL standard. */
import { Byte } from '../bytes.ts';
import { folderOf } from '../site/inventory.ts';

/** Where an address leads. */
export type Target =
  /** A site path that may or may not exist; an address of a folder ends in `/` or is empty. */
  | {
      readonly in: 'site';
      readonly path: string;
      /** The folder that the walk starts in, and its decoded steps. */
      readonly folder: string;
      readonly segments: readonly string[];
      readonly query: string;
      /** The fragment as written, without its `#`; null where there is none. */
      readonly fragment: string | null;
    }
  /** An address with more `..` than there are folders. */
  | {
      readonly in: 'beyond';
      readonly folder: string;
      readonly segments: readonly string[];
      /** What a browser asks its host for, since it stops at the host's root: a path from there. */
      readonly asked: string;
      /** The site path of that; null where it is none of the site. */
      readonly stopped: string | null;
    }
  /** Another host or scheme: not a file of this site. */
  | { readonly in: 'elsewhere' };

/** The site path that a browser asks for; null where that is none of the site. */
export function pathAsked(target: Target): string | null {
  if (target.in === 'site') return target.path;
  return target.in === 'beyond' ? target.stopped : null;
}

const ELSEWHERE: Target = { in: 'elsewhere' };

/** An absolute address or one with a host of its own: a scheme, or two slashes of either kind. */
const ABSOLUTE = /^(?:[a-z][a-z0-9+.-]*:|[/\\]{2})/i;

/**
 * The base address that a file's references resolve against, as a site path: the file itself, or
 * what its `<base href>` names (HTML 2.4.3). Null where the base lies outside of the site.
 */
export function baseAddress(file: string, base: string | null): string | null {
  if (base === null) return file;
  const target = resolve(base, file);
  return target.in === 'site' ? target.path : null;
}

/**
 * Resolves `written` against the site path `base` (URL standard 4.4, the path states for special
 * schemes). The site is taken to be published at the root of its host, so a path that starts with `/`
 * starts from the site's root; where `..` leads further up, it is said where a browser stops.
 */
export function resolve(written: string, base: string | null): Target {
  const text = strip(written);
  if (ABSOLUTE.test(text) || base === null) return ELSEWHERE;
  const hash = text.indexOf('#');
  const fragment = hash < 0 ? null : text.slice(hash + 1);
  const beforeHash = hash < 0 ? text : text.slice(0, hash);
  const mark = beforeHash.indexOf('?');
  const query = mark < 0 ? '' : beforeHash.slice(mark);
  const path = mark < 0 ? beforeHash : beforeHash.slice(0, mark);
  if (path === '') {
    const segments = [base.slice(base.lastIndexOf('/') + 1)];
    return { in: 'site', path: base, folder: folderOf(base), segments, query, fragment };
  }
  const fromRoot = path[0] === '/' || path[0] === '\\';
  const folder = fromRoot ? '' : folderOf(base);
  const segments = splitPath(fromRoot ? path.slice(1) : path);
  const target = join(folder, segments);
  if (target === null) {
    const asked = stoppingAtRoot(folder, segments);
    return { in: 'beyond', folder, segments, asked, stopped: asked };
  }
  return { in: 'site', path: target, folder, segments, query, fragment };
}

/** Visible ASCII that starts with no slash and holds no escapes or backslashes. */
const PLAIN = /^[!-$&-.0-[\]-~][!-$&-[\]-~]*$/;
/** Steps other than `../` at the start that change what an address means. */
const STEPS = /(?:^|\/)(?:\.{0,2}\/|\.{1,2}$)/;

/**
 * The site path that a plain relative address without a fragment leads to, as {@link resolve} has it; null for all
 * others. Worth it: most addresses of a site are plain.
 */
export function plainPath(address: string, base: string): string | null {
  if (!PLAIN.test(address) || ABSOLUTE.test(address)) return null;
  let folder = base.lastIndexOf('/') + 1;
  let start = 0;
  while (address.startsWith('../', start)) {
    if (folder === 0) return null;
    folder = base.lastIndexOf('/', folder - 2) + 1;
    start += 3;
  }
  const mark = address.indexOf('?', start);
  const rest = address.slice(start, mark < 0 ? undefined : mark);
  return rest === '' || STEPS.test(rest) ? null : base.slice(0, folder) + rest;
}

/** URL standard 4.4, steps 1 to 3: control characters and spaces around, tabs and newlines anywhere. */
function strip(written: string): string {
  const text = trimControls(written);
  return /[\t\n\r]/.test(text) ? text.replace(/[\t\n\r]+/g, '') : text;
}

/** Without control characters and spaces around (Infra, C0 control or space). */
function trimControls(text: string): string {
  let start = 0;
  let end = text.length;
  while (start < end && text.charCodeAt(start) <= Byte.Space) start++;
  while (end > start && text.charCodeAt(end - 1) <= Byte.Space) end--;
  return end - start === text.length ? text : text.slice(start, end);
}

/** Decoded steps; `.` is left out, and a `.` or `..` at the end means the folder it leads to. */
function splitPath(path: string): string[] {
  const raw = path.includes('\\') ? path.split(/[/\\]/) : path.split('/');
  const segments: string[] = [];
  raw.forEach((text, index) => {
    const segment = text.includes('%') ? decodePercent(text) : text;
    const last = index === raw.length - 1;
    if (segment === '..') segments.push('..');
    else if (segment !== '.' && segment !== '') segments.push(segment);
    if (last && (segment === '..' || segment === '.' || segment === '')) segments.push('');
  });
  return segments;
}

/** Percent-decodes a segment as UTF-8 (URL standard 1.3); `%2F` stays, since no file name holds a slash. */
function decodePercent(text: string): string {
  return text.replace(/(?:%(?!2f)[0-9a-f]{2})+/gi, (run) => {
    const bytes = Uint8Array.from(run.match(/[0-9a-f]{2}/gi) ?? [], (hex) => Number.parseInt(hex, 16));
    return new TextDecoder().decode(bytes);
  });
}

function join(folder: string, segments: readonly string[]): string | null {
  const path = stepsOf(folder);
  for (const segment of segments) {
    if (segment !== '..') path.push(segment);
    else if (path.pop() === undefined) return null;
  }
  return path.join('/');
}

/** URL standard 4.4, shorten a url's path: at the root there is nothing to leave. */
export function stoppingAtRoot(folder: string, segments: readonly string[]): string {
  const path = stepsOf(folder);
  for (const segment of segments) {
    if (segment !== '..') path.push(segment);
    else path.pop();
  }
  return path.join('/');
}

function stepsOf(folder: string): string[] {
  return folder === '' ? [] : folder.slice(0, -1).split('/');
}
