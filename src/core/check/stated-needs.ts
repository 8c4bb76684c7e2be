/** What libraries need by the settings, on pages that load them. */
import type { PageScript } from '../order/page-script.ts';
import { holderOf } from '../read/holder.ts';
import type { NameContext } from './name-context.ts';
import type { ScriptTag } from './page-code.ts';
import type { Entry, RunList } from './run-list.ts';
import type { Lack, RunningPage } from './running-page.ts';
import { filesOf, type StatedLibraries } from './script-files.ts';

/** A library that a page loads without another one, or before it. */
interface LackingNeed {
  readonly library: string;
  readonly need: string;
  /** Numbers of the list: the library's first script, and those of what it needs. */
  readonly user: number;
  readonly makers: readonly number[];
}

export function lackingNeeds({ entries }: RunList, libraries: StatedLibraries): LackingNeed[] {
  const scriptsOf = (name: string) => {
    const files = filesOf(libraries, name);
    return [...entries.keys()].filter((index) => files.includes((entries[index] as Entry).file ?? ''));
  };
  return Object.entries(libraries).flatMap(([library, { needs }]) => {
    const [user] = needs.length === 0 ? [] : scriptsOf(library);
    if (user === undefined) return [];
    return needs.flatMap((need): LackingNeed[] => {
      // What has stylesheets alone is needed for those.
      if (filesOf(libraries, need).length === 0) return [];
      const makers = scriptsOf(need);
      const isMet = makers.some((maker) => runsBefore(entries, maker, user));
      return isMet ? [] : [{ library, need, user, makers }];
    });
  });
}

const PHASES = ['at-once', 'deferred', 'async'];

/** As far as tags say: nothing is sure of scripts that nobody waits for. */
export function runsBefore(
  scripts: readonly Pick<PageScript, 'runs'>[],
  one: number,
  other: number,
): boolean {
  const phaseOf = (index: number) => PHASES.indexOf((scripts[index] as PageScript).runs);
  return phaseOf(one) < phaseOf(other) || (phaseOf(one) === phaseOf(other) && one < other);
}

const SOURCE = holderOf('markup', 'script', 'src');

/** What is missing by name is told of the script that uses it. */
export function statedLacks(page: RunningPage, context: NameContext): Lack[] {
  const { share, list, run } = page;
  const { libraries } = context.files;
  return lackingNeeds(list, libraries).flatMap(({ library, need, user, makers }): Lack[] => {
    const own = filesOf(libraries, library);
    if (run.missing.some(({ at }) => own.includes(list.entries[at]?.file ?? ''))) return [];
    const [maker] = makers;
    const entry = list.entries[user] as Entry;
    const leftOut = filesOf(libraries, need).slice(0, 1);
    const later = maker === undefined ? null : context.called(page, list.entries[maker] as Entry);
    const missing = { ...context.plainly(page, entry, need), statedBy: library, later, leftOut };
    const { offset, length } = share.scripts[entry.tag] as ScriptTag;
    const target = maker === undefined ? (leftOut[0] ?? null) : (list.entries[maker]?.file ?? null);
    return [
      {
        page,
        file: share.file,
        span: { offset, length },
        holder: SOURCE,
        missing,
        target,
        meant: null,
        user,
        makers,
      },
    ];
  });
}
