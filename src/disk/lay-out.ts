/** Writes a layout into a folder: all of it or nothing, and never over a file that is there. */
import {
  constants,
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  renameSync,
  rmdirSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { fail } from '../core/errors.ts';
import { folderOf } from '../core/site/inventory.ts';
import type { Layout } from '../core/starter/render.ts';
import { reasonOf } from './reason.ts';
import { lstatOrNull } from './stat.ts';

/** The files of `layout` that stand in `folder` already. */
export function inTheWay(folder: string, layout: Layout): string[] {
  return [...layout.files.keys()].filter((path) => lstatOrNull(join(folder, path)) !== null);
}

/**
 * Writes what `folder` lacks of `layout`. Everything is first written beside it, then put in place; if
 * that fails half-way, what was put there is taken out again. Throws a `CravelError`.
 */
export function layOut(folder: string, layout: Layout): void {
  const parent = firstExisting(dirname(folder));
  let staging: string | null = null;
  try {
    staging = mkdtempSync(join(parent, `.${basename(folder)}-`));
    // A temporary folder is closed to others; the one inside gets the usual permissions.
    const whole = join(staging, basename(folder));
    mkdirSync(whole);
    for (const path of layout.folders) mkdirSync(join(whole, path), { recursive: true });
    for (const [path, bytes] of layout.files) {
      mkdirSync(join(whole, folderOf(path)), { recursive: true });
      writeFileSync(join(whole, path), bytes);
    }
    if (existsSync(folder)) fillIn(whole, folder, layout);
    else {
      mkdirSync(dirname(folder), { recursive: true });
      renameSync(whole, folder);
    }
  } catch (error) {
    throw fail('refused', folder, reasonOf(error));
  } finally {
    if (staging !== null) rmSync(staging, { recursive: true, force: true });
  }
}

function fillIn(source: string, folder: string, layout: Layout): void {
  const undo: (() => void)[] = [];
  const ensureFolder = (path: string) => {
    if (path === '' || existsSync(join(folder, path))) return;
    ensureFolder(folderOf(path.slice(0, -1)));
    mkdirSync(join(folder, path));
    undo.push(() => rmdirSync(join(folder, path)));
  };
  const present = new Set(inTheWay(folder, layout));
  try {
    for (const path of layout.folders) ensureFolder(path);
    for (const path of layout.files.keys()) {
      if (present.has(path)) continue;
      ensureFolder(folderOf(path));
      copyFileSync(join(source, path), join(folder, path), constants.COPYFILE_EXCL);
      undo.push(() => rmSync(join(folder, path)));
    }
  } catch (error) {
    for (const step of undo.reverse()) step();
    throw error;
  }
}

function firstExisting(folder: string): string {
  let here = folder;
  while (!existsSync(here)) here = dirname(here);
  return here;
}
