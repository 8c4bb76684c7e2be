/** Spots of pages that others lead to, by number: what is kept of a file names them by that. */

export class Spots {
  /** The page of each spot, and its fragment as written. */
  readonly pages: string[] = [];
  readonly fragments: string[] = [];

  add(page: string, fragment: string): number {
    this.pages.push(page);
    return this.fragments.push(fragment) - 1;
  }
}
