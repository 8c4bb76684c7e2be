/** The manifest of a starter, `starter.yaml`. */
import { IsNotEmpty, IsObject, IsOptional, IsString } from 'class-validator';
import { readYaml, shapeWithin } from '../settings/yaml.ts';

/** A value that a starter asks for. */
export class Blank {
  @IsString()
  @IsNotEmpty()
  question!: string;

  /** What is used where no value is given; a template that may name the folder and earlier blanks. */
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

  /** The folder of each role, which is made even where it starts empty. */
  @IsOptional()
  @IsObject()
  places: Record<string, string> = {};

  @IsOptional()
  @IsObject()
  blanks: Record<string, Blank> = {};
}

const roles = ['styles', 'scripts', 'images', 'fonts', 'media', 'data', 'libraries', 'pages', 'downloads'];

/** Reads a manifest; throws a `CravelError` naming the line of the first problem. */
export function readManifest(text: string, file: string): Manifest {
  const yaml = readYaml(text, file, Manifest);
  const manifest = yaml.value;
  for (const [role, folder] of Object.entries(manifest.places)) {
    const path = ['places', role];
    if (!roles.includes(role)) throw yaml.problem(path, `${role} is not one of ${roles.join(', ')}`);
    if (typeof folder !== 'string' || !staysInside(folder)) {
      throw yaml.problem(path, `${role} must be a folder inside the project`);
    }
  }
  for (const [name, plain] of Object.entries(manifest.blanks)) {
    const blank = shapeWithin(yaml, ['blanks', name], Blank, plain);
    if (blank.pattern !== undefined && !isPattern(blank.pattern)) {
      throw yaml.problem(['blanks', name, 'pattern'], 'pattern is not a regular expression');
    }
    manifest.blanks[name] = blank;
  }
  return manifest;
}

/** True for a relative path that does not lead out of the folder it starts in. */
export function staysInside(path: string): boolean {
  return !/^[/\\]|^[a-z]:|(?:^|[/\\])\.\.(?:[/\\]|$)|\0/i.test(path);
}

function isPattern(text: string): boolean {
  try {
    new RegExp(text, 'u');
    return true;
  } catch {
    return false;
  }
}
