/** `cravel parts`: copies each part from the entry page to every page that marks or lacks it. */
import { fail } from '../core/errors.ts';
import { outlineOf } from '../core/page/outline.ts';
import { openPage, type Page } from '../core/page/page.ts';
import { isPartName, mastersOf, partsOf } from '../core/page/parts.ts';
import { fillParts, markPart, type Taken, takePart } from '../core/page/sync.ts';
import type { Project } from '../disk/project.ts';
import { visible } from '../show/escape.ts';
import { count, shortList } from '../show/paint.ts';
import type { Checked } from './declaration.ts';
import { parts as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { pickPages } from './page-globs.ts';
import { showProgress } from './progress.ts';
import { changeProject } from './project-change.ts';

type Options = Checked<typeof declaration.options>;

export async function parts(raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  if ((options.add === undefined) !== (options.from === undefined)) {
    throw fail(
      'bad-option',
      options.add === undefined ? '--from' : '--add',
      'needs the other: --add <name> --from <selector>',
    );
  }
  return changeProject(options, 'parts', output, async (project) => {
    const { site, settings } = project;
    const { entry } = settings;
    if (!site.has(entry)) throw fail('no-entry-page', entry);
    if (options.add !== undefined) addPart(project, options.add, options.from as string);
    const master = openPage(entry, site.read(entry));
    const all = partsOf(master);
    if (all.length === 0) throw fail('no-part', 'navigation', '');
    const pages = pickPages(project, options.into);
    const outcomes = options.marked
      ? new Map<Taken, string[]>()
      : await takeParts(project, master, pages, options, output);
    const strangers = strangeParts(project, pages, new Set(all.map(({ name }) => name)));
    fillParts(site, entry, [...new Set([...pages, entry])]);
    const changed = project.files.changes().length;
    const names = all.map(({ name }) => name).join(', ');
    return {
      notes: [
        ...notesOn(outcomes),
        ...strangers,
        ...(changed > 0
          ? [`In step with ${visible(entry)}: ${names}, on ${count(pages.length, 'page')}.`]
          : []),
      ],
      idle: `Nothing to do: ${names} ${all.length === 1 ? 'is' : 'are'} in step on ${count(pages.length, 'page')}.`,
    };
  });
}

/** Gives every page the parts that it lacks; tells what became of which page. */
async function takeParts(
  { site, settings }: Project,
  entry: Page,
  pages: readonly string[],
  { replace }: Options,
  output: Output,
): Promise<Map<Taken, string[]>> {
  const outcomes = new Map<Taken, string[]>();
  const outline = outlineOf(entry);
  const masters = mastersOf(entry);
  const others = pages.filter((path) => path !== settings.entry);
  const progress = showProgress(output, { verb: 'looking at', noun: 'page' });
  try {
    for (const [index, path] of others.entries()) {
      for (const master of masters.values()) {
        const taken = takePart(site, outline, master, path, replace);
        if (taken !== null) outcomes.set(taken, [...(outcomes.get(taken) ?? []), `${path} (${master.name})`]);
      }
      await progress.tell(index + 1, others.length);
    }
  } finally {
    progress.end();
  }
  return outcomes;
}

/** Notes on parts that pages mark and the entry page does not. */
function strangeParts({ site }: Project, pages: readonly string[], known: ReadonlySet<string>): string[] {
  const strange = pages.flatMap((path) =>
    partsOf(openPage(path, site.read(path)))
      .filter(({ name }) => !known.has(name))
      .map(({ name }) => `${path} (${name})`),
  );
  return strange.length === 0
    ? []
    : [`Left alone, since the entry page has no such part: ${shortList(strange, 5)}.`];
}

function addPart({ site, settings: { entry } }: Project, name: string, selector: string): void {
  if (!isPartName(name)) throw fail('bad-name', visible(name), 'part');
  const page = openPage(entry, site.read(entry));
  if (partsOf(page).some((part) => part.name === name)) throw fail('part-there', name);
  const marked = markPart(page, name, selector);
  if (marked === 'none') throw fail('no-match', visible(selector), entry);
  if (typeof marked === 'number') throw fail('many-matches', visible(selector), entry, String(marked));
  // Marks inside a part, or around one, would not pair up.
  partsOf(openPage(entry, marked));
  site.write(entry, marked);
}

function notesOn(outcomes: ReadonlyMap<Taken, readonly string[]>): string[] {
  const words: Readonly<Record<Taken, string>> = {
    marked: 'Marked where it stood already:',
    added: 'Added where it was missing:',
    replaced: 'Put in place of one that differed:',
    swallowed: 'Left alone, since they end inside of an element that is never closed:',
    differs:
      'Left alone, since they have one of their own that differs (put the part in its place with --replace):',
  };
  return [...outcomes].map(([taken, paths]) => `${words[taken]} ${shortList(paths, 5)}.`);
}
