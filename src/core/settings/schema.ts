/** The JSON Schema (2020-12) of `cravel.yaml`, for editors; made from what the settings are checked against. */
import { gradeSettings, gradesInWords, gradesOf } from '../judge/grading.ts';
import { allRules } from '../judge/index.ts';
import { grades } from '../report.ts';
import { DIALECT, described, object, text, texts } from '../shape/json-schema.ts';
import { roles, scriptPlaces } from '../site/places.ts';

const rules = allRules.map(({ name }) => name);

export function settingsSchema(): object {
  return {
    $schema: DIALECT,
    title: 'cravel.yaml',
    description: 'How Cravel sees a project. Every key may be left out.',
    ...object({
      site: described("The folder that gets published, from the project's folder.", text),
      entry: described('The page that holds the masters of parts.', text),
      'published-at': described('The address that the site is published at.', {
        type: 'string',
        pattern: '^https?://',
      }),
      places: described(
        "The folder of each role, from the site's root.",
        object(Object.fromEntries(roles.map((role) => [role, text]))),
      ),
      'scripts-go': described('Where pages hold their scripts.', { enum: scriptPlaces }),
      libraries: described('Libraries in the order in which pages load them.', {
        type: 'object',
        additionalProperties: object(
          {
            folder: text,
            styles: texts,
            scripts: texts,
            release: { type: 'object', additionalProperties: text },
            provides: texts,
            needs: texts,
            files: { type: 'object', additionalProperties: text },
          },
          ['folder'],
        ),
      }),
      'leave-out': described('Patterns of files that are neither checked nor published.', texts),
      'fail-on': described('Grades and rules that make a check fail.', {
        type: 'array',
        items: { enum: [...grades, ...rules] },
      }),
      grades: described(
        "The grade of a rule's findings, or silent. What a rule gives a milder grade for a reason of its own is never raised.",
        object(
          Object.fromEntries(
            allRules.map((rule) => [
              rule.name,
              described(`${rule.summary}: ${gradesInWords(gradesOf(rule))}`, { enum: gradeSettings }),
            ]),
          ),
        ),
      ),
      accept: described('Findings that are known and wanted, each with its reason.', {
        type: 'array',
        items: object({ rule: { enum: rules }, file: text, written: text, because: text }, [
          'rule',
          'because',
        ]),
      }),
      'undo-megabytes': described('How much is kept of what changes replaced, for undo; 0 for nothing.', {
        type: 'integer',
        minimum: 0,
      }),
      starter: described('The starter that the project was laid out from.', text),
      blanks: described("What that starter's blanks were filled with.", {
        type: 'object',
        additionalProperties: text,
      }),
    }),
  };
}
