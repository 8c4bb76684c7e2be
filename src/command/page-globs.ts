/** Picks pages by the patterns that people give. */

import { fail } from '../core/errors.ts';
import { globMatcher } from '../core/site/globs.ts';
import { withSlashes } from '../disk/disk-path.ts';
import type { Project } from '../disk/project.ts';
import { visible } from '../show/escape.ts';
import { splitList } from './lists.ts';

/** The pages whose site paths match any of `globs`, all where there are none. Throws where none does. */
export function pickPages(project: Project, globs: readonly string[]): string[] {
  const pages = project.pages();
  const wanted = globs.flatMap((list) => splitList(withSlashes(list)));
  if (globs.length === 0) return pages;
  if (wanted.length === 0) throw fail('empty-glob');
  // The site's folder by itself stands for all that is in it.
  const matches = globMatcher(wanted.map((glob) => glob.replace(/^\.?\//, '') || '**'));
  const { prefix } = project;
  const picked = pages.filter((path) => matches(path) || (prefix !== '' && matches(prefix + path)));
  if (picked.length === 0) throw fail('no-pages-match', visible(wanted.join(', ')));
  return picked;
}
