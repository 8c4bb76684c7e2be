/**
 * Where things lie on the disk. Every call that touches the disk takes a {@link DiskPath}, and these functions alone make
 * one: a path from outside (a page, an archive, the settings, a manifest) gets there by {@link below} only, which refuses
 * what leads out of its folder.
 */
import { dirname, join, relative, resolve, sep } from 'node:path';
import { fail } from '../core/errors.ts';
import { isDevice } from '../core/site/names.ts';
import { staysInside } from '../core/site/places.ts';

declare const onDisk: unique symbol;

/** A path that may be handed to the system. */
export type DiskPath = string & { readonly [onDisk]: true };

const LEADS_OUT = /^\/|(?:^|\/)\.\.(?:\/|$)|\0/;

/** What a person pointed to, from the folder that they work in. */
export function pointedTo(path: string, from = '.'): DiskPath {
  if (process.platform === 'win32' && isDevice(path) && !path.includes('.'))
    return `\\\\.\\${path}` as DiskPath;
  return resolve(from, path) as DiskPath;
}

/** The same as they wrote it, for paths that are shown again. */
export function asWritten(path: string): DiskPath {
  return path as DiskPath;
}

/** Steps are parted by `/` here, and by `\\` as well where people write so. */
export function withSlashes(path: string): string {
  return process.platform === 'win32' ? path.replaceAll('\\', '/') : path;
}

/** True for a path that stays in the folder that it starts from. */
export function staysBelow(path: string): boolean {
  // Elsewhere, a backslash is a character of a name like any other.
  return process.platform === 'win32' ? staysInside(path) : !LEADS_OUT.test(path);
}

/** A path from a folder. Throws a `CravelError` where it leads out of it. */
export function below(folder: DiskPath, path: string): DiskPath {
  if (path === '') return folder;
  if (!staysBelow(path)) throw fail('leads-out', path);
  if (process.platform === 'win32') return join(folder, path) as DiskPath;
  if (folder === '.') return path as DiskPath;
  return (folder.endsWith('/') ? folder + path : `${folder}/${path}`) as DiskPath;
}

/** The path of a place from a folder, `/`-separated; it starts with `..` where it lies elsewhere. */
export function pathFrom(folder: string, place: string): string {
  return relative(folder, place).split(sep).join('/');
}

/** A place as it is written from the current folder. */
export function shownFromHere(place: DiskPath): string {
  return pathFrom(pointedTo('.'), place) || '.';
}

/** The folder that something lies in. */
export function around(place: DiskPath): DiskPath {
  return dirname(place) as DiskPath;
}
