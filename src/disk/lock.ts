/** One run at a time: who changes a project claims it first, and whoever comes then waits. */

import { hostname } from 'node:os';
import { setTimeout } from 'node:timers/promises';
import { fail } from '../core/errors.ts';
import { below, type DiskPath } from './disk-path.ts';
import {
  lstatSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmdirSync,
  rmSync,
  writeFileSync,
} from './fs.ts';
import { isMakerAlive, mayBeAlive, type Owner, thisProcess, uniqueName } from './process.ts';
import { lstatOrNull } from './stat.ts';

/** Where claims and the open change are, in the project's folder. It is there only while they are. */
export const WORKSHOP = '.cravel';

/** Milliseconds that a run waits for another one. */
const PATIENCE = 10_000;
const CLAIM = /^claim-.*\.json$/;
const UNFINISHED_CLAIM = /^part-(.*)$/;

export interface LockOptions {
  /** Milliseconds to wait for another run. */
  readonly patience?: number;
  /** Claims of other machines, of which nobody can tell whether their runs still go on, do not count. */
  readonly takesOver?: boolean;
  /** Told once who is waited for. */
  readonly waiting?: (owner: string) => void;
}

/**
 * Claims the project at `root`; gives what gives it back. Throws a `CravelError` where another run keeps it.
 *
 * Each run makes a claim under a name of its own, then looks at all claims: alone, it holds the project, else it takes
 * its claim back and tries again a little later. Of two runs, one at least sees the other's claim, so that two never
 * hold it both. Nobody takes over another one's claim: those of dead processes do not count.
 */
export async function lock(
  root: DiskPath,
  { patience = PATIENCE, takesOver = false, waiting }: LockOptions = {},
): Promise<() => void> {
  const workshop = below(root, WORKSHOP);
  const stands = lstatOrNull(workshop);
  if (stands !== null && !stands.isDirectory()) throw fail('workshop-taken', root);
  const name = uniqueName();
  const file = below(workshop, `claim-${name}.json`);
  const release = () => {
    rmSync(file, { force: true });
    removeIfEmpty(workshop);
  };
  let isTold = false;
  for (const deadline = performance.now() + patience; ; ) {
    if (makeClaim(workshop, name, file)) {
      const others = claimsIn(workshop).filter(({ path }) => path !== file);
      const counts = (owner: Owner | null) =>
        takesOver && !isHere(owner) ? false : owner === null || mayBeAlive(owner);
      const living = others.find(({ owner }) => counts(owner));
      if (living === undefined) {
        clean(workshop, others);
        return release;
      }
      release();
      if (performance.now() > deadline)
        throw fail(isHere(living.owner) ? 'locked' : 'locked-elsewhere', root, ownerInWords(living.owner));
      if (!isTold) waiting?.(ownerInWords(living.owner));
      isTold = true;
    }
    await setTimeout(10 + Math.random() * 40);
  }
}

/** False where the workshop was just taken down. A claim holds its words from the first instant. */
function makeClaim(workshop: DiskPath, name: string, file: DiskPath): boolean {
  const beside = below(workshop, `part-${name}`);
  try {
    mkdirSync(workshop, { recursive: true });
    writeFileSync(beside, JSON.stringify(thisProcess()), { flag: 'wx' });
    renameSync(beside, file);
    return true;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return false;
    // A disk that is full has room for a folder and for nothing in it.
    rmSync(beside, { force: true });
    removeIfEmpty(workshop);
    throw error;
  }
}

interface Claim {
  readonly path: DiskPath;
  /** Null where it cannot be read. */
  readonly owner: Owner | null;
}

function claimsIn(workshop: DiskPath): Claim[] {
  return readdirSync(workshop).flatMap((name): Claim | [] => {
    const path = below(workshop, name);
    if (!CLAIM.test(name)) return [];
    const owner = ownerIn(path);
    return owner === 'gone' ? [] : { path, owner };
  });
}

/** Takes away what dead processes left of claims. */
function clean(workshop: DiskPath, dead: readonly Claim[]): void {
  for (const { path } of dead) rmSync(path, { force: true });
  for (const name of readdirSync(workshop)) {
    const [, maker] = UNFINISHED_CLAIM.exec(name) ?? [];
    if (maker !== undefined && !isMakerAlive(maker)) rmSync(below(workshop, name), { force: true });
  }
}

function ownerIn(path: DiskPath): Owner | null | 'gone' {
  try {
    const owner: unknown = JSON.parse(readFileSync(path).toString());
    return typeof (owner as Owner | null)?.process === 'number' ? (owner as Owner) : null;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'ENOENT' ? 'gone' : null;
  }
}

/** True where a run that may still be at work holds the project at `root`. */
export function isHeld(root: DiskPath): boolean {
  const workshop = below(root, WORKSHOP);
  if (lstatOrNull(workshop)?.isDirectory() !== true) return false;
  return claimsIn(workshop).some(({ owner }) => owner === null || mayBeAlive(owner));
}

/** False for a run of another machine, and for one of which nothing can be read. */
function isHere(owner: Owner | null): boolean {
  return owner !== null && owner.host === hostname();
}

function ownerInWords(owner: Owner | null): string {
  return owner === null ? 'another run' : `process ${owner.process} on ${owner.host}, since ${owner.since}`;
}

/** Removes a folder that holds nothing; false where it holds something, or is not there. */
export function removeIfEmpty(folder: DiskPath): boolean {
  try {
    if (!lstatSync(folder).isDirectory()) return false;
    rmdirSync(folder);
    return true;
  } catch {
    return false;
  }
}
