/** Writes an address anew so that it leads to another path, in the manner in which it was written. */

import { encodeSegment } from '../mend/address.ts';
import type { Published } from '../resolve/published.ts';
import { folderOf } from '../site/inventory.ts';

/** An address in pieces: what stands in front of the path, the path, and its query and fragment. */
interface Written {
  /** Scheme and host, or the slash that starts at the root; empty where it is relative. */
  readonly lead: string;
  readonly path: string;
  readonly tail: string;
}

export interface Readdressing {
  /** The address as it is written, character references and escapes decoded. */
  readonly written: string;
  /** What it leads to by now: a site path, of a folder one that ends in `/`, as it is resolved. */
  readonly path: string;
  /** What it is to lead to. */
  readonly to: string;
  /** The base address of its file afterwards. */
  readonly base: string;
  /** A module specifier: without a dot in front it would be a bare one (HTML 8.1.6.2). */
  readonly isSpecifier: boolean;
  readonly published: Published | null;
}

/** The new address, query and fragment as they were. */
export function readdressed({ written, path, to, base, isSpecifier, published }: Readdressing): string {
  const { lead, path: old, tail } = partsOf(written, published);
  const separator = old.includes('\\') && !old.includes('/') ? '\\' : '/';
  const segments = rawSegments(old, path, to);
  if (lead !== '') return lead + segments.join(separator) + tail;
  const here = folderOf(base).split('/').slice(0, -1);
  const steps = to.split('/');
  let shared = 0;
  while (shared < here.length && shared < steps.length - 1 && here[shared] === steps[shared]) shared++;
  const up = here.slice(shared).map(() => '..');
  const rest = [...up, ...segments.slice(shared)];
  const plain = rest.join(separator);
  // Of a specifier the dot is no manner, but what makes an address of it.
  const isDotted = (isSpecifier ? /^\.[/\\]\.\.[/\\]/ : /^\.[/\\]./).test(old);
  // A colon in the first step would make a scheme of it (RFC 3986, 4.2).
  const wantsDot = isDotted || (isSpecifier && up.length === 0) || /^[^/\\]*:/.test(plain);
  const text = plain === '' ? './' : wantsDot ? `.${separator}${plain}` : plain;
  return text + tail;
}

/** What stands in front of the path of a site, as it is written. */
function partsOf(written: string, published: Published | null): Written {
  const [, path = '', tail = ''] = /^([^?#]*)([\s\S]*)$/.exec(written) ?? [];
  const [host = ''] = /^(?:[a-z][a-z0-9+.-]*:)?[/\\]{2}[^/\\]*/i.exec(path) ?? [];
  const rest = path.slice(host.length);
  if (host === '' && !/^[/\\]/.test(rest)) return { lead: '', path, tail };
  const folder = published?.folder ?? '/';
  const length = rest.startsWith(folder) ? folder.length : Math.min(1, rest.length);
  const lead = host + (rest === '' ? '/' : rest.slice(0, length));
  return { lead, path: rest.slice(length), tail };
}

/** The steps of the new path, those that it has of the old one as they are written there. */
function rawSegments(written: string, path: string, to: string): string[] {
  const [old, fresh] = [path.split('/'), to.split('/')];
  const raw = rawOf(written, old);
  const segments = fresh.map(encodeSegment);
  for (let at = 0; at < fresh.length && fresh[at] === old[at]; at++)
    segments[at] = raw[at] ?? encodeSegment(fresh[at] ?? '');
  for (let back = 1; back <= fresh.length && fresh.at(-back) === old.at(-back); back++)
    segments[fresh.length - back] = raw[old.length - back] ?? encodeSegment(fresh.at(-back) ?? '');
  return segments;
}

/** How each step of a path is written; undefined for those that the base gives. */
function rawOf(written: string, old: readonly string[]): (string | undefined)[] {
  const steps: string[] = [];
  let isPlain = true;
  for (const [index, step] of written.split(/[/\\]/).entries()) {
    if (step === '..' || /^(?:%2e|\.){2}$/i.test(step)) {
      if (steps.pop() === undefined) continue;
      isPlain = false;
    } else if (step !== '.' && (step !== '' || index > 0)) steps.push(step);
  }
  const raw: (string | undefined)[] = old.map(() => undefined);
  // Of a path with steps back and forth nobody can tell which is which.
  if (!isPlain) return raw;
  for (let back = 1; back <= steps.length && back <= old.length; back++) {
    const step = steps.at(-back) as string;
    if (decoded(step) !== old.at(-back)) break;
    raw[old.length - back] = step;
  }
  return raw;
}

function decoded(step: string): string {
  try {
    return decodeURIComponent(step);
  } catch {
    return step;
  }
}
