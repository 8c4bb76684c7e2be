/**
 * What is about to take the place of what stands at a target: noted first, so that the next run can bring it to its end, or
 * take away what was not whole yet.
 */

import { Equals, IsObject, IsOptional, IsString } from 'class-validator';
import { fail } from '../core/errors.ts';
import { besideTarget, isBesideTarget } from './beside.ts';
import { around, asWritten, type DiskPath } from './disk-path.ts';
import { syncFolder } from './durable.ts';
import { existsSync, mkdirSync, renameSync, rmSync } from './fs.ts';
import { ownJson } from './own-json.ts';
import type { PackTarget } from './pack-target.ts';
import { notePacked, type Packed, packedFrom } from './packed.ts';
import { lstatOrNull } from './stat.ts';
import { placingNote, stateOf } from './state.ts';
import { writeWhole } from './write-whole.ts';

/** Names beside a target for what is made there; whoever comes after a run that did not end takes them away. */
export interface Beside {
  readonly staged: DiskPath;
  readonly other: DiskPath;
}

/** The caller holds the project's lock. */
export function beginPlacing(root: DiskPath, { path }: PackTarget): Beside {
  const beside = { staged: besideTarget(path), other: besideTarget(path) };
  try {
    note(root, { cravel: 1, target: path, ...beside, packed: null });
  } catch {
    // Nothing is in danger yet.
  }
  return beside;
}

/** After all, be it done or not: takes away what was made beside the target. */
export function endPlacing(root: DiskPath, { staged, other }: Beside): void {
  for (const place of [staged, other, placingNote(root)])
    if (lstatOrNull(place) !== null) rmSync(place, { recursive: true, force: true });
}

/** What is being made beside a target, and what is about to lie there; null as long as that is not whole. */
class Placing {
  @Equals(1)
  cravel!: 1;

  @IsString()
  target!: string;

  @IsString()
  staged!: string;

  @IsString()
  other!: string;

  @IsOptional()
  @IsObject()
  packed: Packed | null = null;
}

/** Notes what is going to happen. Throws a `CravelError` where that cannot be. */
export function note(root: DiskPath, placing: Placing): void {
  mkdirSync(stateOf(root), { recursive: true });
  writeWhole(placingNote(root), [JSON.stringify(placing)]);
}

/**
 * Brings to its end what an earlier run was about to put in place, or takes away what was not whole yet. Whenever this
 * ends half-way, it can be done again. The caller holds the project's lock. Gives the target where a copy was put there.
 */
export function finishPlacing(root: DiskPath): string | null {
  const file = placingNote(root);
  if (!existsSync(file)) return null;
  const { target, staged, other, packed } = readPlacing(file);
  const isWaiting = packed !== null && existsSync(staged);
  if (isWaiting) {
    if (lstatOrNull(target) !== null) renameSync(target, other);
    renameSync(staged, target);
    syncFolder(around(target));
  }
  if (packed !== null) notePacked(root, packed);
  endPlacing(root, { staged, other });
  return isWaiting ? target : null;
}

/** Throws a `CravelError` where it is not what Cravel writes. */
function readPlacing(file: DiskPath): Beside & { target: DiskPath; packed: Packed | null } {
  const placing = ownJson(Placing, file);
  if (placing === null) throw fail('bad-change', file);
  const [target, staged, other] = [placing.target, placing.staged, placing.other].map(asWritten) as [
    DiskPath,
    DiskPath,
    DiskPath,
  ];
  const packed = placing.packed === null ? null : packedFrom(placing.packed);
  const isOwn = [staged, other].every((place) => isBesideTarget(target, place));
  if (!isOwn || (placing.packed !== null && packed?.target !== target)) throw fail('bad-change', file);
  return { target, staged, other, packed };
}
