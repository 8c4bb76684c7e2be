/** How files are wired in a project, by its settings. */
import { loadOrder } from '../order/order.ts';
import type { WireSettings } from '../page/loaders.ts';
import type { Places } from '../site/places.ts';
import type { Settings } from './settings.ts';

export function wireSettings(settings: Settings, places: Places): WireSettings {
  const { libraries } = settings;
  const all = Object.values(libraries);
  return {
    order: loadOrder(libraries, places.libraries),
    scriptsGo: settings['scripts-go'],
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
