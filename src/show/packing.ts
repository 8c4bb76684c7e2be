/** What was packed, and what stayed: as text. */

import type { PackedCopy } from '../core/packing/pack.ts';
import { withCommas } from '../core/with-commas.ts';
import { visible } from './escape.ts';
import { count, type Paint, shortList, wrap } from './paint.ts';

export interface Packing {
  readonly to: string;
  readonly files: number;
  /** The size of what lies there; null where nothing was written. */
  readonly bytes: number | null;
  readonly copy: PackedCopy;
  /** What stays, by the reason. */
  readonly left: ReadonlyMap<string, readonly string[]>;
  /** Findings that the check fails for. */
  readonly failing: number;
}

interface Room {
  readonly paint: Paint;
  readonly columns: number;
  /** Lines of what is left out at most. */
  readonly most: number;
}

export function packingAsText(packing: Packing, { paint, columns, most }: Room): string {
  const lines: string[] = [];
  const left = [...packing.left].flatMap(([why, paths]) =>
    [...paths].sort().map((path) => [path, why] as const),
  );
  const width = left
    .slice(0, most)
    .reduce((wide, [path]) => Math.min(40, Math.max(wide, visible(path).length)), 0);
  for (const [path, why] of left.slice(0, most))
    lines.push(`${paint.dim('left out')}  ${visible(path).padEnd(width)}  ${paint.dim(why)}`);
  if (left.length > most)
    lines.push(paint.dim(`${paint.marks.more} and ${count(left.length - most, 'more')}`));
  if (left.length > 0) lines.push('');
  const changed = changesOf(packing.copy);
  for (const [what, words] of changed) {
    const [first = '', ...rest] = wrap(words, columns - 10);
    lines.push(`${paint.dim(what.padEnd(8))}  ${first}`, ...rest.map((line) => `          ${line}`));
  }
  if (changed.length > 0) lines.push('');
  if (packing.failing > 0)
    lines.push(
      paint.yellow(`The check fails for ${count(packing.failing, 'finding')}: packed all the same.`),
    );
  const size = packing.bytes === null ? '' : `, ${withCommas(packing.bytes)} bytes`;
  const verb = packing.bytes === null ? 'Would pack' : 'Packed';
  lines.push(`${verb} ${count(packing.files, 'file')} into ${visible(packing.to)}${size}.`);
  return `${lines.join('\n')}\n`;
}

/** Names that are shown at most. */
const MOST_NAMED = 3;

function changesOf({
  swapped,
  readable,
  shrunk,
  rebased,
  unsure,
  told,
  renamed,
  published,
}: PackedCopy): [string, string][] {
  const changes: [string, string][] = [];
  if (swapped > 0) {
    const stays = readable.length > 0 ? `; left out: ${shortList(readable, MOST_NAMED)}` : '';
    changes.push(['swapped', `${count(swapped, 'reference')} to minified builds${stays}`]);
  }
  if (shrunk !== null) {
    changes.push(['shrunk', `${count(shrunk.files, 'file')}, ${withCommas(shrunk.saved)} bytes saved`]);
    for (const [path, why] of shrunk.left) changes.push(['as it is', `${visible(path)}: ${visible(why)}`]);
  }
  if (rebased !== null && rebased > 0 && published !== null)
    changes.push(['moved', `${count(rebased, 'address', 'addresses')} to ${visible(published.folder)}`]);
  for (const { file, line, written } of unsure.slice(0, MOST_NAMED))
    changes.push([
      'look at',
      `${visible(file)} ${line}  "${visible(written)}": nobody can tell whether it is an address`,
    ]);
  if (unsure.length > MOST_NAMED)
    changes.push(['', `and ${count(unsure.length - MOST_NAMED, 'more string')}`]);
  if (told !== null) {
    const words = [
      told.canonical > 0 ? `the address of ${count(told.canonical, 'page')}` : '',
      told.pictures > 0 ? `whole addresses of ${count(told.pictures, 'picture')}` : '',
      ...told.made,
    ].filter((word) => word !== '');
    if (words.length > 0) changes.push(['added', words.join(', ')]);
  }
  if (renamed.size > 0) changes.push(['named', `${count(renamed.size, 'file')} by content`]);
  return changes;
}
