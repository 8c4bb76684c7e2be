/** Sources with mistakes in them: pieces cut out, doubled, mixed up with others, and put in where nobody expects them. */
import fc from 'fast-check';
import { TOKENS } from './tokens.ts';

type Change = (bytes: Uint8Array) => Uint8Array;

const part = fc.double({ min: 0, max: 1, noNaN: true });
const change: fc.Arbitrary<Change> = fc.oneof(
  fc.tuple(part, part).map(([at, length]): Change => cutOut(at, length ** 4)),
  fc.tuple(part, part, fc.nat(20)).map(
    ([at, length, times]): Change =>
      (bytes) => {
        const [start, end] = span(bytes, at, length ** 3);
        const piece = bytes.subarray(start, end);
        return Buffer.concat([
          bytes.subarray(0, end),
          ...Array.from({ length: times }, () => piece),
          bytes.subarray(end),
        ]);
      },
  ),
  fc.tuple(part, fc.constantFrom(...TOKENS)).map(([at, token]): Change => putIn(at, Buffer.from(token))),
  fc.tuple(part, fc.uint8Array({ maxLength: 6 })).map(([at, bytes]): Change => putIn(at, bytes)),
  part.map(
    (at): Change =>
      (bytes) =>
        bytes.subarray(0, span(bytes, at, 0)[0]),
  ),
);

function span(bytes: Uint8Array, at: number, length: number): [number, number] {
  const start = Math.floor(at * bytes.length);
  return [start, start + Math.ceil(length * (bytes.length - start))];
}

function cutOut(at: number, length: number): Change {
  return (bytes) => {
    const [start, end] = span(bytes, at, length);
    return Buffer.concat([bytes.subarray(0, start), bytes.subarray(end)]);
  };
}

function putIn(at: number, piece: Uint8Array): Change {
  return (bytes) => {
    const [start] = span(bytes, at, 0);
    return Buffer.concat([bytes.subarray(0, start), piece, bytes.subarray(start)]);
  };
}

/** One of the sources, changed one to eight times. */
export function mutated(sources: readonly Uint8Array[]): fc.Arbitrary<Uint8Array> {
  return fc
    .tuple(fc.constantFrom(...sources), fc.array(change, { minLength: 1, maxLength: 8 }))
    .map(([source, changes]) => changes.reduce((bytes, one) => one(bytes), source));
}
