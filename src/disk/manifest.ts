/** Reads what an open change says of itself: it lies in the project, where anybody may have written to it. */

import { Equals, IsArray, IsOptional, IsString } from 'class-validator';
import { fail } from '../core/errors.ts';
import { staysInside } from '../core/site/places.ts';
import type { DiskPath } from './disk-path.ts';
import type { Manifest } from './open-change.ts';
import { ownJson } from './own-json.ts';

class ManifestShape {
  @Equals(1)
  cravel!: 1;

  @IsString()
  title!: string;

  @IsString()
  begun!: string;

  @IsArray()
  files!: Manifest['files'];

  @IsString({ each: true })
  folders!: string[];

  @IsOptional()
  @IsString({ each: true })
  gone?: string[];
}

const HASH = /^[0-9a-f]{64}$/;

/** Throws a `CravelError` where it is not what Cravel writes. */
export function readManifest(path: DiskPath): Manifest {
  const manifest = ownJson(ManifestShape, path);
  const paths = [...(manifest?.folders ?? []), ...(manifest?.gone ?? [])];
  if (!manifest?.files.every(isEntry) || !paths.every(staysInside)) throw fail('bad-change', path);
  return manifest;
}

function isEntry(entry: unknown): boolean {
  const { path, before, after } = (entry ?? {}) as Record<string, unknown>;
  const isHash = (hash: unknown) => hash === null || (typeof hash === 'string' && HASH.test(hash));
  return typeof path === 'string' && path !== '' && staysInside(path) && isHash(before) && isHash(after);
}
