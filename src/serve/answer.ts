/** What a strict host answers a request with: letter for letter, nothing guessed, nothing listed. */
import { locate } from '../core/resolve/locate.ts';
import type { Published } from '../core/resolve/published.ts';
import { resolve } from '../core/resolve/resolve.ts';
import { SETTINGS_FILE } from '../core/settings/settings.ts';
import { type Inventory, isBehindClosed } from '../core/site/inventory.ts';

export type Answer =
  | { readonly is: 'file'; readonly path: string }
  /** To the folder with its slash: a path on the host, escaped, with its query. */
  | { readonly is: 'folder'; readonly to: string }
  /** `path` is the site path that was asked for; null where it is none of the site's. */
  | { readonly is: 'missing'; readonly path: string | null }
  /** No path of a host, by any reading. */
  | { readonly is: 'no-path' };

/** A site as it is served. */
export interface Served {
  readonly inventory: Inventory;
  /** Links out of the site, by their site paths. */
  readonly linksOut: ReadonlyMap<string, string>;
  /** The folder of the host that it is published in: from `/` to `/`. */
  readonly folder: string;
}

/** The folder of a host that a site is served in. */
export function folderServed(published: Published | null): string {
  return published?.folder ?? '/';
}

/** What a request's target (RFC 9112, 3.2.1: a path and a query) is answered with. */
export function answerTo(target: string, { inventory, linksOut, folder }: Served): Answer {
  const [path = '', ...queries] = target.split('?');
  // What no file of a site has in its name: control characters, and slashes of either kind.
  if (!path.startsWith('/') || /[\0-\x20\x7f#\\]|%(?:[01][0-9a-f]|7f|2f|5c)/i.test(path))
    return { is: 'no-path' };
  if (!path.startsWith(folder)) return { is: 'missing', path: null };
  const found = resolve(`/${path.slice(folder.length).replace(/^\/+/, '')}`, '');
  if (found.in !== 'site') return { is: 'no-path' };
  const asked = found.path;
  const file = locate(inventory, asked);
  if (file === null || !isServed(file, linksOut)) {
    const isUnknown = isBehindClosed(inventory, asked);
    return { is: 'missing', path: isUnknown ? null : asked };
  }
  if (file === asked || asked === '' || asked.endsWith('/')) return { is: 'file', path: file };
  const query = queries.length > 0 ? `?${queries.join('?')}` : '';
  return { is: 'folder', to: `${folder}${asAddress(asked)}/${query}` };
}

function isServed(path: string, linksOut: ReadonlyMap<string, string>): boolean {
  const steps = path.split('/');
  return !isHidden(path) && !steps.some((_step, index) => linksOut.has(steps.slice(0, index + 1).join('/')));
}

/** True where a name starts with a dot, but for what is there to be asked for (RFC 8615), and for the settings. */
export function isHidden(path: string): boolean {
  const isDotted = (step: string, index: number) =>
    step.startsWith('.') && !(index === 0 && step === WELL_KNOWN);
  return path === SETTINGS_FILE || path.split('/').some(isDotted);
}

const WELL_KNOWN = '.well-known';

/** A site path as it stands in an address (URL standard, path percent-encode set, and more). */
export function asAddress(path: string): string {
  return path.split('/').map(encodeURIComponent).join('/');
}
