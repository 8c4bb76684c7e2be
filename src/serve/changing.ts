/** What the deck can do to a project: make sure mends, and take the last change back. */
import type { Change } from '../core/change/files.ts';
import type { DiskPath } from '../disk/disk-path.ts';
import { commit, whileLocked } from '../disk/journal.ts';
import { mendProject } from '../disk/mending.ts';
import { bytesForUndoBy, openProject } from '../disk/project.ts';
import { undoLast } from '../disk/undo.ts';
import { count } from '../show/paint.ts';
import { whyWithheld } from '../show/withheld.ts';
import { keyOf } from './about.ts';
import type { Done } from './messages.ts';

/** Makes the sure mends of the findings with these keys, as one change. Throws a `CravelError` where it cannot. */
export async function mendFindings(root: DiskPath, keys: ReadonlySet<string>): Promise<Done> {
  return whileLocked(root, async () => {
    const project = await openProject(root);
    const { done, withheld } = await mendProject(project, {
      isWanted: (finding) => keys.has(keyOf(finding)),
      choose: async (_finding, mends) => mends.find(({ sure }) => sure) ?? null,
      ask: async () => null,
    });
    const notes = withheld.map((one) => `Withheld: ${one.mend.title}: ${whyWithheld(one)}.`);
    const change: Change = { title: 'mend from the preview', files: project.files.changes(), folders: [] };
    if (change.files.length === 0)
      return {
        notes: notes.length > 0 ? notes : ['Nothing was mended: the files have changed since.'],
        hasChanged: false,
      };
    const why = await commit(root, change, bytesForUndoBy(project.settings));
    notes.unshift(`Mended ${count(done.length, 'finding')} in ${count(change.files.length, 'file')}.`);
    if (why !== null) notes.push(`This change cannot be taken back: ${why}.`);
    return { notes, hasChanged: true };
  });
}

export async function undoFromDeck(root: DiskPath): Promise<Done> {
  return whileLocked(root, async () => {
    const { past } = await undoLast(root);
    return { notes: [`Taken back: ${past.title}.`], hasChanged: true };
  });
}
