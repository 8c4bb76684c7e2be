/** Reports as pieces, so that none of them is ever held as a whole: it may be longer than a text can be. */
import { asJson } from './escape.ts';

/** Characters that are worth a call to the system. */
const CHUNK = 1 << 16;

/** The same text in pieces of a good size. */
export function* inChunks(pieces: Iterable<string>): Iterable<string> {
  let waiting: string[] = [];
  let length = 0;
  for (const piece of pieces) {
    waiting.push(piece);
    length += piece.length;
    if (length < CHUNK) continue;
    yield waiting.join('');
    waiting = [];
    length = 0;
  }
  if (length > 0) yield waiting.join('');
}

/** A list whose members are made one after the other, when they are written. */
export class Lazy<T> {
  constructor(readonly members: () => Iterable<T>) {}
}

/**
 * The lines that `JSON.stringify` with an indent of two gives, piece by piece: {@link Lazy} lists and what they stand
 * in are never put together.
 */
export function* jsonPieces(value: unknown, indent = ''): Iterable<string> {
  if (value instanceof Lazy) return yield* listPieces(value.members(), indent, wholePieces);
  if (!holdsLazy(value)) return yield* wholePieces(value, indent);
  if (Array.isArray(value)) return yield* listPieces(value, indent, jsonPieces);
  let start = '{';
  for (const [key, member] of Object.entries(value as object)) {
    if (member === undefined) continue;
    yield `${start}\n${indent}  ${asJson(key)}: `;
    yield* jsonPieces(member, `${indent}  `);
    start = ',';
  }
  yield `\n${indent}}`;
}

type PiecesOf = (value: unknown, indent: string) => Iterable<string>;

function* wholePieces(value: unknown, indent: string): Iterable<string> {
  yield asJson(value, 2).replaceAll('\n', `\n${indent}`);
}

function* listPieces(members: Iterable<unknown>, indent: string, piecesOf: PiecesOf): Iterable<string> {
  let start = '[';
  for (const member of members) {
    yield `${start}\n${indent}  `;
    yield* piecesOf(member, `${indent}  `);
    start = ',';
  }
  yield start === '[' ? '[]' : `\n${indent}]`;
}

function holdsLazy(value: unknown): boolean {
  if (value === null || typeof value !== 'object') return false;
  return Object.values(value).some((member) => member instanceof Lazy || holdsLazy(member));
}
