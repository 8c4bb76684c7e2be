/** Reads a YAML 1.2 file into a checked structure; whatever is wrong is told with its file, line and column. */
import {
  type Document,
  isMap,
  isScalar,
  LineCounter,
  type Pair,
  parseDocument,
  visit,
  type YAMLMap,
} from 'yaml';
import { fail, failAt } from '../errors.ts';
import { onceFor } from '../once-for.ts';
import { shape } from './shape.ts';

export interface YamlFile<T> {
  /** What the file says; a key that is wrong has its default. */
  readonly value: T;
  /** Notes what is wrong with the value at `path`. */
  tell(path: readonly string[], message: string): void;
  /** Throws a `CravelError` that lists all that was noted, in the order of the file. */
  done(): void;
}

/** Parses `text` into `Shape`. Throws a `CravelError` where it is no YAML. */
export function readYaml<T extends object>(text: string, file: string, Shape: new () => T): YamlFile<T> {
  const lines = new LineCounter();
  const document = parseDocument(text, { lineCounter: lines, uniqueKeys: false });
  const at = (offset: number) => {
    const { line, col } = lines.linePos(offset);
    return `${file} ${line}:${col}`;
  };
  const [broken] = document.errors;
  if (broken) {
    const [sentence = ''] = broken.message.split(/ at line|\n/);
    throw fail('manifest', at(broken.pos[0]), sentence, 'Correct the YAML there.');
  }
  const twin = twinKeyIn(document);
  if (twin !== null) throw fail('manifest', at(twin), 'Map keys must be unique', 'Correct the YAML there.');
  const { value, problems } = shape(Shape, plainOf(document, at(0)));
  const told: { offset: number; message: string }[] = [];
  const yaml: YamlFile<T> = {
    value,
    tell: (path, message) => void told.push({ offset: offsetOf(document, path), message }),
    done() {
      if (told.length === 0) return;
      told.sort((a, b) => a.offset - b.offset);
      throw failAt(told.map(({ offset, message }) => [at(offset), message]));
    },
  };
  for (const { path, message } of problems) yaml.tell(path, message);
  return yaml;
}

/** Where a key stands again in one map (YAML 1.2.2, 3.2.1.1); null where none does. */
function twinKeyIn(document: Document): number | null {
  let twin: number | null = null;
  visit(document, {
    Map(_key, map) {
      const keys = new Set<unknown>();
      for (const { key } of map.items) {
        if (!isScalar(key)) continue;
        if (keys.has(key.value)) twin ??= key.range?.[0] ?? 0;
        keys.add(key.value);
      }
    },
  });
  return twin;
}

/** Like {@link shape}, for a structure inside a YAML file; null where it is wrong, which is noted. */
export function shapeWithin<T extends object, U>(
  file: YamlFile<U>,
  path: readonly string[],
  Shape: new () => T,
  plain: unknown,
): T | null {
  const { value, problems } = shape(Shape, plain);
  for (const problem of problems) file.tell([...path, ...problem.path], problem.message);
  return problems.length === 0 ? value : null;
}

/** Each alias is looked for in the whole file. */
const MOST_ALIASES = 100;

/** The document as plain values; aliases that would grow without bounds are refused. */
function plainOf(document: Document, place: string): unknown {
  let aliases = 0;
  visit(document, {
    Alias() {
      if (++aliases > MOST_ALIASES) return visit.BREAK;
    },
  });
  if (aliases > MOST_ALIASES)
    throw fail(
      'manifest',
      place,
      `there are more than ${MOST_ALIASES} aliases`,
      'Write it without so many aliases.',
    );
  try {
    return document.toJS() ?? {};
  } catch (error) {
    throw fail('manifest', place, (error as Error).message, 'Write it without so many aliases.');
  }
}

/** The pairs of a map by their keys. */
const pairsOf = onceFor(
  ({ items }: YAMLMap): ReadonlyMap<string, Pair> =>
    new Map(items.flatMap((item) => (isScalar(item.key) ? [[String(item.key.value), item] as const] : []))),
);

function offsetOf(document: Document, path: readonly string[]): number {
  let offset = 0;
  let node: unknown = document.contents;
  for (const key of path) {
    if (!isMap(node)) {
      node = (node as { items?: unknown[] } | null)?.items?.[Number(key)];
      offset = (node as { range?: [number] } | undefined)?.range?.[0] ?? offset;
      continue;
    }
    const pair = pairsOf(node).get(key);
    if (pair === undefined) return offset;
    offset = (pair.key as { range?: [number] }).range?.[0] ?? offset;
    node = pair.value;
  }
  return offset;
}
