/** Reads the JSON that pages hold or name: import maps, speculation rules, web app manifests. */
import { type Expression, parseExpressionAt } from 'acorn';
import { emptyReading } from '../empty.ts';
import { holderOf } from '../holder.ts';
import { byteOffsets } from '../offsets.ts';
import type { ImportMap, Kind, Reading, Reference } from '../reading.ts';
import type { Source } from '../source.ts';
import { jsonFault } from './json-fault.ts';

/** A JSON value with its place; objects keep the last of two equal keys (ECMA-404 leaves it open, JSON.parse does so). */
type Json =
  | { readonly is: 'object'; readonly members: ReadonlyMap<string, Json> }
  | { readonly is: 'array'; readonly items: readonly Json[] }
  | { readonly is: 'string'; readonly value: string; readonly start: number; readonly end: number }
  | { readonly is: 'other' };

const OTHER: Json = { is: 'other' };

/** Positions are UTF-16 offsets in `text`, of strings without their quotes. Throws SyntaxError for what is no JSON. */
function parseJson(text: string): Json {
  JSON.parse(text);
  // JSON is a part of ECMAScript, and its parser tells positions.
  return convert(
    parseExpressionAt(text, /^[\t\n\r \uFEFF]*/.exec(text)?.[0].length ?? 0, { ecmaVersion: 'latest' }),
  );
}

function convert(node: Expression): Json {
  switch (node.type) {
    case 'ObjectExpression': {
      const members = new Map<string, Json>();
      for (const property of node.properties) {
        if (property.type !== 'Property' || property.key.type !== 'Literal') continue;
        members.set(String(property.key.value), convert(property.value as Expression));
      }
      return { is: 'object', members };
    }
    case 'ArrayExpression':
      return { is: 'array', items: node.elements.map((element) => convert(element as Expression)) };
    case 'Literal':
      if (typeof node.value !== 'string') return OTHER;
      return { is: 'string', value: node.value, start: node.start + 1, end: node.end - 1 };
    default:
      return OTHER;
  }
}

/** Where to look for addresses in a JSON file: the path to them (`*` for every member or item), and what they are for. */
interface AddressRule {
  readonly path: readonly string[];
  readonly kind: Kind;
}

/** The addresses in a JSON source, by rules; a source that is no JSON is a fault. */
function readJson(source: Source, encoding: string, holder: string, rules: readonly AddressRule[]): Reading {
  const text = source.text(0, source.bytes.length);
  let json: Json;
  try {
    json = parseJson(text.replace(/^\uFEFF/, ' '));
  } catch {
    const { start, end, detail } = jsonFault(text.replace(/^\uFEFF/, ' '));
    const offsetOf = byteOffsets(source, text);
    const offset = offsetOf(start);
    const fault = { code: 'json-does-not-parse' as const, offset, length: offsetOf(end) - offset, detail };
    return { ...emptyReading(encoding), faults: [fault] };
  }
  const offsetOf = byteOffsets(source, text);
  const references: Reference[] = [];
  for (const { path, kind } of rules) {
    for (const { value, start, end } of stringsAt(json, path)) {
      const offset = offsetOf(start);
      const name = path.filter((step) => step !== '*').join('.');
      references.push({
        kind,
        holder: holderOf('json', holder, name),
        offset,
        length: offsetOf(end) - offset,
        written: value,
        from: 'file',
        standing: null,
      });
    }
  }
  references.sort((a, b) => a.offset - b.offset);
  return { ...emptyReading(encoding), references };
}

function* stringsAt(json: Json, [step, ...rest]: readonly string[]): Generator<Json & { is: 'string' }> {
  if (step === undefined) {
    if (json.is === 'string') yield json;
  } else if (json.is === 'array' && step === '*') {
    for (const item of json.items) yield* stringsAt(item, rest);
  } else if (json.is === 'object') {
    for (const [key, value] of json.members) if (step === '*' || step === key) yield* stringsAt(value, rest);
  }
}

/** An import map (HTML 8.1.6): the addresses that specifiers stand for. */
export function readImportMap(source: Source): Reading {
  return readJson(source, 'utf-8', 'importmap', [
    { path: ['imports', '*'], kind: 'module' },
    { path: ['scopes', '*', '*'], kind: 'module' },
  ]);
}

/** An import map (HTML 8.1.6.2, parse an import map string); null where it cannot be parsed. */
export function importMapOf(text: string): ImportMap | null {
  try {
    const map: unknown = JSON.parse(text);
    const scopes = Object.entries(member(map, 'scopes')).map(
      ([key, value]) => [key, addressesIn(value)] as const,
    );
    return { imports: addressesIn(member(map, 'imports')), scopes: new Map(scopes) };
  } catch {
    return null;
  }
}

function member(value: unknown, name: string): object {
  const found: unknown = (value as Record<string, unknown> | null)?.[name];
  return found !== null && typeof found === 'object' ? found : {};
}

function addressesIn(value: unknown): ReadonlyMap<string, string> {
  const entries = value !== null && typeof value === 'object' ? Object.entries(value) : [];
  return new Map(entries.filter((entry): entry is [string, string] => typeof entry[1] === 'string'));
}

/** Speculation rules (HTML 7.6.2): pages to fetch or render ahead. */
export function readAddressList(source: Source): Reading {
  return readJson(source, 'utf-8', 'speculationrules', [
    { path: ['prefetch', '*', 'urls', '*'], kind: 'page' },
    { path: ['prerender', '*', 'urls', '*'], kind: 'page' },
  ]);
}

/** A web app manifest: the members that are addresses, relative to the manifest. */
export function readManifestSource(source: Source, encoding: string): Reading {
  return readJson(source, encoding, 'manifest', [
    { path: ['start_url'], kind: 'page' },
    { path: ['icons', '*', 'src'], kind: 'icon' },
    { path: ['screenshots', '*', 'src'], kind: 'image' },
    { path: ['shortcuts', '*', 'url'], kind: 'page' },
    { path: ['shortcuts', '*', 'icons', '*', 'src'], kind: 'icon' },
    { path: ['share_target', 'action'], kind: 'page' },
    { path: ['file_handlers', '*', 'action'], kind: 'page' },
  ]);
}
