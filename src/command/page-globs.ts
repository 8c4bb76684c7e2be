/** Picks pages by the patterns that people give. */
import picomatch from 'picomatch';
import { fail } from '../core/errors.ts';
import type { Project } from '../disk/project.ts';
import { visible } from '../show/paint.ts';
import { splitList } from './lists.ts';

/** The pages whose site paths match any of `globs`, all where there are none. Throws where none does. */
export function pickPages(project: Project, globs: readonly string[]): string[] {
  const pages = project.pages();
  const wanted = globs.flatMap((list) => splitList(list));
  if (wanted.length === 0) return pages;
  const matches = picomatch(
    wanted.map((glob) => glob.replace(/^\.?\//, '')),
    { dot: true },
  );
  const { prefix } = project;
  const picked = pages.filter((path) => matches(path) || (prefix !== '' && matches(prefix + path)));
  if (picked.length === 0) throw fail('no-pages-match', visible(wanted.join(', ')));
  return picked;
}
