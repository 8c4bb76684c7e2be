/** The manifest of a starter, `starter.yaml`. */
import { IsBoolean, IsIn, IsNotEmpty, IsObject, IsOptional, IsString } from 'class-validator';
import { checkPlaces } from '../settings/read.ts';
import { readYaml, shapeWithin, type YamlFile } from '../shape/yaml.ts';
import { type Places, type ScriptPlace, scriptPlaces, staysInside } from '../site/places.ts';

export const MANIFEST = 'starter.yaml';

/** A value that a starter asks for. */
export class Blank {
  @IsString()
  @IsNotEmpty()
  question!: string;

  /** False where nobody is asked for it, and only `--set` fills it. */
  @IsOptional()
  @IsBoolean()
  asked = true;

  /** What is used where no value is given; a template that may name the folder and earlier blanks. Empty: it may stay so. */
  @IsString()
  default!: string;

  /** A regular expression that the whole value must match. */
  @IsOptional()
  @IsString()
  pattern?: string;

  /** Told when the pattern does not match. */
  @IsOptional()
  @IsString()
  hint?: string;
}

/** A starter's manifest. */
export class Manifest {
  @IsString()
  @IsNotEmpty()
  summary!: string;

  /** The folder that gets published, from the project's folder. */
  @IsOptional()
  @IsString()
  site = '.';

  /** The folder of each role, from the site's root, which is made even where it starts empty. */
  @IsOptional()
  @IsObject()
  places: Places = {};

  /** Where a file or a folder (its name ends in `/`) of the starter goes instead, by blanks; from the project's folder. */
  @IsOptional()
  @IsObject()
  put: Record<string, string> = {};

  @IsOptional()
  @IsIn(scriptPlaces)
  'scripts-go'?: ScriptPlace;

  @IsOptional()
  @IsObject()
  blanks: Record<string, Blank> = {};

  /** The file in the starter that further pages are made from; it is no file of the project. */
  @IsOptional()
  @IsString()
  page?: string;
}

/** Reads a manifest; throws a `CravelError` naming the line of everything that is wrong. */
export function readManifest(text: string, file: string): { manifest: Manifest; yaml: YamlFile<Manifest> } {
  const yaml = readYaml(text, file, Manifest);
  const manifest = yaml.value;
  checkPlaces(yaml, manifest.places);
  for (const key of ['site', 'page'] as const) {
    if (!staysInside(manifest[key] ?? '')) yaml.tell([key], `${key} must lie inside the starter`);
  }
  for (const [from, to] of Object.entries(manifest.put)) {
    if (typeof to !== 'string' || !staysInside(from) || !staysInside(to))
      yaml.tell(['put', from], `${from} must be put somewhere inside the project`);
  }
  for (const [name, plain] of Object.entries(manifest.blanks)) {
    const path = ['blanks', name];
    if (!/^[a-z][a-z0-9]*(?:-[a-z0-9]+)*$/i.test(name) || reserved.has(name)) {
      yaml.tell(path, `${name} cannot be the name of a blank`);
    }
    const blank = shapeWithin(yaml, path, Blank, plain);
    if (blank === null) continue;
    if (blank.pattern !== undefined && !isPattern(blank.pattern)) {
      yaml.tell([...path, 'pattern'], 'pattern is not a regular expression');
    }
    manifest.blanks[name] = blank;
  }
  yaml.done();
  return { manifest, yaml };
}

/** Words that mean something of their own in a template. */
const reserved = new Set(
  'folder to beside brace closing backslash if each unless with lookup log this site heading'.split(' '),
);

function isPattern(text: string): boolean {
  try {
    new RegExp(text, 'u');
    return true;
  } catch {
    return false;
  }
}
