/** Reads JavaScript: the addresses that it imports, fetches or starts, and strings that look like paths. */
import { type Program, parseExpressionAt } from 'acorn';
import { askedForExtensions } from '../site/formats.ts';
import { detach } from './detach.ts';
import { emptyReading } from './empty.ts';
import { holderOf } from './holder.ts';
import { byteOffsets } from './offsets.ts';
import type { Hint, Reading } from './reading.ts';
import { Addresses, ASKING } from './script/addresses.ts';
import { isTooDeep } from './script/depth.ts';
import { Guesses } from './script/guesses.ts';
import { literalOf } from './script/literal.ts';
import { compiles, eachNode, parseBody, parseScript, saidBy } from './script/parse.ts';
import { type PlainString, plainStrings } from './script/strings.ts';
import type { Source } from './source.ts';

/** A string that ends in the extension of a file that sites hold. */
const ENDING = `\\.(?:${askedForExtensions.join('|')})`;
const HINT = new RegExp(`["'\`][^"'\`\\n\\\\]{0,200}${ENDING}(?:[?#][^"'\`\\n]*)?["'\`]`, 'i');
const HINT_VALUE = new RegExp(
  `^(?![a-z][a-z0-9+.-]*:|//)(?:[^\\s"'\`<>{}|\\\\^*]|[ ](?=[^\\s]))*[^\\s/"'\`<>{}|\\\\^*.][^\\s/"'\`<>{}|\\\\^*]*${ENDING}(?:[?#].*)?$`,
  'i',
);

/** The folders that a string begins with, where what follows is the start of a name or is put in (ECMA-262 13.2.8). */
const FOLDER = /["'`]((?:\.{0,2}\/){0,8}(?:(?!\.{1,2}\/)[\w.-]{1,80}\/){1,8})[\w-]{0,80}(?:["'`]|\$\{)/g;

/** A call with a name and then another string. */
const LOADING = /[\w$]\(\s*(?:"[^"\\\n]*"|'[^'\\\n]*')\s*,\s*\[?\s*["']/;

/** Larger scripts without a candidate are data or libraries: their strings are found without parsing them. */
const LARGE = 200_000;
const EXTENSIONS = new Set(askedForExtensions);

/** True for a string that looks like the path of a file; most others are told by what follows their last dot. */
function isHint(value: string): boolean {
  if (value.length > 300) return false;
  const tail = value.search(/[?#]/);
  const path = tail < 0 ? value : value.slice(0, tail);
  const dot = path.lastIndexOf('.');
  return dot >= 0 && EXTENSIONS.has(path.slice(dot + 1).toLowerCase()) && HINT_VALUE.test(value);
}

/** Pages repeat their inline scripts word for word: readings of short ones are kept. */
const kept = new Map<string, Reading>();
const MOST_KEPT = 64;
const LONGEST_KEPT = 4096;

/** False for an event handler, as it stands in the page, that holds no address: most of them do not. */
export function mayAsk(handler: string): boolean {
  return handler.includes('&') || ASKING.test(handler) || HINT.test(handler);
}

/** Reads what stands in an event handler's attribute: the body of a function. Never throws, and tells no faults. */
export function readHandler(source: Source, encoding: string): Reading {
  const text = source.text(0, source.bytes.length);
  if (isTooDeep(text)) return emptyReading(encoding);
  try {
    return { ...emptyReading(encoding), ...collect(parseBody(text), byteOffsets(source, text)) };
  } catch {
    return emptyReading(encoding);
  }
}

/** Reads a script (ECMA-262); `isModule` where the page loads it as one. Never throws. */
export function readScriptSource(source: Source, encoding: string, isModule: boolean): Reading {
  const text = source.text(0, source.bytes.length);
  if (text.length > LONGEST_KEPT) return readText(source, text, encoding, isModule);
  const key = `${isModule} ${encoding} ${source.decoder.encoding} ${text}`;
  let reading = kept.get(key);
  if (reading === undefined) {
    reading = readText(source, text, encoding, isModule);
    if (kept.size >= MOST_KEPT) kept.clear();
    kept.set(key, reading);
  }
  return reading;
}

function readText(source: Source, text: string, encoding: string, isModule: boolean): Reading {
  // Data is not parsed: 30 ms instead of 700 for a search index of 5 MB.
  const isLong = text.length > LONGEST_KEPT * 4;
  const strings = isLong && !(text.length < LARGE && LOADING.test(text)) ? plainStrings(text) : null;
  if (strings !== null) return { ...emptyReading(encoding), hints: stringHints(text, strings, source) };
  return { ...readCode(source, text, encoding, isModule), folders: foldersIn(text) };
}

/** Whatever else stands around them: folders in comments do no harm. */
function foldersIn(text: string): string[] {
  return [...new Set(Array.from(text.matchAll(FOLDER), ([, folder = '']) => detach(folder)))];
}

function readCode(source: Source, text: string, encoding: string, isModule: boolean): Reading {
  const isAsking = ASKING.test(text);
  const isHinting = HINT.test(text);
  // What asks for nothing is only to be sound: that takes 2 ms instead of 60 for 300 kB.
  const isLarge = !isAsking && text.length > LARGE;
  if (!isAsking && (!isHinting || isLarge) && compiles(text, isModule)) {
    const hints = isHinting ? quotedHints(text, byteOffsets(source, text)) : [];
    return { ...emptyReading(encoding), hints };
  }
  const offsetOf = byteOffsets(source, text);
  const tooDeep: Reading = {
    ...emptyReading(encoding),
    faults: [{ code: 'too-deep', offset: 0, length: 0, detail: '' }],
  };
  if (isTooDeep(text)) return tooDeep;
  try {
    return { ...emptyReading(encoding), ...collect(parseScript(text, isModule), offsetOf) };
  } catch (error) {
    // The parser has words of its own for a stack that ends.
    if (error instanceof RangeError || (error as Error).message.includes('stack space')) return tooDeep;
    const { at, why: detail } = saidBy(error, text);
    const offset = offsetOf(at);
    const length = offsetOf(Math.min(at + 1, text.length)) - offset;
    return { ...emptyReading(encoding), faults: [{ code: 'script-does-not-parse', offset, length, detail }] };
  }
}

/** Whether a browser would run it. Never throws. */
export function parses(source: Source, isModule: boolean): boolean {
  const text = source.text(0, source.bytes.length);
  if (isTooDeep(text)) return true;
  try {
    parseScript(text, isModule);
    return true;
  } catch {
    return false;
  }
}

/** Those of the strings of a script that look like paths. */
function stringHints(text: string, strings: readonly PlainString[], source: Source): Hint[] {
  const offsetOf = byteOffsets(source, text);
  return strings.flatMap(({ start, end, isEscaped }) => {
    const raw = text.slice(start + 1, end - 1);
    const written = isEscaped ? cooked(text.slice(start, end)) : raw;
    if (written === null || !isHint(written)) return [];
    const offset = offsetOf(start + 1);
    return [{ written, offset, length: offsetOf(end - 1) - offset, use: 'piece' }];
  });
}

/** What a string literal with escapes says; null for one that is no string after all. */
function cooked(literal: string): string | null {
  try {
    return literalOf(parseExpressionAt(literal, 0, { ecmaVersion: 'latest' }))?.value as string;
  } catch {
    return null;
  }
}

/** Strings that look like paths, by their quotes alone; those in comments are among them. */
function quotedHints(text: string, offsetOf: (position: number) => number): Hint[] {
  const hints: Hint[] = [];
  for (const match of text.matchAll(new RegExp(HINT.source, 'gi'))) {
    const written = match[0].slice(1, -1);
    if (!isHint(written)) continue;
    const offset = offsetOf(match.index + 1);
    const length = offsetOf(match.index + 1 + written.length) - offset;
    hints.push({ written, offset, length, use: 'piece' });
  }
  return hints;
}

/** What a parsed script asks for, and the strings that look as if it did. */
function collect(
  program: Program,
  offsetOf: (position: number) => number,
): Pick<Reading, 'references' | 'hints' | 'prefixes'> {
  const asked = new Addresses();
  const guesses = new Guesses();
  eachNode(program, (node) => {
    asked.visit(node);
    guesses.visit(node);
  });
  const { addresses, taken } = asked.found();
  const span = (start: number, end: number) => {
    const offset = offsetOf(start);
    return { offset, length: offsetOf(end) - offset };
  };
  const references = addresses.map(({ written, start, end, kind, name, from }) => ({
    kind,
    holder: holderOf('script', '', name),
    ...span(start, end),
    written,
    from,
    standing: null,
  }));
  const hints: Hint[] = guesses.found(taken, isHint).map(({ literal: { start, end, value }, use }) => ({
    ...span(start + 1, end - 1),
    written: value as string,
    use: asked.isForServers(start) ? 'piece' : use,
  }));
  return { references, hints, prefixes: guesses.prefixes };
}
