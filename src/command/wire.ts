/** `cravel wire`: references files from pages, at the right spot and in the right order. */
import { fail } from '../core/errors.ts';
import { isOnAnotherHost } from '../core/order/order.ts';
import { kindOfFile, scriptKind, type WireSettings, type Wiring } from '../core/page/loaders.ts';
import { openPage, type Page } from '../core/page/page.ts';
import { unwire, wireAll } from '../core/page/wire.ts';
import { wireSettings } from '../core/settings/wire-settings.ts';
import { nearestNames } from '../core/site/near-names.ts';
import type { Project } from '../disk/project.ts';
import { visible } from '../show/escape.ts';
import { count } from '../show/paint.ts';
import type { Checked } from './declaration.ts';
import { wire as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { pickPages } from './page-globs.ts';
import { showProgress } from './progress.ts';
import { type Account, changeProject } from './project-change.ts';

type Options = Checked<typeof declaration.options>;

export async function wire(files: readonly string[], raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const title = `wire ${options.remove ? '--remove ' : ''}${files.join(' ')}`;
  return changeProject(options, title, output, async (project) => {
    const wirings = files.map((file) => wiringFor(project, file, options));
    const pages = pickPages(project, options.into);
    const tally = new Tally(pages);
    const beside = besideOf(project, options);
    if (options.remove) await takeOut(project, pages, wirings, tally, output);
    else await wirePages(project, pages, wirings, tally, output, { beside });
    return tally.account(
      wirings.map(({ path }) => path),
      options.remove,
    );
  });
}

/** How many pages a wiring changed, and why it left others alone. */
export class Tally {
  readonly #changed = new Set<string>();
  readonly #notes: string[] = [];
  /** Pages on which each file was moved before what uses it, or took the place of its other build. */
  readonly #moved = new Map<string, number>();
  readonly #swapped = new Map<string, number>();
  constructor(readonly pages: readonly string[]) {}

  changed(page: string): void {
    this.#changed.add(page);
  }

  moved(path: string): void {
    this.#moved.set(path, (this.#moved.get(path) ?? 0) + 1);
  }

  swapped(path: string): void {
    this.#swapped.set(path, (this.#swapped.get(path) ?? 0) + 1);
  }

  leftAlone(page: string, why: string): void {
    this.#notes.push(`Left alone: ${visible(page)}: ${why}.`);
  }

  account(files: readonly string[], isRemoval: boolean): Account {
    const done = isRemoval ? 'Taken out of' : 'Wired into';
    const all = count(this.pages.length, 'page');
    const rest = this.pages.length - this.#changed.size - new Set(this.#notes).size;
    const same = isRemoval ? `${rest} had no reference to it` : `${rest} had it already`;
    const notes = [...this.#notes];
    for (const [path, amount] of this.#moved)
      notes.push(`Moved ${visible(path)} before what uses it, on ${count(amount, 'page')}.`);
    for (const [path, amount] of this.#swapped)
      notes.push(`Put ${visible(path)} in the place of its other build, on ${count(amount, 'page')}.`);
    if (this.#changed.size > 0) {
      notes.push(`${done} ${this.#changed.size} of ${all}${rest > 0 ? `; ${same}` : ''}.`);
    }
    const shown = files.map(visible).join(', ');
    const idle = isRemoval
      ? `Nothing to take out: no page of ${all} refers to ${shown}.`
      : rest === 0
        ? 'Nothing was wired.'
        : `Nothing to do: ${shown} ${files.length === 1 ? 'is' : 'are'} wired into every page that can hold it (${count(rest, 'page')}).`;
    return { notes, idle };
  }
}

/** Wires files into every one of `pages` that lacks them. */
export async function wirePages(
  project: Project,
  pages: readonly string[],
  wirings: readonly Wiring[],
  tally: Tally,
  output: Output,
  choice: Partial<Pick<WireSettings, 'beside' | 'swaps'>>,
): Promise<void> {
  await eachPage(project, pages, tally, output, (page, settings) => {
    const { bytes, left, moved, swapped } = wireAll(page, wirings, { ...settings, ...choice });
    for (const path of moved) tally.moved(path);
    for (const path of swapped) tally.swapped(path);
    for (const { why } of left) tally.leftAlone(page.file, why);
    return bytes;
  });
}

async function takeOut(
  project: Project,
  pages: readonly string[],
  wirings: readonly Wiring[],
  tally: Tally,
  output: Output,
): Promise<void> {
  await eachPage(project, pages, tally, output, (page, settings) => unwire(page, wirings, settings));
}

/** Writes what `change` makes of each page; null leaves it as it is. */
async function eachPage(
  project: Project,
  pages: readonly string[],
  tally: Tally,
  output: Output,
  change: (page: Page, settings: WireSettings) => Uint8Array | null,
): Promise<void> {
  const { site } = project;
  const textOf = (path: string) => (site.has(path) ? new TextDecoder().decode(site.read(path)) : null);
  const settings = wireSettings(project.settings, project.places, textOf);
  const progress = showProgress(output, { verb: 'wiring', noun: 'page' });
  try {
    for (const [index, path] of pages.entries()) {
      const bytes = change(openPage(path, site.read(path)), settings);
      if (bytes !== null) {
        site.write(path, bytes);
        tally.changed(path);
      }
      await progress.tell(index + 1, pages.length);
    }
  } finally {
    progress.end();
  }
}

/** The file that somebody wants the new ones beside. */
function besideOf(project: Project, { before, after, remove }: Options): WireSettings['beside'] {
  const named = before ?? after;
  if (named === undefined) return undefined;
  if (before !== undefined && after !== undefined) throw fail('two-sides');
  if (remove) throw fail('no-side');
  const path = project.sitePath(named);
  if (!project.site.has(path))
    throw fail('no-file', visible(named), nearestNames(path, project.site.paths()));
  return { path, side: before === undefined ? 'after' : 'before' };
}

/** How a file of the site is wired by its name and, of a script, by what it is; null where neither tells. */
export function wiringOf({ site }: Project, path: string): Wiring | null {
  const kind = kindOfFile(path);
  if (kind !== 'script' || !site.has(path)) return kind === null ? null : { path, kind };
  return { path, kind: scriptKind(new TextDecoder().decode(site.read(path))) };
}

function wiringFor(project: Project, named: string, { kind, remove, integrity }: Options): Wiring {
  if (isOnAnotherHost(named)) {
    const hosted = kind ?? kindOfFile(named.replace(/[?#].*$/, ''));
    if (hosted === null) throw fail('no-kind', visible(named));
    return { path: named, kind: hosted, integrity };
  }
  if (integrity !== undefined) throw fail('own-integrity', visible(named));
  const path = project.sitePath(named);
  if (!project.site.has(path) && !remove) {
    const alike = project.site.paths().filter((other) => kindOfFile(other) !== null);
    throw fail('no-file', visible(named), nearestNames(path, alike));
  }
  const wiring = kind === undefined ? wiringOf(project, path) : { path, kind };
  if (wiring === null) throw fail('no-kind', visible(named));
  return wiring;
}
