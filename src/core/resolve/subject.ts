/** What is judged: a reference, where it leads, and the site that it stands in. */
import type { Content } from '../read/content.ts';
import type { Reference } from '../read/reading.ts';
import type { Inventory } from '../site/inventory.ts';
import type { Places } from '../site/places.ts';
import type { Published } from './published.ts';
import type { Target } from './resolve.ts';

/** The site as rules see it. */
export interface SiteView {
  readonly inventory: Inventory;
  readonly published: Published | null;
  readonly places: Places;
  readonly entry: string;
  /** The anchors of the page at a site path; null where that file is not a page that was read. */
  anchorsOf(path: string): ReadonlySet<string> | null;
  /** What a file is by its first bytes. */
  contentOf(path: string): Content;
  /** True where the file is what an integrity value promises. */
  holds(path: string, integrity: string): boolean;
}

/** A reference of a file, and where it leads. */
export interface Subject {
  readonly file: string;
  /** What its addresses resolve against, as a site path; null where that lies outside of the site. */
  readonly base: string | null;
  readonly reference: Reference;
  readonly target: Target;
  /** The file that a host answers with; null where there is none. */
  readonly found: string | null;
  readonly site: SiteView;
}
