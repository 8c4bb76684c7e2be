/** Elements that a page has already, and that are to load another build, or be held to other bytes. */
import type { Edit } from '../change/edit.ts';
import { relativePath } from '../mend/address.ts';
import { folderOf } from '../site/inventory.ts';
import { addressAttribute, attributeRemoval, valueEdit } from './attributes.ts';
import { familyOf, keyOf, type Loader, placeIn, type WireSettings, type Wiring } from './loaders.ts';
import { escapeMarkup, type Page } from './page.ts';
import type { Tagged } from './tags.ts';

export function isOtherBuild({ path }: Loader, wired: string, { areBuilds }: WireSettings): boolean {
  return path !== null && areBuilds(path, wired);
}

/** Edits to elements that a page has already. */
export class Renewal {
  readonly edits: Edit[] = [];
  readonly swapped: string[] = [];
  constructor(
    readonly page: Page,
    readonly base: string,
  ) {}

  /** Gives an element another build to load, or what it is to be held to; gives the loaders as they are then. */
  renew(wiring: Wiring, loaders: readonly Loader[], settings: WireSettings): readonly Loader[] {
    const { kind, path, integrity } = wiring;
    const family = familyOf(kind);
    const same = loaders.find((one) => keyOf(one) === keyOf({ family, ...placeIn(path) }));
    if (same !== undefined) {
      const { element, hosted } = same;
      if (element !== null && hosted !== null && integrity !== undefined) this.#hold(element, integrity);
      return loaders;
    }
    const other = loaders.find((one) => one.family === family && isOtherBuild(one, path, settings));
    if (!settings.swaps || other === undefined || other.element === null) return loaders;
    const { page, base } = this;
    const attribute = addressAttribute(other.element);
    this.edits.push(
      ...valueEdit(page, other.element, attribute, relativePath(folderOf(base), path)),
      // It held the browser to other bytes.
      ...attributeRemoval(page, other.element, 'integrity'),
    );
    this.swapped.push(path);
    return loaders.map((one) => (one === other ? { ...one, path, element: null } : one));
  }

  #hold(element: Tagged, integrity: string): void {
    const { page } = this;
    if (element.attribute('integrity') === integrity) return;
    if (element.attribute('integrity') !== null) {
      this.edits.push(...valueEdit(page, element, 'integrity', integrity));
      return;
    }
    const behind = element.rangeOf(addressAttribute(element))?.end;
    if (behind === undefined) return;
    // Another host shows what it sends only to those whom it allows (HTML 2.5.4).
    const crossorigin = element.attribute('crossorigin') === null ? ' crossorigin="anonymous"' : '';
    this.edits.push({
      start: behind,
      end: behind,
      text: ` integrity="${escapeMarkup(integrity)}"${crossorigin}`,
    });
  }
}
