/** Reads `cravel.yaml`, and tells what is wrong in it. */

import { CravelError } from '../errors.ts';
import { gradeSettings } from '../judge/grading.ts';
import { allRules } from '../judge/index.ts';
import { nearestRules } from '../judge/pick.ts';
import { oneOf } from '../one-of.ts';
import { grades } from '../report.ts';
import { publishedAt } from '../resolve/published.ts';
import { readYaml, shapeWithin, type YamlFile } from '../shape/yaml.ts';
import { globMatcher } from '../site/globs.ts';
import { type Places, roles, staysInside } from '../site/places.ts';
import { Accepted, Library, SETTINGS_FILE, Settings } from './settings.ts';

/** Reads `cravel.yaml`; throws a `CravelError` naming the line and column of everything that is wrong. */
export function readSettings(text: string, file: string = SETTINGS_FILE): Settings {
  const yaml = readYaml(text, file, Settings);
  const settings = yaml.value;
  for (const key of ['site', 'entry'] as const) {
    if (!staysInside(settings[key])) yaml.tell([key], `${key} must lie inside the project`);
  }
  checkPlaces(yaml, settings.places);
  checkTexts(yaml, ['blanks'], settings.blanks);
  checkRules(yaml, settings);
  for (const [index, glob] of settings['leave-out'].entries()) {
    try {
      globMatcher([glob]);
    } catch (error) {
      if (!(error instanceof CravelError)) throw error;
      yaml.tell(['leave-out', String(index)], error.sentences.join(' ').replace(/\.$/, ''));
    }
  }
  for (const [name, plain] of Object.entries(settings.libraries)) {
    const path = ['libraries', name];
    const library = shapeWithin(yaml, path, Library, plain);
    if (library === null) continue;
    settings.libraries[name] = library;
    for (const key of ['folder', 'styles', 'scripts'] as const) {
      for (const text of [library[key]].flat()) {
        if (!staysInside(text)) yaml.tell([...path, key], `${text} must lie inside the site`);
      }
    }
    checkTexts(yaml, [...path, 'release'], library.release);
    checkTexts(yaml, [...path, 'files'], library.files);
    const stranger = library.needs.find((need) => !Object.hasOwn(settings.libraries, need));
    if (stranger !== undefined) {
      yaml.tell([...path, 'needs'], `${name} needs ${stranger}, which is not among the libraries`);
    }
  }
  yaml.done();
  return settings;
}

/** Names of rules and grades, wherever they stand. */
function checkRules(yaml: YamlFile<Settings>, settings: Settings): void {
  const rules = allRules.map(({ name }) => name);
  const problem = (path: readonly string[], name: string, known: readonly string[], what: string) => {
    const near = nearestRules(name, known);
    yaml.tell(path, `${name} is no ${what}${near === '' ? '' : `; did you mean ${near}?`}`);
  };
  for (const [rule, grade] of Object.entries(settings.grades)) {
    if (!rules.includes(rule)) problem(['grades', rule], rule, rules, 'rule');
    else if (!gradeSettings.includes(grade))
      yaml.tell(['grades', rule], `${String(grade)} is no grade: write ${oneOf(gradeSettings)}`);
  }
  for (const [index, name] of (settings['fail-on'] ?? []).entries()) {
    const known = [...grades, ...rules];
    if (!known.includes(name)) problem(['fail-on', String(index)], name, known, 'grade or rule');
  }
  for (const [index, plain] of settings.accept.entries()) {
    const path = ['accept', String(index)];
    const accepted = shapeWithin(yaml, path, Accepted, plain);
    if (accepted === null) continue;
    if (!rules.includes(accepted.rule)) problem([...path, 'rule'], accepted.rule, rules, 'rule');
    settings.accept[index] = accepted;
  }
  const published = settings['published-at'];
  if (published !== undefined && publishedAt(published) === null) {
    yaml.tell(
      ['published-at'],
      'published-at must be an http(s) address, such as https://gullhaven.example/ferry/',
    );
  }
}

/** Notes places that are none of the roles, or lead out of the project. */
export function checkPlaces<T>(yaml: YamlFile<T>, places: Places = {}): void {
  for (const [role, folder] of Object.entries(places)) {
    const path = ['places', role];
    if (!(roles as readonly string[]).includes(role)) {
      yaml.tell(path, `${role} is not one of ${roles.join(', ')}`);
    } else if (typeof folder !== 'string' || !staysInside(folder)) {
      yaml.tell(path, `${role} must be a folder inside the project`);
    }
  }
}

function checkTexts<T>(yaml: YamlFile<T>, path: readonly string[], texts: Readonly<Record<string, unknown>>) {
  for (const [key, text] of Object.entries(texts)) {
    if (typeof text !== 'string') yaml.tell([...path, key], `${key} must be a text`);
  }
}
