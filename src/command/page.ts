/** `cravel page`: adds pages from the starter's pattern, or like a page that is there. */

import { posix } from 'node:path';
import { CravelError, fail } from '../core/errors.ts';
import { inOneLine, type PageWords, pageFile, wordsFor } from '../core/page/naming.ts';
import { fillParts } from '../core/page/sync.ts';
import { withLineEnd } from '../core/site/line-ends.ts';
import { addPage, type Pattern, siteWords } from '../core/starter/add-page.ts';
import type { Starter } from '../core/starter/render.ts';
import { isFilledIn, linkFromNavigation, patternOf } from '../core/starter/scaffold.ts';
import { withSlashes } from '../disk/disk-path.ts';
import { lineEndOf } from '../disk/line-end.ts';
import type { Project } from '../disk/project.ts';
import { loadStarter } from '../disk/starters.ts';
import { visible } from '../show/escape.ts';
import { count } from '../show/paint.ts';
import type { Checked } from './declaration.ts';
import { page as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { changeProject } from './project-change.ts';
import { asker } from './questions.ts';

type Options = Checked<typeof declaration.options>;

export async function page(written: readonly string[], raw: object, output: Output): Promise<number> {
  const paths = written.map(withSlashes);
  const options = checkOptions(declaration, raw);
  for (const given of [options.title, options.description]) {
    if (given.length > 0 && given.length !== paths.length) {
      const noun = given === options.title ? 'title' : 'description';
      throw fail('more-titles', count(given.length, noun), count(paths.length, 'page'));
    }
  }
  return changeProject(options, `page ${paths.join(' ')}`, output, async (project) => {
    const { site, settings, prefix, places, standing } = project;
    const { starter, note } = starterOf(project, options.like === undefined);
    const pattern = patternFor(project, starter, options.like);
    const own = siteWords(site, settings.entry);
    const about = settings.blanks.description ?? own.description;
    const said = {
      title: settings.blanks.title ?? own.title,
      description: isFilledIn(starter, settings.blanks, about) ? about : '',
    };
    const made: string[] = [];
    const there: string[] = [];
    const linked: string[] = [];
    const lineEnd = lineEndOf(project.root, project.files.paths());
    for (const [index, wanted] of paths.entries()) {
      const file = pageFile(standing === '' ? wanted : `./${posix.join(standing, wanted)}`, places.pages);
      const derived = wordsFor(file, places.pages, said);
      const words = await wordsOf(file, derived, options, index, output);
      // What was made before is only linked to.
      const isThere = options.inNav && site.has(file);
      if (isThere) there.push(file);
      else {
        addPage(site, prefix, pattern, file, words);
        site.write(file, withLineEnd(site.read(file), lineEnd));
        made.push(file);
      }
      const before = site.has(settings.entry) ? site.read(settings.entry) : null;
      if (options.inNav && !linkFromNavigation(site, settings.entry, file, words.heading)) {
        throw fail('no-navigation', settings.entry);
      }
      if (isThere && before !== site.read(settings.entry)) linked.push(file);
    }
    fillParts(site, settings.entry, options.inNav ? project.pages() : [...made, settings.entry]);
    const next = options.inNav ? '' : ' Link to it from other pages, or call again with --in-nav.';
    return {
      notes: [
        ...note,
        ...(made.length > 0
          ? [`Made ${count(made.length, 'page')}: ${made.map(visible).join(', ')}.${next}`]
          : []),
        ...(linked.length > 0
          ? [`Linked from the navigation, and there before: ${linked.map(visible).join(', ')}.`]
          : []),
      ],
      idle: `Nothing to do: the navigation leads to ${there.map(visible).join(', ')} already.`,
    };
  });
}

function patternFor(
  { settings: { blanks, entry }, sitePath, leftOut }: Project,
  starter: Starter | null,
  like: string | undefined,
): Pattern {
  if (like === undefined) return patternOf(starter, blanks, entry);
  const path = sitePath(like);
  // A page that is there to be copied alone may be left out of what is published.
  return { from: 'page', path, bytes: leftOut(path) };
}

/** What the project was laid out from, with a note where that is gone; where it is not needed, none for one that is wrong. */
function starterOf(
  { settings: { starter: name, entry } }: Project,
  isNeeded: boolean,
): {
  starter: Starter | null;
  note: readonly string[];
} {
  if (name === undefined) return { starter: null, note: [] };
  try {
    return { starter: loadStarter(name), note: [] };
  } catch (error) {
    if (!(error instanceof CravelError)) throw error;
    if (!isNeeded) return { starter: null, note: [] };
    if (error.code !== 'unknown-starter') throw error;
    const note = `The starter ${visible(name)} is gone: made like ${visible(entry)} instead.`;
    return { starter: null, note: [note] };
  }
}

async function wordsOf(
  file: string,
  derived: PageWords,
  { title, description, yes }: Options,
  index: number,
  output: Output,
): Promise<PageWords> {
  const ask = yes ? null : await asker(output);
  const given = title[index] ?? (await ask?.text(`Title of ${visible(file)}?`, derived.title));
  const about =
    description[index] ??
    (await ask?.text(`What is ${visible(file)} about, in one sentence?`, derived.description));
  const clean = (text: string, name: string) => {
    const plain = inOneLine(text);
    if (plain === '' || /\p{Cc}/u.test(plain))
      throw fail('bad-blank', name, visible(text), 'Give it a value, or leave the option out.');
    return plain;
  };
  return {
    title: given === undefined ? derived.title : clean(given, 'title'),
    description: about === undefined ? derived.description : clean(about, 'description'),
    heading: given === undefined || given === derived.title ? derived.heading : clean(given, 'title'),
  };
}
