/** What the address rules say, worked out once for each way of writing an address. */

import { type Draft, judgeAddress } from '../judge/drafts.ts';
import { letterCase } from '../judge/rules/letter-case.ts';
import type { Mend } from '../report.ts';
import type { Subject } from '../resolve/subject.ts';
import { folderOf } from '../site/inventory.ts';

/** Good for as long as the files of the site and what they hold stay the same. */
export class Sayings {
  readonly #known = new Map<string, Draft | null>();

  /** The first rule's finding; null where none has anything to say. */
  of(subject: Subject): Draft | null {
    const { file, reference } = subject;
    // What an integrity value promises is a matter of this one reference.
    if (reference.standing?.attributes?.integrity !== undefined) return judgeAddress(subject);
    const key = keyOf(subject);
    let draft = this.#known.get(key);
    if (draft === undefined) {
      draft = judgeAddress(subject);
      this.#known.set(key, draft);
    }
    return draft && movedTo(draft, file, reference.offset);
  }
}

/** All that rules go by. */
function keyOf({ file, base, reference, target, found }: Subject): string {
  const { kind, holder, written, length } = reference;
  const { syntax, element, name, within } = holder;
  const leads =
    target.in === 'elsewhere' ? '' : `${target.folder}\n${target.in === 'site' ? target.path : ''}`;
  // Of an address that leads to the file itself rules may say something else.
  const start = base === null ? null : folderOf(base);
  return `${start}\n${leads}\n${found} ${found === file}\n${kind} ${syntax} ${element} ${name} ${within} ${length}\n${written}`;
}

/** The same finding at another place. */
function movedTo(draft: Draft, file: string, offset: number): Draft {
  const by = offset - draft.offset;
  const mends = draft.mends.map((mend) => ({
    ...mend,
    edits: mend.edits.map(({ start, end, text }) => ({ file, start: start + by, end: end + by, text })),
  }));
  // A page that is named otherwise than it is called means itself where that is plain, as in its navigation.
  const isWay = draft.kind === 'page' || draft.kind === 'anchor';
  const isItself = ({ sure }: Mend) => draft.rule === letterCase.name || (isWay && sure);
  const meant = mends.filter((mend) => mend.target !== file || isItself(mend));
  return { ...draft, file, offset, mends: meant };
}
