/** A change as a unified diff. */
import { createTwoFilesPatch, FILE_HEADERS_ONLY } from 'diff';
import type { Change, FileChange } from '../core/change/files.ts';
import { decoderFor, type Format, sniffEncoding } from '../core/read/encoding.ts';
import { extensionOf } from '../core/site/inventory.ts';
import { count, type Paint, visible } from './paint.ts';

/** New files longer than this, such as libraries, are named and not shown. */
const LONGEST_SHOWN = 400;
const NO_TEXT = /^(?:woff2?|ttf|otf|eot|png|jpe?g|gif|webp|avif|ico|mp[34]|wav|og[gv]|webm|pdf|zip|gz)$/;
const NOWHERE = '/dev/null';

export function changeAsDiff({ files, folders }: Change, paint: Paint): string {
  const made = folders.map((path) => `new folder ${visible(path)}\n`);
  return [...made, ...files.map((file) => fileAsDiff(file, paint))].join('');
}

function fileAsDiff({ path, before, after }: FileChange, paint: Paint): string {
  const [old, now] = [textOf(path, before), textOf(path, after)];
  const name = visible(path);
  if (old === null || now === null || (before === null && isLong(now))) {
    const verb = before === null ? 'new' : after === null ? 'removed' : 'changed';
    return `${paint.bold(`${verb} file ${name}`)}, ${count((after ?? before)?.length ?? 0, 'byte')}\n`;
  }
  const patch = createTwoFilesPatch(
    before === null ? NOWHERE : path,
    after === null ? NOWHERE : path,
    old,
    now,
    '',
    '',
    { context: 3, headerOptions: FILE_HEADERS_ONLY },
  );
  return patch
    .split('\n')
    .map((line) => paintLine(line, paint))
    .join('\n');
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
  const extension = extensionOf(path);
  if (NO_TEXT.test(extension)) return null;
  const format: Format = /^x?html?$/.test(extension)
    ? 'html'
    : extension === 'css'
      ? 'css'
      : /^(?:svg|xml)$/.test(extension)
        ? 'xml'
        : 'other';
  const encoding = sniffEncoding(bytes, format);
  if (!encoding.startsWith('utf-16') && bytes.subarray(0, 8192).includes(0)) return null;
  return decoderFor(encoding).decode(bytes);
}
