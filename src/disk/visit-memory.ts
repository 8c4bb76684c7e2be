/** Remembers what a host answered, so that a visit that was broken off goes on where it stopped. */

import { Equals, IsArray, IsString } from 'class-validator';
import type { Visit } from '../core/judge/visit.ts';
import { around, below, type DiskPath } from './disk-path.ts';
import { mkdirSync, rmSync } from './fs.ts';
import { ownJson } from './own-json.ts';
import { statOrNull } from './stat.ts';
import { stateOf } from './state.ts';
import { writeWhole } from './write-whole.ts';

/** Milliseconds after which answers say nothing any more, and between two notes of them. */
const OLD = 3_600_000;
const PAUSE = 2_000;

class Remembered {
  @Equals(1)
  cravel!: 1;

  @IsString()
  address!: string;

  @IsString()
  mark!: string;

  @IsString()
  begun!: string;

  @IsArray()
  visits!: Visit[];
}

/** What a visit is of: the host, and what it is held to. */
interface Subject {
  readonly address: string;
  readonly mark: string;
}

export class VisitMemory {
  readonly #file: DiskPath;
  readonly #visits = new Map<string, Visit>();
  #saved = performance.now();

  private constructor(
    root: DiskPath,
    readonly subject: Subject,
    readonly begun: string,
    /** What is known already, by address. */
    readonly known: ReadonlyMap<string, Visit>,
  ) {
    this.#file = fileFor(root);
    for (const [address, visit] of known) this.#visits.set(address, visit);
  }

  /** `anew`: nothing that was known counts. */
  static open(root: DiskPath, subject: Subject, anew: boolean): VisitMemory {
    const before = anew ? null : read(fileFor(root));
    const isSame =
      before !== null &&
      before.address === subject.address &&
      before.mark === subject.mark &&
      Date.now() - Date.parse(before.begun) < OLD;
    const known = isSame ? new Map(before.visits.map((visit) => [visit.address, visit])) : new Map();
    return new VisitMemory(root, subject, isSame ? before.begun : new Date().toISOString(), known);
  }

  note(visit: Visit): void {
    // What comes for a name that cannot exist has to be seen again, and what never came may come now.
    if (visit.asks === 'invented' || visit.failure !== null) return;
    this.#visits.set(visit.address, visit);
    if (performance.now() - this.#saved > PAUSE) this.save();
  }

  /** Where it cannot be kept, the next visit begins anew. */
  save(): void {
    this.#saved = performance.now();
    const { address, mark } = this.subject;
    const remembered: Remembered = {
      cravel: 1,
      address,
      mark,
      begun: this.begun,
      visits: [...this.#visits.values()],
    };
    try {
      mkdirSync(around(this.#file), { recursive: true });
      writeWhole(this.#file, [JSON.stringify(remembered)]);
    } catch {
      // As said.
    }
  }

  forget(): void {
    if (statOrNull(this.#file) !== null) rmSync(this.#file, { force: true });
  }
}

function fileFor(root: DiskPath): DiskPath {
  return below(stateOf(root), 'visit.json');
}

/** Null where there is nothing of Cravel's making. */
function read(file: DiskPath): Remembered | null {
  const remembered = ownJson(Remembered, file);
  return remembered?.visits.every(isVisit) ? remembered : null;
}

function isVisit(visit: unknown): boolean {
  const { asks, file, address, status } = (visit ?? {}) as Record<string, unknown>;
  return [asks, file, address].every((one) => typeof one === 'string') && typeof status === 'number';
}
