/** The mend that leads a reference to another target. */
import type { Reference } from '../read/reading.ts';
import type { Mend } from '../report.ts';
import type { SiteView } from '../resolve/subject.ts';
import { folderOf } from '../site/inventory.ts';
import { segmentsTo, walk } from '../site/walk.ts';
import { addressFor, withEncodedQuery } from './address.ts';
import type { Candidate } from './candidates.ts';

/** A reference that is to be mended, with what its address starts from. */
export interface Mended {
  readonly file: string;
  readonly reference: Reference;
  /** What it resolves against, as a site path; null where that lies outside of the site. */
  readonly base: string | null;
}

/** Null for what starts from outside of the site: it leads to no file of it. */
export function mendTo(
  candidate: Candidate,
  { file, reference, base }: Mended,
  { inventory, published }: Pick<SiteView, 'inventory' | 'published'>,
): Mend | null {
  if (base === null) return null;
  const { offset, length } = reference;
  const start = folderOf(base);
  const written = withEncodedQuery(reference.written.trim());
  const text = addressFor({ ...reference, written }, start, candidate, published?.folder);
  const folder = text.startsWith('/') ? '' : start;
  return {
    sure: candidate.sure,
    title: `write ${text}`,
    target: candidate.path,
    walk: walk(inventory, folder, segmentsTo(folder, candidate.path)),
    edits: [{ file, start: offset, end: offset + length, text }],
  };
}
