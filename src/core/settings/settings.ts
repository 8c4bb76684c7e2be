/** The settings of a project, `cravel.yaml`. */
import { IsArray, IsIn, IsNotEmpty, IsObject, IsOptional, IsString } from 'class-validator';
import { type Places, roles, staysInside } from '../site/places.ts';
import { readYaml, shapeWithin, type YamlFile } from './yaml.ts';

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
}

export const scriptPlaces = ['end-of-body', 'deferred-head', 'module', 'any'] as const;
/** Where pages hold their scripts. */
export type ScriptPlace = (typeof scriptPlaces)[number];

export class Settings {
  /** The folder that gets published, from the project's folder. */
  @IsOptional()
  @IsString()
  site = '.';

  @IsOptional()
  @IsString()
  entry = 'index.html';

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

  @IsOptional()
  @IsString({ each: true })
  'fail-on'?: string[];

  @IsOptional()
  @IsObject()
  grades?: Record<string, unknown>;

  @IsOptional()
  @IsArray()
  accept?: unknown[];

  /** The starter that the project was laid out from. */
  @IsOptional()
  @IsString()
  starter?: string;

  /** What that starter's blanks were filled with. */
  @IsOptional()
  @IsObject()
  blanks: Record<string, string> = {};
}

/** Reads `cravel.yaml`; throws a `CravelError` naming the line and column of the first problem. */
export function readSettings(text: string, file: string = SETTINGS_FILE): Settings {
  const yaml = readYaml(text, file, Settings);
  const settings = yaml.value;
  for (const key of ['site', 'entry'] as const) {
    if (!staysInside(settings[key])) throw yaml.problem([key], `${key} must lie inside the project`);
  }
  checkPlaces(yaml, settings.places);
  checkTexts(yaml, ['blanks'], settings.blanks);
  for (const [name, plain] of Object.entries(settings.libraries)) {
    const path = ['libraries', name];
    const library = shapeWithin(yaml, path, Library, plain);
    settings.libraries[name] = library;
    for (const key of ['folder', 'styles', 'scripts'] as const) {
      for (const text of [library[key]].flat()) {
        if (!staysInside(text)) throw yaml.problem([...path, key], `${text} must lie inside the site`);
      }
    }
    checkTexts(yaml, [...path, 'release'], library.release);
    const stranger = library.needs.find((need) => !Object.hasOwn(settings.libraries, need));
    if (stranger !== undefined) {
      throw yaml.problem([...path, 'needs'], `${name} needs ${stranger}, which is not among the libraries`);
    }
  }
  return settings;
}

/** Throws where a place is none of the roles, or leads out of the project. */
export function checkPlaces<T>(yaml: YamlFile<T>, places: Places = {}): void {
  for (const [role, folder] of Object.entries(places)) {
    const path = ['places', role];
    if (!(roles as readonly string[]).includes(role)) {
      throw yaml.problem(path, `${role} is not one of ${roles.join(', ')}`);
    }
    if (typeof folder !== 'string' || !staysInside(folder)) {
      throw yaml.problem(path, `${role} must be a folder inside the project`);
    }
  }
}

function checkTexts<T>(yaml: YamlFile<T>, path: readonly string[], texts: Readonly<Record<string, unknown>>) {
  for (const [key, text] of Object.entries(texts)) {
    if (typeof text !== 'string') throw yaml.problem([...path, key], `${key} must be a text`);
  }
}
