/** Makes the mends of what a check of a real project finds, in its files as they are going to be. */
import { type Mended, mendAll, type ToMend } from '../core/mending/mending.ts';
import { openPage } from '../core/page/page.ts';
import { type Progress, ProjectCheck } from './check.ts';
import { shownFromHere } from './disk-path.ts';
import type { Project } from './project.ts';

/** What somebody wants mended, and how. */
export type Wishes = Pick<ToMend, 'isWanted' | 'choose' | 'ask'>;

/** The files of `project` get their mends; nothing is written to the disk. */
export async function mendProject(
  project: Project,
  { isWanted, choose, ask }: Wishes,
  progress: Progress = () => {},
): Promise<Mended> {
  const check = new ProjectCheck(shownFromHere(project.root), { project });
  const { site } = await check.look(progress);
  const { description } = project.settings.blanks;
  return mendAll(
    {
      files: project.site,
      judge: async (changed) => (await check.lookAtChanges(changed)).site.findings,
      choose,
      ask: async (finding, question) => {
        const { file, message } = finding;
        if (file === project.settings.entry && /description/.test(message) && description) return description;
        return ask(finding, question);
      },
      isWanted,
      words: { language: languageOf(project) },
    },
    site.findings,
  );
}

/** The language of the site: as it was laid out, else as its entry page says. */
function languageOf({ settings, site }: Project): string | null {
  const { language } = settings.blanks;
  if (language !== undefined && language !== '') return language;
  if (!site.has(settings.entry)) return null;
  return openPage(settings.entry, site.read(settings.entry)).reading.page?.language?.trim() || null;
}
