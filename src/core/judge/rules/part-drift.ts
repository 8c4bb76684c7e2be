/** part-drift: a page's copy of a part differs from the master on the entry page. */
import type { Page } from '../../page/page.ts';
import { type Master, readMarks } from '../../page/parts.ts';
import { holderOf } from '../../read/holder.ts';
import type { PageRule } from '../rule.ts';

export const partDrift: PageRule = {
  name: 'part-drift',
  grade: 'untidy',
  summary: 'a part differs from its master',
  suffers:
    'The pages of one site differ in what should be the same: a link is on some of them and not on others.',
  wrong: 'a navigation that was changed on one page only',
  right: 'the same navigation on every page, copied from the entry page',
  // Marks that are wrong are put right by hand.
  next: { shown: 'cravel parts', after: ({ target }) => (target === null ? 'cravel parts' : null) },
  judgePage({ file, page, site, masters, open }) {
    if (page.partMarks.length === 0) return [];
    return driftsOf(open(), file, site.entry, masters).map(({ part, ...drift }) => ({
      ...drift,
      holder: holderOf('markup', 'part', part),
      written: part,
    }));
  },
};

/** What is wrong with one part of one page; offset and length are bytes of the file. */
interface Drift {
  readonly part: string;
  readonly offset: number;
  readonly length: number;
  readonly message: string;
  readonly target?: string;
}

/** Compares the parts that a page marks with their masters. */
function driftsOf(page: Page, file: string, entry: string, masters: ReadonlyMap<string, Master>): Drift[] {
  const { parts, bad } = readMarks(page);
  const drifts: Drift[] = [];
  for (const { name, start, end, innerStart, innerEnd } of parts) {
    const master = masters.get(name);
    if (master === undefined || page.base === null) continue;
    const text = master.contentFor(page, page.reading.anchors);
    if (text === page.text(innerStart, innerEnd)) continue;
    if (page.isIdle({ start: innerStart, end: innerEnd, text })) continue;
    const message =
      file === entry
        ? `the links of the part ${name} do not mark this page as the current one`
        : `this copy of the part ${name} differs from the one in ${entry}`;
    drifts.push({ part: name, ...spanInFile(page, start, end), message });
  }
  if (bad !== null) {
    const { name, what, mend } = bad;
    drifts.push({
      part: name,
      target: file,
      ...spanInFile(page, bad.offset, bad.offset + bad.length),
      message: `${what}: ${mend.charAt(0).toLowerCase()}${mend.slice(1)}`,
    });
  }
  return drifts;
}

function spanInFile({ offsetInFile }: Page, start: number, end: number): { offset: number; length: number } {
  const offset = offsetInFile(start);
  return { offset, length: offsetInFile(end) - offset };
}
