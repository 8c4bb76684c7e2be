/** Reads a YAML 1.2 file into a checked structure; every error names the file, line and column. */
import { type Document, isMap, isScalar, LineCounter, parseDocument } from 'yaml';
import { type CravelError, fail } from '../errors.ts';
import { type Problem, shape } from './shape.ts';

export interface YamlFile<T> {
  readonly value: T;
  /** An error about the value at `path`, with its line and column. */
  problem(path: readonly string[], message: string): CravelError;
}

/** Parses `text` into `Shape`. Throws a {@link CravelError} for the first problem. */
export function readYaml<T extends object>(text: string, file: string, Shape: new () => T): YamlFile<T> {
  const lines = new LineCounter();
  const document = parseDocument(text, { lineCounter: lines });
  const at = (offset: number) => {
    const { line, col } = lines.linePos(offset);
    return `${file} ${line}:${col}`;
  };
  const [broken] = document.errors;
  if (broken) {
    const [sentence = ''] = broken.message.split(/ at line|\n/);
    throw fail('manifest', at(broken.pos[0]), sentence, 'Correct the YAML there.');
  }
  const problem = (path: readonly string[], message: string) =>
    fail('manifest', at(offsetOf(document, path)), message, 'Correct that line.');
  const { value, problems } = shape(Shape, plainOf(document, at(0)));
  const [first] = problems;
  if (first) throw problem(first.path, first.message);
  return { value, problem };
}

/** Like {@link shape}, for a structure inside a YAML file: its problems name their line. */
export function shapeWithin<T extends object, U>(
  file: YamlFile<U>,
  path: readonly string[],
  Shape: new () => T,
  plain: unknown,
): T {
  const { value, problems } = shape(Shape, plain);
  const [first] = problems as [Problem?];
  if (first) throw file.problem([...path, ...first.path], first.message);
  return value;
}

/** The document as plain values; aliases that would grow without bounds are refused. */
function plainOf(document: Document, place: string): unknown {
  try {
    return document.toJS() ?? {};
  } catch (error) {
    throw fail('manifest', place, (error as Error).message, 'Write it without so many aliases.');
  }
}

function offsetOf(document: Document, path: readonly string[]): number {
  let offset = 0;
  let node: unknown = document.contents;
  for (const key of path) {
    if (!isMap(node)) {
      node = (node as { items?: unknown[] } | null)?.items?.[Number(key)];
      offset = (node as { range?: [number] } | undefined)?.range?.[0] ?? offset;
      continue;
    }
    const pair = node.items.find((item) => isScalar(item.key) && String(item.key.value) === key);
    if (pair === undefined) return offset;
    offset = (pair.key as { range?: [number] }).range?.[0] ?? offset;
    node = pair.value;
  }
  return offset;
}
