/** `cravel wire`: references files from pages, at the right spot and in the right order. */
import { IsBoolean, IsIn, IsOptional, IsString } from 'class-validator';
import { fail } from '../core/errors.ts';
import { loadOrder } from '../core/order/order.ts';
import {
  kindOfFile,
  type WireKind,
  type WireSettings,
  type Wiring,
  wireKinds,
} from '../core/page/loaders.ts';
import { openPage, type Page } from '../core/page/page.ts';
import { unwire, wireAll } from '../core/page/wire.ts';
import { nearestNames } from '../core/site/near-names.ts';
import type { Project } from '../disk/project.ts';
import { visible } from '../show/escape.ts';
import { count } from '../show/paint.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { pickPages } from './page-globs.ts';
import { showProgress } from './progress.ts';
import { type Account, ChangeOptions, changeProject } from './project-change.ts';

class WireOptions extends ChangeOptions {
  @IsString({ each: true })
  into: string[] = [];

  @IsOptional()
  @IsIn(wireKinds, { message: `must be one of ${wireKinds.join(', ')}` })
  kind?: WireKind;

  @IsOptional()
  @IsBoolean()
  remove?: boolean;
}

export async function wire(files: readonly string[], raw: object, output: Output): Promise<number> {
  const options = checkOptions(WireOptions, raw);
  const title = `wire ${options.remove ? '--remove ' : ''}${files.join(' ')}`;
  return changeProject(options, title, output, async (project) => {
    const wirings = files.map((file) => wiringFor(project, file, options));
    const pages = pickPages(project, options.into);
    const tally = new Tally(pages);
    if (options.remove === true) await takeOut(project, pages, wirings, tally, output);
    else await wirePages(project, pages, wirings, tally, output);
    return tally.account(wirings.map(({ path }) => path).join(', '), options.remove === true);
  });
}

/** How many pages a wiring changed, and why it left others alone. */
export class Tally {
  readonly #changed = new Set<string>();
  readonly #notes: string[] = [];
  constructor(readonly pages: readonly string[]) {}

  changed(page: string): void {
    this.#changed.add(page);
  }

  leftAlone(page: string, why: string): void {
    this.#notes.push(`Left alone: ${visible(page)}: ${why}.`);
  }

  account(files: string, isRemoval: boolean): Account {
    const done = isRemoval ? 'Taken out of' : 'Wired into';
    const all = count(this.pages.length, 'page');
    const rest = this.pages.length - this.#changed.size - new Set(this.#notes).size;
    const same = isRemoval ? `${rest} had no reference to it` : `${rest} had it already`;
    const notes = [...this.#notes];
    if (this.#changed.size > 0) {
      notes.push(`${done} ${this.#changed.size} of ${all}${rest > 0 ? `; ${same}` : ''}.`);
    }
    const idle = isRemoval
      ? `Nothing to take out: no page of ${all} refers to ${visible(files)}.`
      : rest === 0
        ? 'Nothing was wired.'
        : `Nothing to do: ${visible(files)} is wired into every page that can hold it (${count(rest, 'page')}).`;
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
): Promise<void> {
  await eachPage(project, pages, tally, output, (page, settings) => {
    const { bytes, left } = wireAll(page, wirings, settings);
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
  const settings = wireSettings(project);
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

function wiringFor(project: Project, named: string, { kind, remove }: WireOptions): Wiring {
  const path = project.sitePath(named);
  if (!project.site.has(path) && remove !== true) {
    const alike = project.site.paths().filter((other) => kindOfFile(other) !== null);
    throw fail('no-file', visible(named), nearestNames(path, alike));
  }
  const known = kind ?? kindOfFile(path);
  if (known === null) throw fail('no-kind', visible(named));
  return { path, kind: known };
}

/** How files are wired in this project, by its settings as they are now. */
function wireSettings({ settings, places }: Project): WireSettings {
  const { libraries } = settings;
  const all = Object.values(libraries);
  return {
    order: loadOrder(libraries, places.libraries),
    scriptsGo: settings['scripts-go'],
    provided: all.flatMap(({ provides }) => provides),
    otherBuild(path) {
      for (const { folder, release } of all) {
        for (const [readable, minified] of Object.entries(release)) {
          if (path === `${folder}/${readable}`) return `${folder}/${minified}`;
          if (path === `${folder}/${minified}`) return `${folder}/${readable}`;
        }
      }
      return null;
    },
  };
}
