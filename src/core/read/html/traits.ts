/** What a look at the name of an element or attribute tells, so that most tags are done without reading it. */
import { Byte } from '../../bytes.ts';
import { htmlHolders } from './holders.ts';
import { elements } from './names.ts';
import { expected } from './near-misses.ts';
import { changesReading } from './quick-rules.ts';

/** What an element number alone tells, so that most tags are done after one look. */
export const enum Trait {
  /** Its attributes hold addresses. */
  Holder = 1,
  /** Its references carry the attributes that change how they load. */
  Loader = 2,
  /** Slips in the names of its attributes are noted. */
  Watched = 4,
  /** It says something of the page. */
  Singular = 8,
  WantsHref = 16,
  WantsSrc = 32,
}

const loaders = new Set<string>(['audio', 'iframe', 'img', 'link', 'script', 'source', 'track', 'video']);
const singular = new Set<string>(['a', 'base', 'html', 'meta', 'style']);

export const traitsOf = new Uint8Array(elements.names.length + 1);
for (const [number, held] of htmlHolders.entries()) if (held !== undefined) traitsOf[number] = Trait.Holder;
for (const [index, name] of elements.names.entries()) {
  let traits = traitsOf[index + 1] as number;
  if (loaders.has(name)) traits |= Trait.Loader;
  if (singular.has(name)) traits |= Trait.Singular;
  const wanted = expected[name];
  if (wanted !== undefined) traits |= Trait.Watched;
  if (wanted?.includes('href')) traits |= Trait.WantsHref;
  if (wanted?.includes('src')) traits |= Trait.WantsSrc;
  traitsOf[index + 1] = traits;
}

/** What elements of a given length and first letter may need: most tags are done after a look at this table. */
export const enum Shape {
  ChangesReading = 1,
  HasTraits = 2,
  Any = 3,
}

const shapes = new Uint8Array(32 * 32);
for (const [index, name] of elements.names.entries()) {
  const shape = (name.length << 5) | (name.charCodeAt(0) & 31);
  const needs =
    (changesReading(index + 1) ? Shape.ChangesReading : 0) |
    (traitsOf[index + 1] !== 0 ? Shape.HasTraits : 0);
  shapes[shape] = (shapes[shape] as number) | needs;
}

/** What an element whose name stands at `[start, end)` may need. */
export function shapeOf(bytes: Uint8Array, start: number, end: number): number {
  const length = end - start;
  return length < 32 ? (shapes[(length << 5) | ((bytes[start] as number) & 31)] as number) : 0;
}

/** A look at length and first letter that tells most others. */
export function maybeIdOrStyle(bytes: Uint8Array, start: number, end: number): boolean {
  return end - start === 2 || (end - start === 5 && ((bytes[start] as number) | Byte.Small) === Byte.S);
}

/** No attribute that is read has five letters that begin with `cl` or `ti`. */
export function isClassOrTitle(bytes: Uint8Array, start: number, end: number): boolean {
  if (end - start !== 5) return false;
  const first = (bytes[start] as number) | Byte.Small;
  const second = (bytes[start + 1] as number) | Byte.Small;
  return (first === Byte.C && second === Byte.L) || (first === Byte.T && second === Byte.I);
}

/** True for `onclick` and its like: every name that begins so is that of an event handler (HTML 8.1.8.1). */
export function isHandler(bytes: Uint8Array, start: number, end: number): boolean {
  return (
    end - start > 4 &&
    ((bytes[start] as number) | Byte.Small) === Byte.O &&
    ((bytes[start + 1] as number) | Byte.Small) === Byte.N
  );
}
