/** Reads JavaScript: the addresses that it imports, fetches or starts, and strings that look like paths. */
import {
  type CallExpression,
  type Expression,
  type Literal,
  type NewExpression,
  type Node,
  type Program,
  parseExpressionAt,
} from 'acorn';
import { askedForExtensions } from '../site/formats.ts';
import { detach } from './detach.ts';
import { emptyReading } from './empty.ts';
import { holderOf } from './holder.ts';
import { byteOffsets } from './offsets.ts';
import type { Hint, Kind, Reading, Reference } from './reading.ts';
import { isTooDeep } from './script/depth.ts';
import { eachNode, parseScript } from './script/parse.ts';
import { type PlainString, plainStrings } from './script/strings.ts';
import type { Source } from './source.ts';

/** Code without which a script holds no address: words followed by what makes them more than words. */
const CANDIDATES =
  /\b(?:import|export)\b\s*(?:[{*("'`]|\/[/*]|[\w$\u0080-\uffff]+\s*(?:,|from\b))|\b(?:fetch|Worker|importScripts|register)\s*\(\s*(?:["'`]|\/[/*])|import\.meta/;
/** A string that ends in the extension of a file that sites hold. */
const ENDING = `\\.(?:${askedForExtensions.join('|')})`;
const HINT = new RegExp(`["'\`][^"'\`\\n\\\\]{0,200}${ENDING}(?:[?#][^"'\`\\n]*)?["'\`]`, 'i');
const HINT_VALUE = new RegExp(
  `^(?![a-z][a-z0-9+.-]*:|//)(?:[^\\s"'\`<>{}|\\\\^*]|[ ](?=[^\\s]))*[^\\s/"'\`<>{}|\\\\^*.][^\\s/"'\`<>{}|\\\\^*]*${ENDING}(?:[?#].*)?$`,
  'i',
);

/** The folders that a string begins with, where what follows is the start of a name or is put in (ECMA-262 13.2.8). */
const FOLDER = /["'`]((?:\.{0,2}\/){0,8}(?:(?!\.{1,2}\/)[\w.-]{1,80}\/){1,8})[\w-]{0,80}(?:["'`]|\$\{)/g;

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
  const strings = text.length > LONGEST_KEPT * 4 ? plainStrings(text) : null;
  if (strings !== null) return { ...emptyReading(encoding), hints: stringHints(text, strings, source) };
  return { ...readCode(source, text, encoding, isModule), folders: foldersIn(text) };
}

/** Whatever else stands around them: folders in comments do no harm. */
function foldersIn(text: string): string[] {
  return [...new Set(Array.from(text.matchAll(FOLDER), ([, folder = '']) => detach(folder)))];
}

function readCode(source: Source, text: string, encoding: string, isModule: boolean): Reading {
  // Large libraries without a candidate are not parsed at all: 2 ms instead of 60 for 300 kB.
  const hasCandidate = CANDIDATES.test(text);
  if (!hasCandidate && !HINT.test(text)) return emptyReading(encoding);
  const offsetOf = byteOffsets(source, text);
  if (!hasCandidate && text.length > LARGE)
    return { ...emptyReading(encoding), hints: quotedHints(text, offsetOf) };
  const tooDeep: Reading = {
    ...emptyReading(encoding),
    faults: [{ code: 'too-deep', offset: 0, length: 0, detail: '' }],
  };
  if (isTooDeep(text)) return tooDeep;
  try {
    return { ...emptyReading(encoding), ...collect(parseScript(text, isModule), offsetOf) };
  } catch (error) {
    const { pos = 0, message } = error as SyntaxError & { pos?: number };
    // The parser has words of its own for a stack that ends.
    if (error instanceof RangeError || message.includes('stack space')) return tooDeep;
    const offset = offsetOf(pos);
    const length = offsetOf(Math.min(pos + 1, text.length)) - offset;
    const isOver = pos >= text.trimEnd().length;
    const said = message.charAt(0).toLowerCase() + message.slice(1).replace(/ \(\d+:\d+\)$/, '');
    const detail = isOver ? 'it ends before it is complete' : said;
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
    return [{ written, offset, length: offsetOf(end - 1) - offset }];
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
    hints.push({ written, offset, length: offsetOf(match.index + 1 + written.length) - offset });
  }
  return hints;
}

function collect(
  program: Program,
  offsetOf: (position: number) => number,
): Pick<Reading, 'references' | 'hints'> {
  const found: { literal: Literal; kind: Kind; holder: string; from: Reference['from'] }[] = [];
  const literals: Literal[] = [];
  const add = (
    node: Expression | null | undefined,
    kind: Kind,
    holder: string,
    from: Reference['from'] = 'file',
  ) => {
    const literal = literalOf(node);
    if (literal !== null) found.push({ literal, kind, holder, from });
  };
  eachNode(program, (node) => {
    if (node.type === 'Literal' || node.type === 'TemplateLiteral') {
      const literal = literalOf(node as Expression);
      if (literal !== null) literals.push(literal);
    } else visit(node, add);
  });
  const taken = new Set(found.map(({ literal }) => literal.start));
  const span = ({ start, end }: Literal) => {
    const offset = offsetOf(start + 1);
    return { offset, length: offsetOf(end - 1) - offset };
  };
  const byStart = (a: Literal, b: Literal) => a.start - b.start;
  const references = found
    .sort((a, b) => byStart(a.literal, b.literal))
    .map(({ literal, kind, holder, from }) => ({
      kind,
      holder: holderOf('script', '', holder),
      ...span(literal),
      written: literal.value as string,
      from,
      standing: null,
    }));
  const hints: Hint[] = literals
    .sort(byStart)
    .filter(({ start, value }) => !taken.has(start) && isHint(value as string))
    .map((literal) => ({ ...span(literal), written: literal.value as string }));
  return { references, hints };
}

type Add = (
  node: Expression | null | undefined,
  kind: Kind,
  holder: string,
  from?: Reference['from'],
) => void;

function visit(node: Node, add: Add): void {
  switch (node.type) {
    case 'ImportDeclaration':
    case 'ExportNamedDeclaration':
    case 'ExportAllDeclaration':
      return add(
        (node as Node & { source?: Literal | null }).source,
        'module',
        node.type === 'ImportDeclaration' ? 'import' : 'export from',
      );
    case 'ImportExpression':
      return add((node as Node & { source: Expression }).source, 'module', 'import()');
    case 'NewExpression':
      return visitNew(node as NewExpression, add);
    case 'CallExpression':
      return visitCall(node as CallExpression, add);
    default:
  }
}

function visitNew({ callee, arguments: [first, second] }: NewExpression, add: Add): void {
  if (callee.type !== 'Identifier') return;
  const address = first as Expression | undefined;
  if (callee.name === 'URL' && isImportMetaUrl(second)) add(address, 'data', 'new URL()');
  if (callee.name === 'Worker' || callee.name === 'SharedWorker')
    add(address, 'script', `new ${callee.name}()`, 'page');
}

function visitCall({ callee, arguments: all }: CallExpression, add: Add): void {
  const address = all[0] as Expression | undefined;
  if (callee.type === 'Identifier') {
    if (callee.name === 'fetch') add(address, 'data', 'fetch()', 'page');
    if (callee.name === 'importScripts')
      for (const each of all) add(each as Expression, 'script', 'importScripts()');
  } else if (callee.type === 'MemberExpression' && callee.property.type === 'Identifier') {
    const { object, property } = callee;
    const owner = object.type === 'Identifier' ? object.name : '';
    if (property.name === 'fetch' && /^(?:window|self|globalThis)$/.test(owner))
      add(address, 'data', 'fetch()', 'page');
    const onWorker =
      object.type === 'MemberExpression' &&
      object.property.type === 'Identifier' &&
      object.property.name === 'serviceWorker';
    if (property.name === 'register' && onWorker) add(address, 'script', 'serviceWorker.register()', 'page');
  }
}

function isImportMetaUrl(node: Node | undefined): boolean {
  if (node?.type !== 'MemberExpression') return false;
  const { object, property } = node as Node & { object: Node; property: Node & { name?: string } };
  return object.type === 'MetaProperty' && property.name === 'url';
}

/** A string, or a template without substitutions, as a literal; null for everything else. */
function literalOf(node: Expression | null | undefined): Literal | null {
  if (node?.type === 'Literal') return typeof node.value === 'string' ? node : null;
  if (node?.type !== 'TemplateLiteral' || node.expressions.length > 0) return null;
  const value = node.quasis[0]?.value.cooked;
  return typeof value === 'string'
    ? { type: 'Literal', value, raw: '', start: node.start, end: node.end }
    : null;
}
