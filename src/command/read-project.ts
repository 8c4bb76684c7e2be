/** What commands share that read a project and ask something of it. */
import { type Checked, ProjectCheck } from '../disk/check.ts';
import { type DiskPath, shownFromHere } from '../disk/disk-path.ts';
import type { Output } from './output.ts';
import { showProgress } from './progress.ts';
import { workPlace } from './project-change.ts';

/** Narrowest and widest answer as text. */
const NARROWEST = 60;
const WIDEST = 120;

/** The project that somebody works in, read as a whole. */
export async function readProject(
  dir: string | undefined,
  output: Output,
): Promise<{ readonly project: ProjectCheck; readonly checked: Checked; readonly root: DiskPath }> {
  const { root, from } = workPlace(dir, output);
  const project = new ProjectCheck(shownFromHere(root), { from });
  const reading = showProgress(output, { verb: 'reading', noun: 'file', afterwards: 'looking' });
  try {
    return { project, checked: await project.look(reading.tell), root };
  } finally {
    reading.end();
  }
}

/** How wide an answer is: as the terminal allows. */
export function columnsOf({ stdout }: Output): number {
  return Math.min(Math.max(stdout.columns || 80, NARROWEST), WIDEST);
}
