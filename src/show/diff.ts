/** A change as a unified diff. */
import { createTwoFilesPatch, FILE_HEADERS_ONLY } from 'diff';
import { areEqual, type Change, type FileChange, toldOf } from '../core/change/files.ts';
import { decoderFor } from '../core/read/encoding.ts';
import { encodingOf } from '../core/read/written-as.ts';
import { isBinary } from '../core/site/formats.ts';
import { visible } from './escape.ts';
import { count, type Paint } from './paint.ts';

/** New files longer than this, such as libraries, are named and not shown. */
const LONGEST_SHOWN = 400;
const NOWHERE = '/dev/null';
/** Lines shown around what differs. */
const CONTEXT = 3;
/** Lines that may differ before a file is shown without those that stay between them. */
const MOST_LINES = 1000;

export function changeAsDiff({ files, folders }: Change, paint: Paint): string {
  const made = folders.map((path) => `new folder ${visible(path)}\n`);
  const byPath = new Map(files.map((file) => [file.path, file]));
  const shown = toldOf(files).map((file) => {
    const old = file.from === undefined ? undefined : byPath.get(file.from);
    return old === undefined ? fileAsDiff(file, paint) : movedAsDiff(file, old, paint);
  });
  return [...made, ...shown].join('');
}

/** A file at its new path, with what is another in it. */
function movedAsDiff({ path, after }: FileChange, old: FileChange, paint: Paint): string {
  const head = `${paint.bold(`moved file ${visible(old.path)} ${paint.marks.step} ${visible(path)}`)}\n`;
  return areEqual(old.before, after) ? head : head + fileAsDiff({ path, before: old.before, after }, paint);
}

function fileAsDiff({ path, before, after }: FileChange, paint: Paint): string {
  const [old, now] = [textOf(path, before), textOf(path, after)];
  const name = visible(path);
  if (old === null || now === null || (before === null && isLong(now))) {
    const verb = before === null ? 'new' : after === null ? 'removed' : 'changed';
    return `${paint.bold(`${verb} file ${name}`)}, ${count((after ?? before)?.length ?? 0, 'byte')}\n`;
  }
  const names = [before === null ? NOWHERE : path, after === null ? NOWHERE : path] as const;
  const options = { context: CONTEXT, headerOptions: FILE_HEADERS_ONLY, maxEditLength: MOST_LINES };
  // What differs in very many lines is shown as gone and come, without looking for what they share.
  const patch = createTwoFilesPatch(...names, old, now, '', '', options) ?? wholePatch(...names, old, now);
  return patch
    .split('\n')
    .map((line) => paintLine(line, paint))
    .join('\n');
}

/** A patch of one piece: all lines between the first that differs and the last one. */
function wholePatch(oldName: string, newName: string, old: string, now: string): string {
  const [before, after] = [old.split('\n'), now.split('\n')];
  const shorter = Math.min(before.length, after.length);
  let start = 0;
  while (start < shorter && before[start] === after[start]) start++;
  let end = 0;
  while (end < shorter - start && before.at(-1 - end) === after.at(-1 - end)) end++;
  const first = Math.max(0, start - CONTEXT);
  const last = Math.max(0, end - CONTEXT);
  const lines = [
    ...before.slice(first, start).map((line) => ` ${line}`),
    ...before.slice(start, before.length - end).map((line) => `-${line}`),
    ...after.slice(start, after.length - end).map((line) => `+${line}`),
    ...before.slice(before.length - end, before.length - last).map((line) => ` ${line}`),
  ];
  const span = (all: readonly string[]) => `${first + 1},${all.length - last - first}`;
  return `--- ${oldName}\n+++ ${newName}\n@@ -${span(before)} +${span(after)} @@\n${lines.join('\n')}\n`;
}

function paintLine(line: string, paint: Paint): string {
  // The carriage return of a line that ends in both would only move the cursor.
  const text = line.endsWith('\r') ? `${shown(line.slice(0, -1))}\r` : shown(line);
  if (/^(?:---|\+\+\+) /.test(line)) return paint.bold(text);
  if (line.startsWith('@@')) return paint.cyan(text);
  if (line.startsWith('+')) return paint.green(text);
  if (line.startsWith('-')) return paint.red(text);
  return text;
}

function shown(line: string): string {
  return line.split('\t').map(visible).join('\t');
}

function isLong(text: string): boolean {
  return text.length > LONGEST_SHOWN * 80 || text.split('\n').length > LONGEST_SHOWN;
}

/** The text of a file in its own encoding; null for what is no text. */
function textOf(path: string, bytes: Uint8Array | null): string | null {
  if (bytes === null) return '';
  if (isBinary(path)) return null;
  const encoding = encodingOf(path, bytes);
  if (!encoding.startsWith('utf-16') && bytes.subarray(0, 8192).includes(0)) return null;
  return decoderFor(encoding).decode(bytes);
}
