/** What settles a finding: what its report proposes, or what its rule makes of the page when that is taken apart. */

import { oneCharacterAByte } from '../bytes.ts';
import type { Files } from '../change/files.ts';
import { pushTo } from '../group-by.ts';
import { isSettled } from '../judge/causes.ts';
import { ruleNamed } from '../judge/index.ts';
import type { PageSettlement } from '../judge/rule.ts';
import { openPage } from '../page/page.ts';
import { tagsOf } from '../page/tags.ts';
import { isPage } from '../read/read.ts';
import type { Finding, Mend } from '../report.ts';

/** What is known of the site besides. */
export interface SiteWords {
  readonly language: string | null;
}

/** The mends of each finding, in the order of `findings`; each page is taken apart once. */
export function proposalsFor(
  findings: readonly Finding[],
  files: Pick<Files, 'has' | 'read'>,
  { language }: SiteWords,
  answerTo: (finding: Finding) => string | null = () => null,
): (readonly Mend[])[] {
  const all: (readonly Mend[])[] = findings.map(({ mends }) => mends.filter(({ edits }) => edits.length > 0));
  const byPage = new Map<string, number[]>();
  for (const [index, finding] of findings.entries())
    if ((all[index] as readonly Mend[]).length === 0 && isPage(finding.file) && isSettled(finding))
      pushTo(byPage, finding.file, index);
  for (const [index, finding] of findings.entries()) {
    const { rule, file } = finding;
    const { settleText } = ruleNamed(rule) ?? {};
    if ((all[index] as readonly Mend[]).length > 0 || settleText === undefined || !isSettled(finding))
      continue;
    const settlement = settleText(finding, oneCharacterAByte(files.read(file)));
    if (settlement !== null) all[index] = [inFile(file, settlement)];
  }
  for (const [file, indexes] of byPage) {
    const page = openPage(file, files.read(file));
    const tags = tagsOf(page, true);
    for (const index of indexes) {
      const finding = findings[index] as Finding;
      const settlement =
        ruleNamed(finding.rule)?.settle?.({ finding, tags, language, answer: answerTo(finding) }) ?? null;
      if (settlement === null) continue;
      all[index] = [inFile(file, settlement, (offset) => page.offsetInFile(offset))];
    }
  }
  return all;
}

function inFile(
  file: string,
  { sure, title, edits }: PageSettlement,
  placeOf = (offset: number) => offset,
): Mend {
  const own = edits.map(({ start, end, text }) => ({ file, start: placeOf(start), end: placeOf(end), text }));
  return { sure, title, target: null, walk: [], edits: own };
}
