/** The mend that leads a reference to another target. */
import type { Mend } from '../report.ts';
import type { SiteView, Subject } from '../resolve/subject.ts';
import { folderOf } from '../site/inventory.ts';
import { segmentsTo, walk } from '../site/walk.ts';
import { addressFor, withEncodedQuery } from './address.ts';
import type { Candidate } from './candidates.ts';

/** Null for what starts from outside of the site: it leads to no file of it. */
export function mendTo(
  candidate: Candidate,
  { file, reference, base }: Pick<Subject, 'file' | 'reference' | 'base'>,
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
