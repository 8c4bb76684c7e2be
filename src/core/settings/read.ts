/** Reads `cravel.yaml`, and tells what is wrong in it. */
import { type Places, roles, staysInside } from '../site/places.ts';
import { Library, SETTINGS_FILE, Settings } from './settings.ts';
import { readYaml, shapeWithin, type YamlFile } from './yaml.ts';

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
