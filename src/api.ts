/** What `import … from "cravel"` gives. */
export { CravelError } from './core/errors.ts';
export type { Grade } from './core/judge/rule.ts';
export type { Kind } from './core/read/reading.ts';
export {
  byCause,
  type Cause,
  type Edit,
  type Finding,
  type Mend,
  type Report,
  type Unread,
} from './core/report.ts';
export type { Step } from './core/site/walk.ts';
export { checkFolder, type Progress } from './disk/check.ts';
