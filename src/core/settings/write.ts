/** Writes `cravel.yaml`: a new one, and additions to one that keep all else as it is. */
import { Document, isMap, isScalar, parseDocument, type Pair, stringify, YAMLMap } from 'yaml';
import type { ScriptPlace } from './settings.ts';
import type { Places } from '../site/places.ts';

const LAYOUT = { lineWidth: 0, flowCollectionPadding: true } as const;

export interface NewSettings {
  readonly site: string;
  readonly places: Places;
  readonly scriptsGo: ScriptPlace | undefined;
  readonly starter: string;
  readonly blanks: Readonly<Record<string, string>>;
}

/** The settings of a project that was just laid out. `old` is a file that the starter brought along. */
export function newSettings({ site, places, scriptsGo, starter, blanks }: NewSettings, old?: string): string {
  const document = old === undefined ? new Document({}) : parseDocument(old);
  if (old === undefined) document.commentBefore = ' How Cravel sees this project. Every key may be left out.';
  if (site !== '.' && !document.has('site')) document.set('site', site);
  if (Object.keys(places).length > 0 && !document.has('places')) document.set('places', flow(document, places));
  if (scriptsGo !== undefined && !document.has('scripts-go')) document.set('scripts-go', scriptsGo);
  document.set('starter', starter);
  document.set('blanks', document.createNode(blanks));
  return document.toString(LAYOUT);
}

/** An entry of `libraries` in `cravel.yaml`; empty lists are left out. */
export interface LibraryEntry {
  readonly folder: string;
  readonly styles: readonly string[];
  readonly scripts: readonly string[];
  readonly release: Readonly<Record<string, string>>;
  readonly provides: readonly string[];
  readonly needs: readonly string[];
}

/**
 * The text of `cravel.yaml` with a library set; every line that does not belong to it stays as it is. `text`
 * is empty where there is no file yet.
 */
export function withLibrary(text: string, name: string, entry: LibraryEntry): string {
  const document = parseDocument(text);
  const newline = text.includes('\r\n') ? '\r\n' : '\n';
  const shown = Object.fromEntries(
    Object.entries(entry).filter(([, value]) => typeof value === 'string' || Object.keys(value).length > 0),
  );
  const value = stringify(flow(document, shown), LAYOUT).trim();
  const line = (indent: string) => `${indent}${stringify(name).trim()}: ${value}`;
  const contents = document.contents;
  const pair = isMap(contents) ? contents.items.find((item) => keyOf(item) === 'libraries') : undefined;
  const libraries = pair?.value;
  if (isMap(libraries) && !libraries.flow && libraries.items.length > 0) {
    const own = libraries.items.find((item) => keyOf(item) === name);
    if (own !== undefined) {
      const [start = 0] = rangeOf(own.key);
      const [, end = start] = rangeOf(own.value);
      return text.slice(0, start) + line('') + text.slice(Math.max(end, start)).replace(/^(?=[^\s])/, newline);
    }
    const [start] = rangeOf(libraries.items[0]?.key);
    const [, end = text.length] = rangeOf(libraries.items.at(-1)?.value);
    const indent = /[ \t]*$/.exec(text.slice(0, start))?.[0] ?? '  ';
    // A comment behind the last entry stays on its line.
    const rest = text.slice(end);
    const tail = /^[ \t]*(?:#[^\r\n]*)?/.exec(rest)?.[0] ?? '';
    const at = text[end - 1] === '\n' ? end : end + tail.length;
    const head = text.slice(0, at);
    const added = head.endsWith('\n') ? line(indent) + newline : newline + line(indent);
    return head + added + text.slice(at);
  }
  if (pair !== undefined) {
    document.setIn(['libraries', name], flow(document, shown));
    const node = document.get('libraries') as YAMLMap;
    node.flow = false;
    return document.toString(LAYOUT);
  }
  const start = text === '' || text.endsWith('\n') ? text : text + newline;
  return `${start}libraries:${newline}${line('  ')}${newline}`;
}

function flow(document: Document, value: object) {
  return document.createNode(value, { flow: true });
}

function keyOf({ key }: Pair): string {
  return isScalar(key) ? String(key.value) : '';
}

function rangeOf(node: unknown): readonly number[] {
  return (node as { range?: readonly number[] } | null)?.range ?? [];
}
