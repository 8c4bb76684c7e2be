/** The JSON Schema (2020-12) of the report of a check, as JSON and as lines of JSON. */
import { allRules } from '../core/judge/index.ts';
import { kinds } from '../core/read/reading.ts';
import { grades } from '../core/report.ts';
import { DIALECT, described, object, text, texts } from '../core/shape/json-schema.ts';

const amount = { type: 'integer', minimum: 0 } as const;
const place = { type: 'integer', minimum: 1 } as const;
const yesOrNo = { type: 'boolean' } as const;
const orNull = (schema: { readonly type: string }) => ({ ...schema, type: [schema.type, 'null'] });
const list = (items: object) => ({ type: 'array', items });

/** An object that has all of its members. */
function whole(members: Readonly<Record<string, object>>) {
  return object(members, Object.keys(members));
}

const rule = described('The rule that speaks.', { enum: allRules.map(({ name }) => name) });
const grade = described('How bad it is for visitors.', { enum: grades });
const walk = described(
  'The steps from the folder where it starts to its target; the first one that is not found is where it fails.',
  list(whole({ step: { enum: ['from', 'out', 'into', 'file'] }, name: text, found: yesOrNo })),
);

const site = whole({
  folder: described('The folder that gets published.', text),
  pages: amount,
  files: amount,
  references: amount,
  external: described('References to other hosts.', amount),
  asked: described(
    'Addresses that other hosts were asked for; null where none was to be.',
    orNull({ ...amount }),
  ),
  accepted: described('Findings that the settings accept; they are not listed.', amount),
  counts: whole(Object.fromEntries(grades.map((one) => [one, amount]))),
});

const siteName = described('The folder of its site.', text);

const cause = whole({
  site: siteName,
  rule,
  grade,
  message: described('What the first of its findings says.', text),
  findings: described('How many they are.', amount),
  files: described('How many files they stand in.', amount),
  pages: described('How many pages they stand in, or that load their files by any chain.', amount),
  mend: described('The command that settles all of them.', orNull(text)),
});

const mend = whole({
  sure: described('True where only one answer makes sense.', yesOrNo),
  title: text,
  target: described('The site path that it leads to then; null where that stays the same.', orNull(text)),
  walk,
  edits: list(whole({ file: text, offset: amount, length: amount, text })),
});

const finding = whole({
  site: siteName,
  cause: described('The number of its cause in the list of causes, from 0.', amount),
  rule,
  grade,
  file: described('A site path.', text),
  line: described('Lines and columns count from 1, columns in UTF-16 units.', place),
  column: place,
  endLine: described('The end is that of the character behind the last one.', place),
  endColumn: place,
  offset: described('Offset and length are bytes of the file.', amount),
  length: amount,
  holder: described('What holds it, in words; file where it is about all of one.', text),
  written: described('What it is about, as it stands in the file.', text),
  kind: described('What a reference is for; null where it is about none.', { enum: [...kinds, null] }),
  target: described('The resolved site path, without query or fragment.', orNull(text)),
  message: text,
  reached: described('Whether some page loads the file, by any chain.', yesOrNo),
  pages: described(
    'The pages for which it fails, where it holds for others that run the same file.',
    orNull(texts),
  ),
  walk,
  order: described('In place of a walk, where the order of what a page loads is wrong.', {
    oneOf: [{ type: 'null' }, whole({ is: texts, should: texts })],
  }),
  mends: list(mend),
});

const unread = list(whole({ site: siteName, file: text, why: text }));
const version = { const: 2 };

export function reportSchema(): object {
  return {
    $schema: DIALECT,
    title: 'The report of cravel check',
    description:
      'With --as json one object; with --as ndjson a line with the head, then a line for each finding.',
    anyOf: ['json', 'head', 'finding'].map((name) => ({ $ref: `#/$defs/${name}` })),
    $defs: {
      json: whole({
        cravel: version,
        sites: list(site),
        causes: list(cause),
        findings: list({ $ref: '#/$defs/finding' }),
        unread,
      }),
      head: whole({ cravel: version, sites: list(site), unread }),
      finding,
    },
  };
}
