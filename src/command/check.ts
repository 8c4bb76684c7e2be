/** `cravel check`: reads sites, and reports what fails in them and where. */

import { basename, join } from 'node:path';
import { CravelError, fail } from '../core/errors.ts';
import { groupBy } from '../core/group-by.ts';
import { inAll, type Report } from '../core/report.ts';
import { SETTINGS_FILE } from '../core/settings/settings.ts';
import { INDEX } from '../core/site/formats.ts';
import { type Checked, ProjectCheck, type Unasked } from '../disk/check.ts';
import { around, below, pointedTo, shownFromHere, withSlashes } from '../disk/disk-path.ts';
import { linesOf } from '../disk/lines.ts';
import { type NamedProject, projectOf } from '../disk/project.ts';
import { statOrNull } from '../disk/stat.ts';
import { visible } from '../show/escape.ts';
import type { Fails } from '../show/junit.ts';
import { count, shortList } from '../show/paint.ts';
import type { Checked as CheckedOptions } from './declaration.ts';
import { check as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { showProgress } from './progress.ts';
import { chosenBy, writeReport } from './report-writing.ts';
import { tellUnfinished } from './unfinished.ts';

type Options = CheckedOptions<typeof declaration.options>;

export async function check(folders: readonly string[], raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const { isPart, isWanted, failsBy } = chosenBy(options);
  if (options.watch && options.as !== 'text' && options.out === undefined)
    throw fail('watched-format', options.as);
  const named = await projectsOf(folders.length > 0 ? folders : ['.'], options.dir);
  const reading = showProgress(output, {
    verb: 'reading',
    noun: 'file',
    ...(options.online ? {} : { afterwards: 'judging' }),
  });
  const asking = showProgress(output, { verb: 'asking for', noun: 'address', plural: 'addresses' });
  const checkOf = ({ root, within }: NamedProject) =>
    new ProjectCheck(root, {
      online: options.online,
      out: options.out,
      within,
      isWanted,
      asking: (done, total) => {
        reading.end();
        return asking.tell(done, total);
      },
    });
  for (const { root, within } of named)
    if (within.length > 0)
      output.note(
        `The whole project ${visible(root)} is read, as its ${SETTINGS_FILE} says; what lies in ${within.map(visible).join(', ')} is told.`,
      );
  const isWithin = named.some(({ within }) => within.length > 0);
  const ofPart = isPart ? 'Nothing of that is found.' : isWithin ? 'Nothing is found there.' : undefined;
  const tell = async (all: readonly Checked[]) => {
    const failingIn = new Map(all.map((one) => [one.site, failsBy(one.failOn)]));
    const fails: Fails = (site, finding) => failingIn.get(site)?.(finding) ?? false;
    await write(all, fails, options, ofPart, output);
    tellUnread(all, options, output);
    for (const checked of all) tellAccepted(checked, output);
    for (const { stale } of all) tellStale(stale, output);
    for (const { linksOut } of all) tellLinksOut(linksOut, output);
    for (const { unasked } of all) tellUnasked(unasked, output);
    const isUnread = all.some(
      ({ site, unasked }) => site.unread.length > 0 || unasked.some(({ isOurs }) => isOurs),
    );
    for (const { root } of named) tellWhole(root, output);
    const unfinished = await Promise.all(named.map(({ root }) => tellUnfinished(pointedTo(root), output)));
    if (isUnread || unfinished.includes(true)) return 2;
    return all.some(({ site }) => site.findings.some((finding) => fails(site, finding))) ? 1 : 0;
  };
  const look = async (project: ProjectCheck) => {
    try {
      return await project.look(reading.tell);
    } finally {
      reading.end();
      asking.end();
    }
  };
  const [first, second] = named;
  if (options.watch && first !== undefined) {
    if (second !== undefined) throw fail('one-at-a-time', named.map(({ root }) => root).join(', '));
    const { watch } = await import('./watch.ts');
    const project = checkOf(first);
    const watching = { look: () => look(project), tell: (one: Checked) => tell([one]), out: options.out };
    return watch(project, watching, output);
  }
  return tell(await lookAtAll(named, (one) => look(checkOf(one))));
}

/** Looks at projects and at those within them, which are sites of their own and are added to `named`. */
async function lookAtAll(
  named: NamedProject[],
  look: (one: NamedProject) => Promise<Checked>,
): Promise<Checked[]> {
  const all: Checked[] = [];
  const waiting = named.map((one) => ({ one, isNamed: true }));
  // Those within a project come behind it.
  for (let next = waiting.shift(); next !== undefined; next = waiting.shift()) {
    const { one, isNamed } = next;
    const checked = await (isNamed ? look(one) : look(one).catch(nullWhereEmpty));
    if (checked === null) continue;
    const inner = innerProjects(one, checked).filter(
      ({ root }) => !named.some((other) => pointedTo(other.root) === pointedTo(root)),
    );
    named.push(...inner);
    waiting.unshift(...inner.map((found) => ({ one: found, isNamed: false })));
    // A folder that only holds projects is no site.
    if (checked.site.pages > 0 || inner.length === 0) all.push(checked);
  }
  return all;
}

/** What nobody named may be a project that has no page yet. */
function nullWhereEmpty(error: unknown): null {
  if (error instanceof CravelError && ['no-pages', 'empty-folder'].includes(error.code)) return null;
  throw error;
}

/** The projects within one that was named as a whole, or in the folders of it that were named. */
function innerProjects({ within }: NamedProject, { root, borders }: Checked): NamedProject[] {
  return [...borders]
    .filter((folder) => within.length === 0 || within.some((one) => folder.startsWith(one)))
    .map((folder) => ({ root: shownFromHere(below(root, folder.slice(0, -1))), within: [] }));
}

/** The projects that folders are in, each once. */
async function projectsOf(folders: readonly string[], dir: string | undefined): Promise<NamedProject[]> {
  const all = await Promise.all(folders.map((folder) => projectOf(withSlashes(folder), dir)));
  return [...groupBy(all, ({ root }) => pointedTo(root)).values()].map((same) => {
    const isWhole = same.some(({ within }) => within.length === 0);
    const within = new Set(isWhole ? [] : same.flatMap((one) => one.within));
    return { root: same[0]?.root as string, within: [...within] };
  });
}

/** A folder without settings that lies in a site, as it seems, is checked as one of its own: people may have meant that site. */
function tellWhole(folder: string, { note }: Output): void {
  const root = pointedTo(folder);
  if (statOrNull(below(root, SETTINGS_FILE)) !== null) return;
  if (statOrNull(below(around(root), INDEX)) === null) return;
  const above = withSlashes(join(folder, '..'));
  const shown = folder === '.' ? 'this folder' : visible(folder);
  note(
    `There is an ${INDEX} in the folder above. If ${shown} is part of that site, check it all: cravel check ${visible(above)}`,
  );
}

/** Where the text report is not what is seen, and does not name them here. */
function tellUnread(all: readonly Checked[], { as, out }: Options, output: Output): void {
  const amount = inAll(
    all.map(({ site }) => site),
    ({ unread }) => unread.length,
  );
  if (amount === 0 || (as === 'text' && out === undefined)) return;
  output.note(
    `${count(amount, 'file')} could not be read: the report names ${amount === 1 ? 'it' : 'them'}.`,
  );
}

function tellLinksOut(linksOut: Checked['linksOut'], output: Output): void {
  if (linksOut.size === 0) return;
  const links = [...linksOut].map(([path, to]) => `${path} (to ${to})`);
  output.note(
    `${count(linksOut.size, 'link')} out of the site, followed here, and not on a host that gets the folder alone: ${shortList(links, EXAMPLES)}.`,
  );
}

function tellStale(stale: Checked['stale'], output: Output): void {
  for (const [name, lacking] of stale)
    output.note(
      `cravel.yaml has the library ${visible(name)}, and there is no ${visible(lacking)}: take the entry out, or adopt the library again.`,
    );
}

/** How many addresses are named as examples of those that could not be asked for. */
const EXAMPLES = 3;

function tellUnasked(unasked: readonly Unasked[], output: Output): void {
  for (const [why, all] of groupBy(unasked, (one) => one.why)) {
    const named = all.slice(0, EXAMPLES).map(({ address }) => visible(address));
    const more = all.length > EXAMPLES ? `, and ${count(all.length - EXAMPLES, 'more')}` : '';
    output.note(`Cannot tell (${visible(why)}): ${named.join(', ')}${more}.`);
  }
}

/** Writes the report to stdout, or as a whole to the file that `--out` names. */
async function write(
  all: readonly Checked[],
  fails: Fails,
  options: Options,
  ofPart: string | undefined,
  output: Output,
): Promise<void> {
  const report: Report = { cravel: 2, sites: all.map(({ site }) => site) };
  const named = all.map(({ root }) => ({ name: basename(pointedTo(root)), lineOf: linesOf(root) }));
  await writeReport(report, named, fails, { ...options, ofPart, fits: options.watch }, output);
}

function tellAccepted({ site: { accepted }, idle }: Checked, output: Output): void {
  if (accepted.length > 0)
    output.note(`Accepted by cravel.yaml, and left out: ${count(accepted.length, 'finding')}.`);
  for (const { rule, file, because } of idle) {
    const what = [rule, file].filter((text) => text !== undefined).join(' in ');
    output.note(
      `cravel.yaml accepts ${visible(what)} (${visible(because)}), and nothing like it is found: take the entry out.`,
    );
  }
}
