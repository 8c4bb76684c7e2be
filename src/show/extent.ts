/** How far a cause goes, in words. */
import type { Cause } from '../core/report.ts';
import { count } from './paint.ts';

/** `3 references in 2 files` */
export function extentInWords({ findings, files }: Pick<Cause, 'findings' | 'files'>): string {
  const noun = findings[0].kind === null ? 'spot' : 'reference';
  return `${count(findings.length, noun)} in ${count(files, 'file')}`;
}
