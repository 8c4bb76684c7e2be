/** A check that goes on from one state of a site to the next, as while a preview stands. */
import { type Check, type CheckOptions, startCheck } from '../../src/core/check/check.ts';
import type { SiteReport } from '../../src/core/report.ts';
import { type BesideFiles, makeInventory } from '../../src/core/site/inventory.ts';
import { bytesOf, contentOptions, type Files, takeAll } from './site.ts';

/** A state of a site: its files, those of them that nobody may read, and what stands beside them. */
export interface World extends Partial<BesideFiles> {
  readonly files: Files;
  readonly unreadable?: readonly string[];
}

export class LiveCheck {
  #world: World;
  readonly check: Check;

  constructor(world: World, options: Partial<CheckOptions> = {}) {
    this.#world = world;
    this.check = startCheck(inventoryOf(world), {
      ...contentOptions((path) => this.#read(path)),
      ...options,
    });
    this.#take();
  }

  /** Returns the files that were taken again. */
  become(world: World): readonly string[] {
    const before = this.#world;
    this.#world = world;
    const isOther = (path: string) =>
      path in before.files &&
      (before.files[path] !== world.files[path] || isReadable(before, path) !== isReadable(world, path));
    this.check.renew(inventoryOf(world), new Set(Object.keys(world.files).filter(isOther)));
    return this.#take();
  }

  report(): SiteReport {
    return this.check.report('site', (path) => this.#read(path));
  }

  #read(path: string): Uint8Array {
    return bytesOf(this.#world.files[path] ?? '');
  }

  #take(): readonly string[] {
    return takeAll(this.check, (path) => (isReadable(this.#world, path) ? this.#read(path) : null));
  }
}

function inventoryOf({ files, unreadable: _, ...beside }: World) {
  return makeInventory(Object.keys(files), beside);
}

function isReadable({ unreadable = [] }: World, path: string): boolean {
  return !unreadable.includes(path);
}
