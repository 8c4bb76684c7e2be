/** What `import … from "cravel"` gives: the check of a folder on a disk. */
export type { Edit, FileEdit } from './core/change/edit.ts';
export { CravelError } from './core/errors.ts';
export type { Kind } from './core/read/reading.ts';
export type {
  AcceptedFinding,
  Cause,
  Finding,
  Grade,
  Mend,
  Report,
  SiteReport,
  Unread,
} from './core/report.ts';
export type { Step } from './core/site/walk.ts';
export { checkFolder, type Progress } from './disk/check.ts';
