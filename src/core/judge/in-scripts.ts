/** What scripts do not tell: whether a page asks for an address that they hold. */
import type { GradeFacts } from './rule.ts';

/** Of rules about addresses, which scripts may hold for some pages and not for others. */
export const IN_SCRIPTS: GradeFacts = {
  grade: 'fragile',
  when: 'in a script, where a page may never ask for it',
};
