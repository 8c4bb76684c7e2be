/** How files are wired in a project, by its settings. */
import { buildPairs, loadOrder } from '../order/order.ts';
import { ScriptUses } from '../order/script-uses.ts';
import type { WireSettings } from '../page/loaders.ts';
import type { Places } from '../site/places.ts';
import { otherBuildsOf } from '../site/small-builds.ts';
import type { Settings } from './settings.ts';

/** `textOf` gives the text of a file of the site; null where there is none. */
export function wireSettings(
  settings: Settings,
  places: Places,
  textOf: (path: string) => string | null = () => null,
): WireSettings {
  const { libraries } = settings;
  const pairs = buildPairs(libraries);
  return {
    order: loadOrder(libraries, places.libraries),
    scriptsGo: settings['scripts-go'],
    scripts: new ScriptUses(textOf),
    provided: Object.values(libraries).flatMap(({ provides }) => provides),
    swaps: true,
    areBuilds(path, other) {
      const isPair = pairs.some((pair) => pair.includes(path) && pair.includes(other));
      return path !== other && (isPair || otherBuildsOf(path).includes(other));
    },
  };
}
