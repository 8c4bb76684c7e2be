/** What was packed of a project, and where to: kept in the state folder, never beside what is published. */

import { createHash } from 'node:crypto';
import { Equals, IsArray, IsIn, IsOptional, IsString } from 'class-validator';
import { shape } from '../core/shape/shape.ts';
import { staysInside } from '../core/site/places.ts';
import { asWritten, below, type DiskPath } from './disk-path.ts';
import { mkdirSync, readdirSync } from './fs.ts';
import { ownJson } from './own-json.ts';
import { statOrNull } from './stat.ts';
import { stateOf } from './state.ts';
import { writeWhole } from './write-whole.ts';

const packedForms = ['folder', 'zip', 'tar.gz'] as const;
export type PackedForm = (typeof packedForms)[number];

/** A file as it was packed. */
export interface PackedFile {
  /** Site path. */
  readonly path: string;
  readonly bytes: number;
  /** SHA-256 in hexadecimal. */
  readonly hash: string;
}

/** What lies at a target, and since when. */
export interface Packed {
  readonly cravel: 1;
  readonly target: string;
  readonly form: PackedForm;
  /** The SHA-256 of an archive, in hexadecimal; null for a folder. */
  readonly hash: string | null;
  /** ISO 8601. */
  readonly packed: string;
  /** The address that it is made for; null where nobody knows. */
  readonly at: string | null;
  readonly files: readonly PackedFile[];
}

class PackedShape {
  @Equals(1)
  cravel!: 1;

  @IsString()
  target!: string;

  @IsIn(packedForms)
  form!: PackedForm;

  @IsOptional()
  @IsString()
  hash: string | null = null;

  @IsString()
  packed!: string;

  @IsOptional()
  @IsString()
  at: string | null = null;

  @IsArray()
  files!: PackedFile[];
}

function isFile(file: unknown): boolean {
  const { path, bytes, hash } = (file ?? {}) as Record<string, unknown>;
  return (
    typeof path === 'string' &&
    staysInside(path) &&
    typeof bytes === 'number' &&
    /^[0-9a-f]{64}$/.test(String(hash))
  );
}

function folderFor(root: DiskPath): DiskPath {
  return below(stateOf(root), 'packed');
}

function placeFor(root: DiskPath, target: DiskPath): DiskPath {
  const name = createHash('sha256').update(target).digest('hex').slice(0, 16);
  return below(folderFor(root), `${name}.json`);
}

/** Notes what lies at a target from now on. */
export function notePacked(root: DiskPath, packed: Packed): void {
  mkdirSync(folderFor(root), { recursive: true });
  writeWhole(placeFor(root, asWritten(packed.target)), [JSON.stringify(packed)]);
}

/** What Cravel put at a target; null where that is not known. */
export function packedAt(root: DiskPath, target: DiskPath): Packed | null {
  return readPacked(placeFor(root, target));
}

/** What was packed last of a project, wherever to; null where nothing was. */
export function lastPacked(root: DiskPath): Packed | null {
  const folder = folderFor(root);
  if (statOrNull(folder)?.isDirectory() !== true) return null;
  const all = readdirSync(folder).flatMap((name) =>
    name.endsWith('.json') ? (readPacked(below(folder, name)) ?? []) : [],
  );
  return all.sort((one, other) => (one.packed < other.packed ? 1 : -1))[0] ?? null;
}

/** What is not of Cravel's making says nothing. */
function readPacked(path: DiskPath): Packed | null {
  const packed = ownJson(PackedShape, path);
  return packed?.files.every(isFile) ? packed : null;
}

/** Null where it is not what Cravel writes. */
export function packedFrom(plain: unknown): Packed | null {
  const { value, problems } = shape(PackedShape, plain);
  return problems.length === 0 && value.files.every(isFile) ? value : null;
}
