/** Sites that are mended in memory. */
import { ChangedFiles } from '../../src/core/change/files.ts';
import { startCheck } from '../../src/core/check/check.ts';
import { type Mended, mendAll } from '../../src/core/mending/mending.ts';
import type { Finding, Mend } from '../../src/core/report.ts';
import { makeInventory } from '../../src/core/site/inventory.ts';
import { bytesOf, contentOptions, type Files, takeAll } from './site.ts';

export interface MendedSite extends Mended {
  readonly before: readonly Finding[];
  readonly site: Record<string, Uint8Array>;
}

export interface Mending {
  readonly guesses?: boolean;
  readonly only?: readonly string[];
  readonly language?: string | null;
  /** What is answered, by rule. */
  readonly answers?: Readonly<Record<string, string>>;
}

export async function mended(
  files: Files,
  { guesses = false, only, language = 'en', answers = {} }: Mending = {},
): Promise<MendedSite> {
  const content = new Map(Object.entries(files).map(([path, text]) => [path, bytesOf(text)]));
  const site = new ChangedFiles(content.keys(), (path) => content.get(path) as Uint8Array);
  const read = (path: string) => site.read(path);
  const inventory = makeInventory(content.keys());
  const check = startCheck(inventory, contentOptions(read));
  takeAll(check, read);
  const before = check.report('', read).findings;
  const outcome = await mendAll(
    {
      files: site,
      judge: (changed) => {
        check.renew(inventory, changed);
        takeAll(check, read);
        return Promise.resolve(check.report('', read).findings);
      },
      choose: (_finding, mends: readonly Mend[]) =>
        Promise.resolve(mends.find(({ sure }) => sure) ?? (guesses ? (mends[0] as Mend) : null)),
      ask: (finding) => Promise.resolve(answers[finding.rule] ?? null),
      isWanted: ({ rule, grade }) => only === undefined || only.includes(rule) || only.includes(grade),
      words: { language },
    },
    before,
  );
  return {
    ...outcome,
    before,
    site: Object.fromEntries(site.paths().map((path) => [path, new Uint8Array(site.read(path))])),
  };
}
