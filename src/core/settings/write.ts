/** Writes `cravel.yaml`: a new one, and additions to one that keep all else as it is. */
import { Document, isMap, isScalar, type Pair, parseDocument, stringify, YAMLMap } from 'yaml';
import type { Places, ScriptPlace } from '../site/places.ts';

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
  const document = old === undefined ? new Document({}) : parseDocument(old, { uniqueKeys: false });
  if (old === undefined) document.commentBefore = ' How Cravel sees this project. Every key may be left out.';
  if (site !== '.' && !document.has('site')) document.set('site', site);
  if (Object.keys(places).length > 0 && !document.has('places'))
    document.set('places', flow(document, places));
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
  readonly files: Readonly<Record<string, string>>;
}

/** An entry that is longer gets a line for each of its keys. */
const LONGEST_LINE = 100;

/**
 * The text of `cravel.yaml` with a library set; every line that does not belong to it stays as it is. `text`
 * is empty where there is no file yet.
 */
export function withLibrary(text: string, name: string, entry: LibraryEntry): string {
  const document = parseDocument(text, { uniqueKeys: false });
  const newline = text.includes('\r\n') ? '\r\n' : '\n';
  const shown = Object.fromEntries(
    Object.entries(entry).filter(([, value]) => typeof value === 'string' || Object.keys(value).length > 0),
  );
  const key = stringify(name).trim();
  const oneLine = `${key}: ${stringify(flow(document, shown), LAYOUT).trim()}`;
  const line = (indent: string) => {
    if (oneLine.length <= LONGEST_LINE) return indent + oneLine;
    const rows = Object.entries(shown).map(
      ([field, value]) => `${field}: ${stringify(flowIfNested(document, value), LAYOUT).trim()}`,
    );
    return [`${indent}${key}:`, ...rows.map((row) => `${indent}${indent || '  '}${row}`)].join(newline);
  };
  const contents = document.contents;
  const pair = isMap(contents) ? contents.items.find((item) => keyOf(item) === 'libraries') : undefined;
  const libraries = pair?.value;
  if (isMap(libraries) && !libraries.flow && libraries.items.length > 0) {
    const own = libraries.items.find((item) => keyOf(item) === name);
    if (own !== undefined) {
      const [start = 0] = rangeOf(own.key);
      let [, end = start] = rangeOf(own.value);
      while (/\s/.test(text[end - 1] ?? '')) end--;
      const indent = indentBefore(text, start);
      return text.slice(0, start - indent.length) + line(indent) + text.slice(Math.max(end, start));
    }
    const [start] = rangeOf(libraries.items[0]?.key);
    const [, end = text.length] = rangeOf(libraries.items.at(-1)?.value);
    const indent = indentBefore(text, start ?? 0);
    // A comment behind the last entry stays on its line.
    const rest = text.slice(end);
    const tail = /^[ \t]*(?:#[^\r\n]*)?/.exec(rest)?.[0] ?? '';
    const at = text[end - 1] === '\n' ? end : end + tail.length;
    const head = text.slice(0, at);
    const added = head.endsWith('\n') ? line(indent) + newline : newline + line(indent);
    return head + added + text.slice(at);
  }
  if (isMap(libraries)) {
    document.setIn(['libraries', name], flow(document, shown));
    const node = document.get('libraries') as YAMLMap;
    node.flow = false;
    return document.toString(LAYOUT);
  }
  if (pair !== undefined) {
    const [, end = 0] = rangeOf(pair.key);
    const at = end + (/^[^\r\n]*/.exec(text.slice(end))?.[0].length ?? 0);
    return text.slice(0, at) + newline + line('  ') + text.slice(at);
  }
  const start = text === '' || text.endsWith('\n') ? text : text + newline;
  return `${start}libraries:${newline}${line('  ')}${newline}`;
}

/** The text of `cravel.yaml` without a library; every line that does not belong to it stays as it is. */
export function withoutLibrary(text: string, name: string): string {
  const document = parseDocument(text, { uniqueKeys: false });
  const { contents } = document;
  const pair = isMap(contents) ? contents.items.find((item) => keyOf(item) === 'libraries') : undefined;
  const libraries = pair?.value;
  if (!isMap(contents) || pair === undefined || !isMap(libraries)) return text;
  const entry = libraries.items.find((item) => keyOf(item) === name);
  if (entry === undefined) return text;
  const isLast = libraries.items.length === 1;
  if (libraries.flow && !isLast) {
    document.deleteIn(['libraries', name]);
    return document.toString(LAYOUT);
  }
  const own = isLast ? pair : entry;
  const [start = 0] = rangeOf(own.key);
  const lineStart = text.lastIndexOf('\n', start) + 1;
  const [, valueEnd = start] = rangeOf(own.value);
  // With what stands behind it on its line; a value in block style ends with a line.
  const rest = text[valueEnd - 1] === '\n' ? '' : text.slice(valueEnd);
  const end = valueEnd + (LINE_REST.exec(rest) as RegExpExecArray)[0].length;
  return text.slice(0, lineStart) + text.slice(end);
}

/** What stands behind a value on its line, and the end of that. */
const LINE_REST = /^[^\n]*\n?/;

function indentBefore(text: string, at: number): string {
  return /[ \t]*$/.exec(text.slice(0, at))?.[0] ?? '';
}

function flow(document: Document, value: object) {
  return document.createNode(value, { flow: true });
}

function flowIfNested(document: Document, value: unknown): unknown {
  return value !== null && typeof value === 'object' ? flow(document, value) : value;
}

function keyOf({ key }: Pair): string {
  return isScalar(key) ? String(key.value) : '';
}

function rangeOf(node: unknown): readonly number[] {
  return (node as { range?: readonly number[] } | null)?.range ?? [];
}
