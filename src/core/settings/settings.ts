/** The settings of a project, `cravel.yaml`. */
import { IsArray, IsIn, IsInt, IsNotEmpty, IsObject, IsOptional, IsString, Min } from 'class-validator';
import type { GradeSettings } from '../judge/grading.ts';
import { INDEX } from '../site/formats.ts';
import { type Places, type ScriptPlace, scriptPlaces } from '../site/places.ts';

export const SETTINGS_FILE = 'cravel.yaml';

/** A library that the project has taken in. */
export class Library {
  /** Where it lies, from the site's root. */
  @IsString()
  @IsNotEmpty()
  folder!: string;

  /** Its stylesheets, from its folder, in the order in which pages load them. */
  @IsOptional()
  @IsString({ each: true })
  styles: string[] = [];

  /** Its scripts, likewise. */
  @IsOptional()
  @IsString({ each: true })
  scripts: string[] = [];

  /** The minified build of each readable one. */
  @IsOptional()
  @IsObject()
  release: Record<string, string> = {};

  /** Names that its scripts make. */
  @IsOptional()
  @IsString({ each: true })
  provides: string[] = [];

  /** Libraries that must be loaded before it. */
  @IsOptional()
  @IsString({ each: true })
  needs: string[] = [];

  /** Every file that was taken in, with the digest of its bytes: what is another one since is somebody's own. */
  @IsOptional()
  @IsObject()
  files: Record<string, string> = {};
}

/** A finding, or several, that somebody wants to keep. What is left out matches everything. */
export class Accepted {
  @IsString()
  @IsNotEmpty()
  rule!: string;

  @IsOptional()
  @IsString()
  file?: string;

  @IsOptional()
  @IsString()
  written?: string;

  @IsString()
  @IsNotEmpty()
  because!: string;
}

export class Settings {
  /** The folder that gets published, from the project's folder. */
  @IsOptional()
  @IsString()
  site = '.';

  @IsOptional()
  @IsString()
  entry = INDEX;

  @IsOptional()
  @IsString()
  'published-at'?: string;

  @IsOptional()
  @IsObject()
  places?: Places;

  @IsOptional()
  @IsIn(scriptPlaces)
  'scripts-go'?: ScriptPlace;

  @IsOptional()
  @IsObject()
  libraries: Record<string, Library> = {};

  @IsOptional()
  @IsString({ each: true })
  'leave-out': string[] = [];

  /** Grades and rules that make a check fail. */
  @IsOptional()
  @IsString({ each: true })
  'fail-on'?: string[];

  /** Rules whose grade is another one here, or of which nothing is told. */
  @IsOptional()
  @IsObject()
  grades: GradeSettings = {};

  /** Findings that are known and wanted. */
  @IsOptional()
  @IsArray()
  accept: Accepted[] = [];

  /** How much is kept of what changes replaced, so that they can be taken back; 0 for nothing. */
  @IsOptional()
  @IsInt()
  @Min(0)
  'undo-megabytes' = 200;

  /** The starter that the project was laid out from. */
  @IsOptional()
  @IsString()
  starter?: string;

  /** What that starter's blanks were filled with. */
  @IsOptional()
  @IsObject()
  blanks: Record<string, string> = {};
}
