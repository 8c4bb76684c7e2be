/** part-drift: a page's copy of a part differs from the master on the entry page. */
import { openPage, type Page } from '../../page/page.ts';
import { type Master, mastersOf, readMarks } from '../../page/parts.ts';
import type { PageFacts } from '../../read/reading.ts';
import type { RuleFacts } from '../rule.ts';

const COLON = 0x3a;
/** Up to the colon of a mark there are some words and white space. */
const LONGEST_OPENING = 200;

export const partDrift: RuleFacts = {
  name: 'part-drift',
  grade: 'untidy',
  summary: 'a part differs from its master',
  suffers:
    'The pages of one site differ in what should be the same: a link is on some of them and not on others.',
  wrong: 'a navigation that was changed on one page only',
  right: 'the same navigation on every page, copied from the entry page',
  command: 'cravel parts',
};

/** What is wrong with one part of one page; offset and length are bytes of the file. */
export interface Drift {
  readonly part: string;
  readonly offset: number;
  readonly length: number;
  readonly message: string;
}

/** True where a comment of the page may mark a part; spares most pages a closer look. */
export function mayMarkParts({ comments }: PageFacts, bytes: Uint8Array): boolean {
  return comments.some(({ offset, length }) => {
    const end = offset + Math.min(length, LONGEST_OPENING);
    let at = offset;
    while (at < end && bytes[at] !== COLON) at++;
    return at < end && ((bytes[at - 1] as number) | 0x20) === 0x74;
  });
}

/** The masters on the entry page; none where its marks do not pair up. */
export function mastersIn(entry: string, bytes: Uint8Array): ReadonlyMap<string, Master> {
  const page = openPage(entry, bytes);
  return readMarks(page).bad === null ? mastersOf(page) : new Map();
}

/** Compares the parts that a page marks with their masters. */
export function driftsOf(
  file: string,
  bytes: Uint8Array,
  entry: string,
  masters: ReadonlyMap<string, Master>,
): Drift[] {
  const page = openPage(file, bytes);
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
