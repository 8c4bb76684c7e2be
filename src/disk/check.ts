/** Checks a real folder: lists it, reads what the check wants, and hands back the report. */
import { join } from 'node:path';
import { startCheck } from '../core/check.ts';
import { fail } from '../core/errors.ts';
import { type Sifted, sift } from '../core/judge/accept.ts';
import type { Report } from '../core/report.ts';
import { publishedAt } from '../core/resolve/resolver.ts';
import { readHead } from './head.ts';
import { openProject } from './project.ts';
import { FileReader } from './reader.ts';
import { reasonOf } from './reason.ts';

/** Told how far the reading is; awaited, so that it can let timers run. */
export type Progress = (done: number, total: number) => Promise<void> | void;

/** What a check found, and what the project's settings say of it. */
export interface Checked extends Sifted {
  /** Grades and rules that make the check fail; undefined where the settings do not say. */
  readonly failOn: readonly string[] | undefined;
  /** The folder that gets published. */
  readonly root: string;
}

/** The report alone: see {@link checkProject}. */
export async function checkFolder(folder: string, progress: Progress = () => {}): Promise<Report> {
  return (await checkProject(folder, progress)).report;
}

/** Throws a `CravelError` where `folder` is no folder, or holds no page. */
export async function checkProject(folder: string, progress: Progress = () => {}): Promise<Checked> {
  const { inventory, unread, prefix, settings, places } = await openProject(folder);
  if (inventory.files.size === 0 && unread.length === 0) throw fail('empty-folder', folder);
  const root = join(folder, prefix);
  const check = startCheck(inventory, {
    entry: settings.entry,
    places,
    published: publishedAt(settings['published-at']),
    grades: settings.grades,
    headOf: (path) => readHead(join(root, path)),
  });
  for (const { file, why } of unread) check.skip(file, why);
  const reader = new FileReader();
  let done = 0;
  for (const path of check.wanted) {
    try {
      check.take(path, reader.read(join(root, path)));
    } catch (error) {
      check.skip(path, reasonOf(error));
    }
    await progress(++done, check.wanted.length);
  }
  const report = check.report(prefix === '' ? folder : root.replace(/\/$/, ''), (path) =>
    reader.read(join(root, path)),
  );
  if (report.site.pages === 0 && unread.length === 0) {
    const files = inventory.files.size;
    throw fail('no-pages', folder, files === 1 ? '1 file' : `${files} files`);
  }
  return { ...sift(report, settings.accept), failOn: settings['fail-on'], root };
}
