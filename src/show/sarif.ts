/** The report of a check in the Static Analysis Results Interchange Format (OASIS SARIF 2.1.0). */
import type { ArtifactLocation, Location, Log, Region, Result, Run } from 'sarif';
import { groupBy } from '../core/group-by.ts';
import { gradesOf } from '../core/judge/grading.ts';
import { allRules } from '../core/judge/index.ts';
import type { Finding, Grade, Mend, Report, SiteReport } from '../core/report.ts';
import { jsonPieces, Lazy } from './pieces.ts';

/** SARIF 3.27.10: an error is a serious problem, a warning one, a note none that must be mended. */
const levels: Readonly<Record<Grade, 'error' | 'warning' | 'note'>> = {
  broken: 'error',
  fragile: 'warning',
  misplaced: 'warning',
  untidy: 'note',
};

/** Other spots of the same cause that are named with each. */
const MOST_RELATED = 3;

export function* reportAsSarif({ sites }: Report): Iterable<string> {
  const rules = allRules.map((rule) => ({
    id: rule.name,
    shortDescription: { text: rule.summary },
    fullDescription: { text: rule.suffers },
    defaultConfiguration: { level: levels[rule.grade] },
    properties: { grades: gradesOf(rule) },
  }));
  const bases = sites.map((site, index) => ({ site, base: sites.length > 1 ? `SITE${index + 1}` : 'SITE' }));
  // All results of a run say whether they are suppressed, or none does (SARIF 3.27.23).
  const isSaid = sites.some(({ accepted }) => accepted.length > 0);
  const results = new Lazy(function* () {
    for (const { site, base } of bases) yield* resultsOf(site, base, isSaid);
  });
  const unread = bases.flatMap(({ site, base }) => site.unread.map((one) => ({ ...one, base })));
  const log = {
    $schema: 'https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: { driver: { name: 'Cravel', rules } },
        // Columns count UTF-16 code units (SARIF 3.14.17).
        columnKind: 'utf16CodeUnits',
        originalUriBaseIds: Object.fromEntries(
          bases.map(({ site, base }) => [
            base,
            { description: { text: `the folder that gets published: ${site.folder}` } },
          ]),
        ),
        invocations: [
          {
            executionSuccessful: unread.length === 0,
            toolExecutionNotifications: unread.map(({ file, why, base }) => ({
              level: 'error',
              message: { text: `not read: ${why}` },
              locations: [{ physicalLocation: { artifactLocation: artifact(file, base) } }],
            })),
          },
        ],
        results,
      },
    ],
  } satisfies LogInPieces;
  yield* jsonPieces(log);
  yield '\n';
}

/** A log whose results are made when they are written. */
type LogInPieces = Omit<Log, 'runs'> & { runs: (Omit<Run, 'results'> & { results: Lazy<Result> })[] };

function* resultsOf({ causes, accepted }: SiteReport, base: string, isSaid: boolean): Iterable<Result> {
  for (const cause of causes)
    for (const finding of cause.findings) {
      const first = cause.findings.slice(0, MOST_RELATED + 1);
      const related = first.filter((one) => one !== finding).slice(0, MOST_RELATED);
      yield {
        ...resultOf(finding, base),
        ...(related.length > 0 ? { relatedLocations: related.map((one) => locationOf(one, base)) } : {}),
        ...(isSaid ? { suppressions: [] } : {}),
      };
    }
  for (const { finding, because } of accepted)
    yield {
      ...resultOf(finding, base),
      suppressions: [{ kind: 'external', status: 'accepted', justification: because }],
    };
}

function resultOf(finding: Finding, base: string): Result {
  const { rule, grade, file, message, written, reached, mends } = finding;
  const fixes = mends.filter(({ sure, edits }) => sure && edits.length > 0);
  return {
    ruleId: rule,
    ruleIndex: allRules.findIndex(({ name }) => name === rule),
    level: levels[grade],
    message: { text: written === '' || written === file ? message : `${written}: ${message}` },
    locations: [locationOf(finding, base)],
    ...(fixes.length > 0 ? { fixes: fixes.map((mend) => fixOf(mend, base)) } : {}),
    properties: { grade, reached },
  };
}

function locationOf(
  { file, line, column, endLine, endColumn, offset, length }: Finding,
  base: string,
): Location {
  const region: Region = {
    startLine: line,
    startColumn: column,
    endLine,
    endColumn,
    byteOffset: offset,
    byteLength: length,
  };
  return { physicalLocation: { artifactLocation: artifact(file, base), region } };
}

function fixOf({ title, edits }: Mend, base: string) {
  return {
    description: { text: title },
    artifactChanges: Array.from(
      groupBy(edits, ({ file }) => file),
      ([file, own]) => ({
        artifactLocation: artifact(file, base),
        replacements: own.map(({ start, end, text }) => ({
          deletedRegion: { byteOffset: start, byteLength: end - start },
          insertedContent: { text },
        })),
      }),
    ),
  };
}

/** A relative reference below the site's folder (RFC 3986, 4.2). */
function artifact(file: string, base: string): ArtifactLocation {
  return { uri: file.split('/').map(encodeURIComponent).join('/'), uriBaseId: base };
}
