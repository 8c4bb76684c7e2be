/** `cravel pack`: makes the copy of a site that gets published, and checks it as a site of its own. */

import { isAbsolute } from 'node:path';
import { fail } from '../core/errors.ts';
import { picker } from '../core/judge/pick.ts';
import { type Choice, chooseFiles } from '../core/packing/choose.ts';
import { CopiedFiles } from '../core/packing/copied-files.ts';
import { makeCopy, type PackedCopy } from '../core/packing/pack.ts';
import { type NewPlace, newPlace } from '../core/packing/rebase.ts';
import { settingsOfCopy } from '../core/packing/settings.ts';
import { failing, type Report, type SiteReport } from '../core/report.ts';
import { publishedAt } from '../core/resolve/published.ts';
import { globMatcher } from '../core/site/globs.ts';
import { isKeptByWindows } from '../core/site/names.ts';
import { type Checked, ProjectCheck } from '../disk/check.ts';
import { digestOf } from '../disk/digest.ts';
import { below, type DiskPath, shownFromHere, withSlashes } from '../disk/disk-path.ts';
import { whileLocked } from '../disk/journal.ts';
import { loadFile } from '../disk/load.ts';
import { beginPlacing, endPlacing, finishPlacing } from '../disk/open-placing.ts';
import { checkTarget, type PackTarget, packTarget } from '../disk/pack-target.ts';
import { asRefusal, placeCopy } from '../disk/placing.ts';
import { openProject, type Project } from '../disk/project.ts';
import { whileHeldBack } from '../disk/signals.ts';
import { stageCopy } from '../disk/staging.ts';
import { hashOfAll } from '../disk/standing.ts';
import { visible } from '../show/escape.ts';
import { packingAsText } from '../show/packing.ts';
import { count, paintFor, shortList } from '../show/paint.ts';
import type { Checked as CheckedOptions } from './declaration.ts';
import { pack as declaration } from './declarations.ts';
import { splitList } from './lists.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { showProgress, yielding } from './progress.ts';
import { workPlace } from './project-change.ts';
import { columnsOf } from './read-project.ts';
import { showText } from './report-writing.ts';
import { runOptions, tellUnfinished } from './unfinished.ts';

type Options = CheckedOptions<typeof declaration.options>;

export async function pack(raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const at = options.at === undefined ? null : newPlace(options.at);
  if (options.at !== undefined && at === null) throw fail('bad-place', options.at);
  const { root, from } = workPlace(options.dir, output);
  const run = () => new Packing(options, at, root, from, output).run();
  if (!options.dryRun)
    return whileLocked(
      root,
      () => {
        const target = finishPlacing(root);
        if (target !== null) output.note(`An earlier copy was put in its place: ${visible(target)}.`);
        return run();
      },
      { ...runOptions(output, options), leavesUnfinished: true },
    );
  return run();
}

class Packing {
  constructor(
    readonly options: Options,
    /** Where it is to be published instead. */
    readonly at: NewPlace | null,
    readonly root: DiskPath,
    readonly from: DiskPath,
    readonly output: Output,
  ) {}

  async run(): Promise<number> {
    const { options, root, output } = this;
    const check = new ProjectCheck(shownFromHere(root), { from: this.from });
    const checked = await this.#look(check, 'reading');
    const project = check.opened;
    const target = options.dryRun ? null : this.#target(project, checked.root);
    if (await tellUnfinished(root, output)) return 2;
    const { unread } = checked.site;
    if (unread.length > 0)
      throw fail(
        'pack-unread',
        shortList(
          unread.map(({ file }) => file),
          3,
        ),
      );
    this.#refuseLinksOut(project, checked);
    const amount = this.#failing(checked);
    if (amount > 0 && !options.allTheSame) {
      showText(reportOf(checked.site), {}, output);
      output.note(
        `Nothing was packed: ${count(amount, 'finding')} would reach visitors. Mend them, or pack all the same: --all-the-same`,
      );
      return 1;
    }
    const choice = this.#choose(project, check.usedFiles());
    if (target !== null && target.form !== 'folder') this.#refuseNames(choice.taken);
    const files = new CopiedFiles(choice.taken, (path) => loadFile(checked.root, path));
    const copy = await this.#copy(files, project, check.usedFiles());
    if (target === null) {
      this.#tell({ choice, copy, project, amount, files: files.paths().length, bytes: null });
      output.note('Dry run: nothing was written.');
      return 0;
    }
    return whileHeldBack(async ({ endIfAsked }) => {
      const copying = showProgress(output, { verb: 'copying', noun: 'file' });
      const tell = yielding(copying.tell, endIfAsked);
      const beside = beginPlacing(root, target);
      try {
        const staged = await stageCopy(target, beside.staged, checked.root, files, tell).finally(copying.end);
        const bad = await this.#checkCopy(beside.staged, project, copy, amount, endIfAsked);
        if (bad) return 1;
        const { published } = copy;
        const address = published === null ? null : published.origin + published.folder;
        const writing = showProgress(output, { verb: 'writing', noun: 'file' });
        const placed = await placeCopy(
          root,
          target,
          beside,
          staged,
          address,
          yielding(writing.tell, endIfAsked),
        ).finally(writing.end);
        this.#tell({ choice, copy, project, amount, files: staged.length, bytes: placed.bytes });
        if (placed.unnoted !== null)
          output.note(
            `What was packed could not be noted (${visible(placed.unnoted)}): cravel visit will not know of it.`,
          );
        return 0;
      } catch (error) {
        throw asRefusal(error, target.shown);
      } finally {
        endPlacing(root, beside);
      }
    });
  }

  async #look(check: ProjectCheck, verb: string, endIfAsked: () => void = () => {}): Promise<Checked> {
    const reading = showProgress(this.output, { verb, noun: 'file', afterwards: 'judging' });
    try {
      return await check.look(yielding(reading.tell, endIfAsked));
    } finally {
      reading.end();
    }
  }

  #target({ prefix }: Project, site: DiskPath): PackTarget {
    const { options, root, from } = this;
    // A site with a folder of its own in the project has room beside it.
    const usual = prefix === '' ? null : below(root, 'dist');
    const to = options.to ?? usual;
    if (to === null) throw fail('pack-where');
    const target = packTarget(to, from, root, site);
    checkTarget(root, target, options.replace);
    return target;
  }

  #refuseLinksOut({ inventory }: Project, { linksOut }: Checked): void {
    const taken = [...linksOut].filter(
      ([path]) => inventory.files.has(path) || inventory.folders.has(`${path}/`),
    );
    if (taken.length === 0) return;
    throw fail(
      'pack-links-out',
      shortList(
        taken.map(([path, to]) => `${path} (to ${to})`),
        3,
      ),
    );
  }

  #refuseNames(taken: readonly string[]): void {
    const bad = taken.filter((path) =>
      path.split('/').some((step) => isKeptByWindows(step) || UNPACKABLE.test(step)),
    );
    if (bad.length > 0) throw fail('pack-names', shortList(bad, 3));
  }

  #failing({ site, failOn }: Pick<Checked, 'site' | 'failOn'>): number {
    return site.findings.filter(picker(failOn ?? failing)).length;
  }

  #choose({ inventory }: Project, used: ReadonlySet<string>): Choice {
    const { options } = this;
    const globs = options.with.flatMap(splitList);
    const anywhere = globs.map((glob) => (glob.includes('/') ? glob : `**/${glob}`));
    const isWanted = globs.length === 0 ? () => false : globMatcher(anywhere);
    return chooseFiles({ inventory, used, isWanted, onlyUsed: options.onlyUsed });
  }

  async #copy(files: CopiedFiles, { settings }: Project, used: ReadonlySet<string>): Promise<PackedCopy> {
    const { options, output } = this;
    const shrinking = showProgress(output, { verb: 'shrinking', noun: 'file' });
    try {
      return await makeCopy(
        {
          files,
          settings,
          used,
          published: publishedAt(settings['published-at']),
          at: this.at,
          shrinker: options.shrink ? (await import('../disk/shrinker.ts')).shrinker : null,
          namedByContent: options.namedByContent,
          digestOf,
          hashOf: hashOfAll,
        },
        shrinking.tell,
      );
    } finally {
      shrinking.end();
    }
  }

  /** True where the copy fails visitors in a way that the site does not. */
  async #checkCopy(
    folder: DiskPath,
    { settings }: Project,
    copy: PackedCopy,
    known: number,
    endIfAsked: () => void,
  ): Promise<boolean> {
    const { output } = this;
    const project = await openProject(folder, { settings: settingsOfCopy(settings, copy) });
    const checked = await this.#look(new ProjectCheck(folder, { project }), 'checking', endIfAsked);
    const amount = this.#failing({ site: checked.site, failOn: settings['fail-on'] });
    if (amount <= known && checked.site.unread.length === 0) return false;
    showText(reportOf({ ...checked.site, folder: 'the copy' }), {}, output);
    output.note(
      'Nothing was packed: the copy would fail visitors where the site does not. What made the difference is named above; leave out the option that did it.',
    );
    return true;
  }

  #tell(told: {
    readonly choice: Choice;
    readonly copy: PackedCopy;
    readonly project: Project;
    readonly amount: number;
    readonly files: number;
    readonly bytes: number | null;
  }): void {
    const { options, output } = this;
    const paint = paintFor(output.stdout, output.env);
    const left = new Map(told.choice.left);
    if (told.project.leaves.length > 0) left.set('leave-out names it', told.project.leaves);
    output.out(
      packingAsText(
        {
          to: shownTarget(options.to ?? 'dist'),
          files: told.files,
          bytes: told.bytes,
          copy: told.copy,
          left,
          failing: told.amount,
        },
        {
          paint,
          columns: columnsOf(output),
          most: output.stdout.isTTY ? MOST_LINES : Number.POSITIVE_INFINITY,
        },
      ),
    );
    if (told.bytes === null) return;
    const address = told.copy.published?.origin.endsWith('.invalid') ? null : told.copy.published;
    output.note(
      `Next: publish it, then ask the host for every file of it: cravel visit${address === null ? ' <address>' : ''}`,
    );
  }
}

/** What parts or ends the steps of a path on some system. */
const UNPACKABLE = /[\\:\p{Cc}]/u;

/** As somebody wrote it, but for how its steps are parted; a whole path is shown as the system has it. */
function shownTarget(to: string): string {
  return isAbsolute(to) ? to : withSlashes(to);
}

/** Lines on a terminal of what is left out, at most. */
const MOST_LINES = 20;

function reportOf(site: SiteReport): Report {
  return { cravel: 2, sites: [site] };
}
