/** What is said of a string in a script that looks like the path of a file: a guess, told only where a file is nearly called so. */
import type { Subject } from '../resolve/subject.ts';
import { folderOf } from '../site/inventory.ts';
import { type Draft, draftOf } from './drafts.ts';
import { IN_SCRIPTS } from './in-scripts.ts';
import { absent } from './rules/absent.ts';
import { beyondSite } from './rules/beyond-site.ts';
import { letterCase } from './rules/letter-case.ts';

/** Null where nothing is like it. */
export function judgeGuess(subject: Subject): Draft | null {
  for (const rule of [beyondSite, letterCase, absent]) {
    const verdict = rule.judge(subject);
    if (verdict === null) continue;
    const candidates = verdict.candidates
      .filter(({ path }) => isLike(subject, path))
      .map((candidate) => ({ ...candidate, sure: false }));
    if (candidates.length === 0) return null;
    return {
      ...draftOf(rule, subject, { ...verdict, candidates, settlements: [] }),
      grade: IN_SCRIPTS.grade,
    };
  }
  return null;
}

/** A bare name may be put behind any folder: it is no guess at a file of another one. */
function isLike({ file, reference: { written }, target }: Subject, path: string): boolean {
  if (path === file || target.in === 'elsewhere') return false;
  return /[\\/]/.test(written) || folderOf(path) === target.folder;
}
