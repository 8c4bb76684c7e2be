/** The report of the built program as JSON has it. */
import type { Cause, Finding, SiteReport } from '../../src/core/report.ts';
import { cravel } from './program.ts';

interface JsonFinding extends Omit<Finding, 'holder'> {
  readonly site: string;
  readonly cause: number;
  readonly holder: string;
}

export interface JsonReport {
  readonly sites: readonly (Omit<SiteReport, 'accepted'> & { readonly accepted: number })[];
  readonly causes: readonly (Omit<Cause, 'findings'> & {
    readonly site: string;
    readonly findings: number;
  })[];
  readonly findings: readonly JsonFinding[];
  readonly unread: readonly { readonly site: string; readonly file: string; readonly why: string }[];
}

export function checkAsJson(folder: string, ...args: readonly string[]): JsonReport {
  return JSON.parse(cravel(folder, 'check', '--as', 'json', ...args).stdout);
}
