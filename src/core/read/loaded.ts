/** Which references a browser loads with the page, as against those that a visitor follows. */
import type { Kind, Reference } from './reading.ts';

const loaded: ReadonlySet<Kind> = new Set<Kind>([
  'stylesheet',
  'script',
  'module',
  'image',
  'font',
  'media',
  'frame',
  'icon',
  'manifest',
]);

export function isLoaded({ kind }: Pick<Reference, 'kind'>): boolean {
  return loaded.has(kind);
}

/** True for what leads to a page: a visitor follows it, or a frame shows it. */
export function leadsToPage({ kind }: Pick<Reference, 'kind'>): boolean {
  return kind === 'page' || kind === 'anchor' || kind === 'frame';
}
