/** Reads `cravel.yaml`, and tells what is wrong in it. */

import { allRules } from '../judge/index.ts';
import { grades } from '../judge/rule.ts';
import { nearestNames } from '../mend/near-names.ts';
import { publishedAt } from '../resolve/resolver.ts';
import { type Places, roles, staysInside } from '../site/places.ts';
import { Accepted, Library, SETTINGS_FILE, Settings } from './settings.ts';
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
  checkRules(yaml, settings);
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

/** Names of rules and grades, wherever they stand. */
function checkRules(yaml: YamlFile<Settings>, settings: Settings): void {
  const rules = allRules.map(({ name }) => name);
  const problem = (path: readonly string[], name: string, known: readonly string[], what: string) => {
    const near = nearestNames(name, known);
    return yaml.problem(path, `${name} is no ${what}${near === '' ? '' : `; did you mean ${near}?`}`);
  };
  for (const [rule, grade] of Object.entries(settings.grades)) {
    if (!rules.includes(rule)) throw problem(['grades', rule], rule, rules, 'rule');
    const known = [...grades, 'off'];
    if (!known.includes(grade)) throw problem(['grades', rule], String(grade), known, 'grade');
  }
  for (const [index, name] of (settings['fail-on'] ?? []).entries()) {
    const known = [...grades, ...rules];
    if (!known.includes(name)) throw problem(['fail-on', String(index)], name, known, 'grade or rule');
  }
  for (const [index, plain] of settings.accept.entries()) {
    const path = ['accept', String(index)];
    const accepted = shapeWithin(yaml, path, Accepted, plain);
    if (!rules.includes(accepted.rule)) throw problem([...path, 'rule'], accepted.rule, rules, 'rule');
    settings.accept[index] = accepted;
  }
  const published = settings['published-at'];
  if (published !== undefined && publishedAt(published) === null) {
    throw yaml.problem(
      ['published-at'],
      'published-at must be an http(s) address, such as https://gullhaven.example/ferry/',
    );
  }
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
