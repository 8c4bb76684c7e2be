/** Loads the demo that comes with Cravel: a sound site, and mistakes to plant in a copy of it. */

import { tmpdir } from 'node:os';
import { IsArray, IsOptional, IsString } from 'class-validator';
import { fail } from '../core/errors.ts';
import { readYaml, shapeWithin, type YamlFile } from '../core/shape/yaml.ts';
import type { Layout } from '../core/starter/render.ts';
import { asWritten, below, type DiskPath } from './disk-path.ts';
import { mkdtempSync, readdirSync, readFileSync } from './fs.ts';
import { listSite } from './inventory.ts';
import { packageFolder } from './package.ts';
import { reasonOf } from './reason.ts';
import { statOrNull } from './stat.ts';

/** One mistake: a text of a file replaced, or a file renamed. */
export class Mistake {
  /** What somebody did, in a sentence. */
  @IsString()
  what!: string;

  /** The rule that finds it. */
  @IsString()
  rule!: string;

  @IsString()
  file!: string;

  @IsOptional()
  @IsString()
  find?: string;

  @IsOptional()
  @IsString()
  write?: string;

  @IsOptional()
  @IsString()
  rename?: string;
}

class Mistakes {
  @IsArray()
  mistakes!: Mistake[];
}

export interface Demo {
  readonly layout: Layout;
  readonly mistakes: readonly Mistake[];
}

/** The folder that was named, which must be empty or not there; else a new one for temporary files. */
export function demoFolder(named: DiskPath | null): DiskPath {
  if (named === null) {
    try {
      return mkdtempSync(below(asWritten(tmpdir()), 'cravel-demo-'));
    } catch (error) {
      throw fail('no-temporary-folder', tmpdir(), reasonOf(error));
    }
  }
  const stats = statOrNull(named);
  if (stats?.isDirectory() === false) throw fail('no-folder-there', named);
  const present = stats === null ? [] : readdirSync(named);
  if (present.length > 0) throw fail('not-empty', named, present.slice(0, 3).join(', '));
  return named;
}

export function loadDemo(): Demo {
  const folder = below(packageFolder(), 'demo');
  const site = below(folder, 'gullhaven');
  const files = new Map<string, Uint8Array>();
  for (const path of listSite(site).inventory.files) files.set(path, readFileSync(below(site, path)));
  const yaml = readYaml(
    readFileSync(below(folder, 'mistakes.yaml')).toString(),
    'demo/mistakes.yaml',
    Mistakes,
  );
  const mistakes = yaml.value.mistakes.flatMap((plain, index) => readMistake(yaml, files, plain, index));
  yaml.done();
  return { layout: { files, folders: [] }, mistakes };
}

/** The layout with every mistake made, in order. */
export function plant(layout: Layout, mistakes: readonly Mistake[]): Layout {
  const files = new Map(layout.files);
  for (const { file, find, write, rename } of mistakes) {
    const bytes = files.get(file) ?? new Uint8Array();
    if (rename !== undefined) {
      files.delete(file);
      files.set(rename, bytes);
    } else if (find !== undefined && write !== undefined) {
      const text = new TextDecoder().decode(bytes).replace(find, () => write);
      files.set(file, new TextEncoder().encode(text));
    }
  }
  return { files, folders: layout.folders };
}

/** A mistake that can be made: its file exists and holds the text to replace. */
function readMistake(
  yaml: YamlFile<Mistakes>,
  files: ReadonlyMap<string, Uint8Array>,
  plain: unknown,
  index: number,
): Mistake[] {
  const path = ['mistakes', String(index)];
  const mistake = shapeWithin(yaml, path, Mistake, plain);
  if (mistake === null) return [];
  const bytes = files.get(mistake.file);
  if (bytes === undefined) yaml.tell([...path, 'file'], `there is no file ${mistake.file}`);
  const { find } = mistake;
  if (find !== undefined && bytes !== undefined && !new TextDecoder().decode(bytes).includes(find)) {
    yaml.tell([...path, 'find'], `${mistake.file} does not hold ${find}`);
  }
  return [mistake];
}
