/** How files are wired in a project, by its settings. */
import { loadOrder } from '../order/order.ts';
import { ScriptUses } from '../order/script-uses.ts';
import type { WireSettings } from '../page/loaders.ts';
import type { Places } from '../site/places.ts';
import type { Settings } from './settings.ts';

/** `textOf` gives the text of a file of the site; null where there is none. */
export function wireSettings(
  settings: Settings,
  places: Places,
  textOf: (path: string) => string | null = () => null,
): WireSettings {
  const { libraries } = settings;
  const all = Object.values(libraries);
  return {
    order: loadOrder(libraries, places.libraries),
    scriptsGo: settings['scripts-go'],
    scripts: new ScriptUses(textOf),
    provided: all.flatMap(({ provides }) => provides),
    otherBuild(path) {
      for (const { folder, release } of all) {
        for (const [readable, minified] of Object.entries(release)) {
          if (path === `${folder}/${readable}`) return `${folder}/${minified}`;
          if (path === `${folder}/${minified}`) return `${folder}/${readable}`;
        }
      }
      return null;
    },
  };
}
