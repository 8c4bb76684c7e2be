/** The report of a check in the Static Analysis Results Interchange Format (OASIS SARIF 2.1.0). */
import type { ArtifactLocation, Log, Result, Run } from 'sarif';
import { allRules } from '../core/judge/index.ts';
import type { Finding, Grade, Report } from '../core/report.ts';
import { jsonPieces, Lazy, mapped } from './pieces.ts';

/** SARIF 3.27.10: an error is a serious problem, a warning one, a note none that must be mended. */
const levels: Readonly<Record<Grade, 'error' | 'warning' | 'note'>> = {
  broken: 'error',
  fragile: 'warning',
  misplaced: 'warning',
  untidy: 'note',
};

const ROOT = 'SITE';

export function* reportAsSarif(report: Report): Iterable<string> {
  const rules = allRules.map(({ name, grade, summary, suffers }) => ({
    id: name,
    shortDescription: { text: summary },
    fullDescription: { text: suffers },
    defaultConfiguration: { level: levels[grade] },
  }));
  const results = new Lazy(() => mapped(report.findings, resultOf));
  const log = {
    $schema: 'https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: { driver: { name: 'Cravel', rules } },
        // Columns count UTF-16 code units (SARIF 3.14.17).
        columnKind: 'utf16CodeUnits',
        originalUriBaseIds: { [ROOT]: { description: { text: 'the folder that gets published' } } },
        invocations: [
          {
            executionSuccessful: report.unread.length === 0,
            toolExecutionNotifications: report.unread.map(({ file, why }) => ({
              level: 'error',
              message: { text: `not read: ${why}` },
              locations: [{ physicalLocation: { artifactLocation: artifact(file) } }],
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

function resultOf({
  rule,
  grade,
  file,
  line,
  column,
  offset,
  length,
  message,
  written,
  mends,
}: Finding): Result {
  const ruleIndex = allRules.findIndex(({ name }) => name === rule);
  const region = { startLine: line, startColumn: column, byteOffset: offset, byteLength: length };
  const fixes = mends
    .filter(({ edits }) => edits.length > 0)
    .map(({ title, edits }) => ({
      description: { text: title },
      artifactChanges: edits.map(({ file, start, end, text }) => ({
        artifactLocation: artifact(file),
        replacements: [
          {
            deletedRegion: { byteOffset: start, byteLength: end - start },
            insertedContent: { text },
          },
        ],
      })),
    }));
  return {
    ruleId: rule,
    ruleIndex,
    level: levels[grade],
    message: { text: written === '' || written === file ? message : `${written}: ${message}` },
    locations: [{ physicalLocation: { artifactLocation: artifact(file), region } }],
    ...(fixes.length > 0 ? { fixes } : {}),
    properties: { grade },
  };
}

/** A relative reference below the site's folder (RFC 3986, 4.2). */
function artifact(file: string): ArtifactLocation {
  return { uri: file.split('/').map(encodeURIComponent).join('/'), uriBaseId: ROOT };
}
