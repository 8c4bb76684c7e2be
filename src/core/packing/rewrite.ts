/** Writes addresses of a whole site anew, each file in its own encoding, and every other byte as it is. */
import { applyEdits, type Edit } from '../change/edit.ts';
import type { Files } from '../change/files.ts';
import { isBareSpecifier } from '../check/judged.ts';
import { addressEdit } from '../moving/address-edit.ts';
import { baseReference } from '../moving/base-reference.ts';
import type { Reference } from '../read/reading.ts';
import { syntaxOf } from '../read/written-as.ts';
import { type FileRead, readingsIn, startsElsewhere } from './readings.ts';

/** A reference of a file, and what it starts from. */
export interface Spot {
  readonly file: string;
  readonly reference: Reference;
  /** Site path; null where it lies outside of the site, and where it is that of the pages that run a script. */
  readonly base: string | null;
}

/**
 * The address of a page's own base element is asked for like any other. `look` sees each file before. Gives how many
 * references were written anew.
 */
export function rewriteAddresses(
  files: Files,
  anew: (spot: Spot) => string | null,
  look: (read: FileRead) => void = () => {},
): number {
  let amount = 0;
  for (const read of readingsIn(files)) {
    look(read);
    const { file, bytes, reading } = read;
    const edits = editsFor(read, anew);
    amount += edits.length;
    if (edits.length > 0) files.write(file, applyEdits(bytes, edits, reading.encoding, syntaxOf(file)));
  }
  return amount;
}

function editsFor({ file, bytes, reading, base }: FileRead, anew: (spot: Spot) => string | null): Edit[] {
  const edits: Edit[] = [];
  const take = (reference: Reference, start: string | null) => {
    const address = anew({ file, reference, base: start });
    const edit = address === null ? null : addressEdit(bytes, reading.encoding, reference, address);
    if (edit !== null) edits.push(edit);
  };
  for (const reference of reading.references)
    if (!isBareSpecifier(reference)) take(reference, startsElsewhere(reference, reading) ? null : base);
  const own = reading.base === null ? null : baseReference(file, bytes);
  if (own !== null) take(own, file);
  return edits;
}
