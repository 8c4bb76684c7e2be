/** The mend that leads a reference to another target. */
import type { Reference } from '../read/reading.ts';
import type { Mend } from '../report.ts';
import { folderOf, type Inventory } from '../site/inventory.ts';
import { segmentsTo, walk } from '../site/walk.ts';
import { addressFor } from './address.ts';
import type { Candidate } from './candidates.ts';

/** `start`: the folder that addresses of the file start from. */
export function mendTo(
  candidate: Candidate,
  reference: Reference,
  file: string,
  start: string,
  inventory: Inventory,
): Mend {
  const { offset, length } = reference;
  const own = candidate.relative ? folderOf(file) : start;
  const text = addressFor(reference, own, candidate);
  const folder = text.startsWith('/') ? '' : own;
  return {
    sure: candidate.sure,
    title: `write ${text}`,
    target: candidate.path,
    walk: walk(inventory, folder, segmentsTo(folder, candidate.path)),
    edits: [{ file, start: offset, end: offset + length, text }],
  };
}
