/** Moves files of a site: every reference to what moves, and every reference in it, follows. */

import { applyEdits, type Edit } from '../change/edit.ts';
import type { Files, OwnMarks } from '../change/files.ts';
import { isBareSpecifier } from '../check/judged.ts';
import { pushTo } from '../group-by.ts';
import { detachReference, detachShared } from '../read/detach.ts';
import { holderOf, isSpecifier } from '../read/holder.ts';
import { positionsIn } from '../read/lines.ts';
import { isPage, isRead, readFile } from '../read/read.ts';
import type { Hint, Reading, Reference } from '../read/reading.ts';
import { syntaxOf } from '../read/written-as.ts';
import { locate } from '../resolve/locate.ts';
import { type Published, resolveIn } from '../resolve/published.ts';
import { baseAddress } from '../resolve/resolve.ts';
import { INDEX } from '../site/formats.ts';
import { folderOf, type Inventory, nameOf } from '../site/inventory.ts';
import { addressEdit } from './address-edit.ts';
import { baseReference } from './base-reference.ts';
import { Links } from './links.ts';
import { readdressed } from './readdress.ts';
import { type Renaming } from './renaming.ts';

export interface ToMove {
  /** The site; what is written there is the site as it is going to be. */
  readonly files: Files;
  /** The site as it is, or as it was where its files were moved already. */
  readonly inventory: Inventory;
  readonly published: Published | null;
  readonly entry: string;
  readonly renaming: Renaming;
  /** The bytes of a file by its old path; they are good until the next are asked for. */
  bytesOf(path: string): Uint8Array;
  /** What a file has besides its bytes, where it is to keep that. */
  marksOf(path: string): OwnMarks | undefined;
  /** The files are where they are to be: only what they say is another. */
  readonly isDone: boolean;
}

/** A string that may be the address of what moves: where it stands then. */
export interface Unsure {
  readonly file: string;
  readonly line: number;
  readonly written: string;
  readonly target: string;
}

export interface Moved {
  /** Files with other paths, by the old one. */
  readonly paths: ReadonlyMap<string, string>;
  /** How many references were written anew, and in how many files. */
  readonly references: number;
  readonly files: number;
  readonly unsure: readonly Unsure[];
  /** Addresses that were written anew, by the old path of their file. */
  readonly rewritten: ReadonlyMap<string, ReadonlyMap<string, string>>;
}

/** Awaited, so that it can let timers run. */
type Progress = (done: number, total: number) => Promise<void> | void;

export async function moveFiles(toMove: ToMove, progress: Progress = () => {}): Promise<Moved> {
  return new Moving(toMove).run(progress);
}

/** The base address of a file, by now and afterwards; null where it lies outside of the site. */
interface Bases {
  readonly before: string | null;
  readonly after: string | null;
}

/** An address in a script that starts from the pages that run it. */
interface Waiting {
  readonly file: string;
  readonly reference: Reference;
  readonly isSure: boolean;
  /** It stands in what may be a piece of pages. */
  readonly isInPiece: boolean;
}

class Moving {
  readonly #paths = new Map<string, string>();
  readonly #movedNames = new Set<string>();
  readonly #links: Links;
  readonly #basesOf = new Map<string, Bases>();
  readonly #waiting: Waiting[] = [];
  readonly #edits = new Map<string, Edit[]>();
  /** Of files in another encoding than UTF-8. */
  readonly #encodings = new Map<string, string>();
  /** What addresses become, by where they start from: pages of a folder repeat most of them. */
  readonly #known = new Map<string, Map<string, string | null>>();
  readonly #rewritten = new Map<string, Map<string, string>>();
  readonly #unsure: (Pick<Unsure, 'file' | 'written' | 'target'> & { readonly offset: number })[] = [];
  #references = 0;

  constructor(readonly toMove: ToMove) {
    const { inventory, renaming, published } = toMove;
    this.#links = new Links(inventory, published);
    for (const path of inventory.files) {
      const to = renaming.of(path);
      if (to === path || inventory.aliases.has(path)) continue;
      this.#paths.set(path, to);
      // A step that changes is what an address of it has in it.
      const steps = to.split('/');
      for (const [index, step] of path.split('/').entries())
        if (step !== steps[index]) this.#movedNames.add(step);
      this.#movedNames.add(nameOf(path));
    }
  }

  async run(progress: Progress): Promise<Moved> {
    const { inventory, bytesOf } = this.toMove;
    const all = [...inventory.files].filter((path) => isRead(path) && !inventory.aliases.has(path));
    // Of pages that move, scripts start from elsewhere.
    for (const [index, path] of all.entries()) {
      const bytes = bytesOf(path);
      const reading = readFile(path, bytes);
      if (reading !== null) this.#take(path, bytes, reading);
      await progress(index + 1, all.length);
    }
    for (const waiting of this.#waiting) this.#settle(waiting);
    const files = this.#write();
    return {
      paths: this.#paths,
      references: this.#references,
      files,
      unsure: this.#unsureSpots(),
      rewritten: this.#rewritten,
    };
  }

  #encodingOf(file: string): string {
    return this.#encodings.get(file) ?? 'utf-8';
  }

  #take(file: string, bytes: Uint8Array, reading: Reading): void {
    if (reading.encoding !== 'utf-8') this.#encodings.set(file, reading.encoding);
    const { renaming, entry } = this.toMove;
    const { page } = reading;
    const bases = this.#basesFor(file, bytes, reading);
    if (page !== null) this.#basesOf.set(file, bases);
    const isPiece = page?.form === 'piece' && file !== entry && nameOf(file) !== INDEX;
    const hasMoved = renaming.of(file) !== file || bases.before !== bases.after;
    for (const reference of reading.references) {
      if (isBareSpecifier(reference)) continue;
      const { written } = reference;
      if (reference.from === 'file' || page !== null) this.#links.noteRun(file, reference, bases.before);
      const startsElsewhere = (reference.from !== 'file' && page === null) || isPiece;
      if (startsElsewhere) {
        this.#waiting.push({ file, reference: detachReference(reference), isSure: true, isInPiece: isPiece });
        if (isPiece) this.#links.note(file, reference, bases.before);
        else this.#links.noteName(file, reference.written);
        continue;
      }
      this.#links.note(file, reference, bases.before);
      // Most references of a site have nothing to do with what moves.
      if (!hasMoved && !this.#mayConcern(written)) continue;
      const address = this.#addressFrom(reference, bases);
      if (address !== null) this.#rewrite(file, bytes, reading.encoding, reference, address);
    }
    for (const hint of reading.hints) this.#takeHint(file, hint);
  }

  #mayConcern(written: string): boolean {
    const steps = written.split(/[?#]/, 1)[0]?.split(/[/\\]/) ?? [];
    // A folder's index page is named by the folder; a page may be without its extension.
    if (written.includes('%') || !steps.at(-1)?.includes('.')) return true;
    return steps.some((step) => this.#movedNames.has(step));
  }

  #basesFor(file: string, bytes: Uint8Array, reading: Reading): Bases {
    const { renaming, published } = this.toMove;
    const before = baseAddress(file, reading.base);
    if (reading.base === null) return { before, after: renaming.of(file) };
    if (before === null) return { before, after: null };
    const after = renaming.of(before);
    const base = baseReference(file, bytes);
    const own = renaming.of(file);
    const still = base && resolveIn(base.written, own, published);
    if (base !== null && still !== null && (still.in !== 'site' || still.path !== after)) {
      const { written } = base;
      const address = readdressed({
        written,
        path: before,
        to: after,
        base: own,
        isSpecifier: false,
        published,
      });
      this.#rewrite(file, bytes, reading.encoding, base, address);
    }
    return { before, after };
  }

  /** The address that a reference is to have; null where it leads nowhere in the site, or there as it is written. */
  #addressFrom(reference: Reference, bases: Bases): string | null {
    const { before, after } = bases;
    if (before === null || after === null) return null;
    const isNamed = isSpecifier(reference);
    // Of the document itself more than its folder may be asked for.
    const start = `${folderOf(before)}\n${folderOf(after)}\n${isNamed}`;
    let known = this.#known.get(start);
    if (known === undefined) {
      known = new Map();
      this.#known.set(start, known);
    }
    let address = known.get(reference.written);
    if (address === undefined) {
      address = this.#addressAnew(reference.written, isNamed, before, after);
      known.set(detachShared(reference.written), address);
    }
    return address;
  }

  #addressAnew(written: string, isSpecifier: boolean, before: string, after: string): string | null {
    const { published, inventory, isDone } = this.toMove;
    const start = /^[^?#]*/.exec(written)?.[0].trim() ?? '';
    if (start === '') return null;
    const target = resolveIn(written, before, published);
    if (target.in !== 'site') return null;
    const to = this.#pathAfter(target.path);
    // What leads nowhere stays as it is, as long as its file does.
    if (to === target.path && before === after && locate(inventory, to) === null) return null;
    const trimmed = written.trim();
    const anew = (path: string, base: string) =>
      readdressed({ written: trimmed, path: target.path, to: path, base, isSpecifier, published });
    const still = resolveIn(written, after, published);
    if (still.in === 'site') {
      if (isDone && this.#isThereNow(still.path)) return null;
      // The shortest way stays one; a longer one stays as long as it leads there.
      if (still.path === to && anew(target.path, before) !== trimmed) return null;
    }
    const address = anew(to, after);
    return address === trimmed ? null : address;
  }

  /** Where a path leads afterwards: to the same file, by its folder where that is enough. */
  #pathAfter(path: string): string {
    const { inventory, renaming } = this.toMove;
    const found = locate(inventory, path);
    if (found === null || found === path) return renaming.of(path);
    const after = renaming.of(found);
    if (nameOf(after) !== INDEX) return after;
    const folder = folderOf(after);
    return path === '' || path.endsWith('/') ? folder : folder.replace(/\/$/, '');
  }

  #isThereNow(path: string): boolean {
    const { files } = this.toMove;
    return files.has(path) || files.has(`${path.replace(/\/?$/, '/')}${INDEX}`);
  }

  #rewrite(file: string, bytes: Uint8Array, encoding: string, reference: Reference, address: string): void {
    const edit = addressEdit(bytes, encoding, reference, address);
    if (edit === null) return;
    pushTo(this.#edits, file, edit);
    const known = this.#rewritten.get(file) ?? new Map<string, string>();
    known.set(reference.written, address);
    this.#rewritten.set(file, known);
    this.#references++;
  }

  /** Strings that may be addresses of what moves. */
  #takeHint(file: string, hint: Hint): void {
    const { written, offset, length } = hint;
    if (isPage(written)) this.#links.noteName(file, written);
    if (hint.use === 'piece' || !this.#mayConcern(written)) return;
    const holder = holderOf('script', '', 'string');
    const reference: Reference = {
      kind: 'data',
      holder,
      offset,
      length,
      written,
      from: 'page',
      standing: null,
    };
    this.#waiting.push({ file, reference: detachReference(reference), isSure: false, isInPiece: false });
  }

  /** What starts from the pages that run a script is written anew where that is right for all of them. */
  #settle({ file, reference, isSure, isInPiece }: Waiting): void {
    const { entry } = this.toMove;
    const pages = this.#links.startsOf(file, isInPiece);
    const starts = pages.length > 0 ? pages : [file, entry];
    const bases = starts.map((page) => this.#basesOf.get(page) ?? this.#plainBases(page));
    const addresses = new Set(bases.map((one) => this.#addressFrom(reference, one)));
    const targets = bases.flatMap((one) => this.#targetOf(reference, one) ?? []);
    if ([...addresses].every((one) => one === null)) return;
    const [address] = addresses;
    if (isSure && pages.length > 0 && addresses.size === 1 && address) {
      const bytes = this.toMove.bytesOf(file);
      this.#rewrite(file, bytes, this.#encodingOf(file), reference, address);
      return;
    }
    // Of what is no address of anything nobody needs to know.
    const [target] = targets;
    if (target !== undefined)
      this.#unsure.push({ file, offset: reference.offset, written: reference.written, target });
  }

  #plainBases(path: string): Bases {
    return { before: path, after: this.toMove.renaming.of(path) };
  }

  /** The file that an address leads to by now, where it or its start moves. */
  #targetOf({ written }: Reference, { before }: Bases): string | null {
    const { published, inventory } = this.toMove;
    const target = before === null ? null : resolveIn(written.trim(), before, published);
    return target?.in === 'site' ? locate(inventory, target.path) : null;
  }

  /** How many files are written anew. */
  #write(): number {
    const { files, bytesOf, marksOf, isDone } = this.toMove;
    const after = new Map<string, Uint8Array>();
    for (const [file, edits] of this.#edits) {
      const bytes = bytesOf(file);
      after.set(file, applyEdits(bytes, edits, this.#encodingOf(file), syntaxOf(file)));
    }
    for (const [path, bytes] of after)
      if (isDone || !this.#paths.has(path)) files.write(this.#placeOf(path), bytes);
    if (isDone) return this.#edits.size;
    for (const [path, to] of this.#paths)
      files.move(path, to, after.get(path) ?? new Uint8Array(bytesOf(path)), marksOf(path));
    return this.#edits.size;
  }

  #placeOf(path: string): string {
    return this.#paths.get(path) ?? path;
  }

  /** With their lines, as their files stand afterwards. */
  #unsureSpots(): Unsure[] {
    return this.#unsure.map(({ file, offset, written, target }) => {
      const bytes = this.toMove.bytesOf(file);
      const { line } = positionsIn(bytes, this.#encodingOf(file))(offset);
      return { file: this.#placeOf(file), line, written, target };
    });
  }
}
