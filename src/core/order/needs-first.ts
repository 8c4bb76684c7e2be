/** Puts scripts in an order in which each finds what it needs. */
import type { ScriptNames } from './made-names.ts';

/** Those that others need come before them; else the order stays. A circle is left as it is. */
export function inOrderOfNeeds(paths: readonly string[], namesOf: (path: string) => ScriptNames): string[] {
  const makers = new Map<string, string>();
  for (const path of paths)
    for (const name of namesOf(path).makes) if (!makers.has(name)) makers.set(name, path);
  const ordered = new Set<string>();
  const visiting = new Set<string>();
  const visit = (path: string) => {
    if (visiting.has(path)) return;
    visiting.add(path);
    for (const name of namesOf(path).needs) {
      const maker = makers.get(name);
      if (maker !== undefined && maker !== path) visit(maker);
    }
    ordered.add(path);
  };
  for (const path of paths) visit(path);
  return [...ordered];
}
