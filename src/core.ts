/** What `import … from "cravel/core"` gives: the check without a disk, for browsers and editors. No module of Node's. */

export type { Edit, FileEdit } from './core/change/edit.ts';
export { type Check, type CheckOptions, startCheck } from './core/check/check.ts';
export { CravelError } from './core/errors.ts';
export { offsetsIn, type Position, positionsIn } from './core/read/lines.ts';
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
export { type Inventory, makeInventory } from './core/site/inventory.ts';
export type { Places } from './core/site/places.ts';
export type { Step } from './core/site/walk.ts';
