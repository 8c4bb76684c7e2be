/** Puts scripts in an order in which each finds what it needs. */
import { pushTo } from '../group-by.ts';
import type { ScriptNames } from './made-names.ts';

/** What is known of scripts, by their paths. */
export interface Scripts {
  namesOf(path: string): ScriptNames;
  /** Null where there is none. */
  textOf(path: string): string | null;
}

/** Scripts that may fill what one of them makes. */
const MOST_ASKED = 100;

/** Those that others need come before them; else the order stays. A circle is left as it is. */
export function inOrderOfNeeds(paths: readonly string[], scripts: Scripts): string[] {
  const makers = new Map<string, string>();
  for (const path of paths)
    for (const name of scripts.namesOf(path).makes) if (!makers.has(name)) makers.set(name, path);
  // What nobody is known to make may be made by those of which not all is known.
  const open = paths.filter((path) => scripts.namesOf(path).isOpen);
  let opened = 0;
  const ordered = new Set<string>();
  const visiting = new Set<string>();
  const visit = (path: string) => {
    if (visiting.has(path)) return;
    visiting.add(path);
    const { needs, reads } = scripts.namesOf(path);
    for (const name of needs) {
      const maker = makers.get(name);
      if (maker !== undefined) visit(maker);
      // Each of them once, whoever needs it.
      else while (opened < open.length) visit(open[opened++] as string);
    }
    for (const member of reads) for (const other of addersOf(member)) visit(other);
    ordered.add(path);
  };
  const needing = new Map<string, string[]>();
  for (const path of paths) for (const name of scripts.namesOf(path).needs) pushTo(needing, name, path);
  /** Scripts that put a member into what another one makes; of very many nobody is asked. */
  const addersOf = (member: string) => {
    const [name = '', key = ''] = member.split('.');
    const others = needing.get(name) ?? [];
    const maker = makers.get(name);
    const owners = maker === undefined ? open : [maker];
    if (!/^[\w$]+$/.test(key) || others.length < 2) return [];
    if (others.length > MOST_ASKED || owners.length > MOST_ASKED) return [];
    // As an assignment has it, or a list of keys.
    const word = key.replaceAll('$', '\\$');
    const pattern = new RegExp(`\\.${word}\\s*=(?!=)|(["'])${word}\\1`);
    const adds = (path: string) => pattern.test(scripts.textOf(path) ?? '');
    if (owners.some(adds)) return [];
    return others.filter((path) => !scripts.namesOf(path).reads.includes(member) && adds(path));
  };
  for (const path of paths) visit(path);
  return [...ordered];
}
