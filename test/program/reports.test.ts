/** Every format of the report, held to its schema, on sites of every kind. */
import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { Ajv2020, type AnySchema } from 'ajv/dist/2020.js';
import formats from 'ajv-formats';
import { Parser } from 'htmlparser2';
import type { Log, Result } from 'sarif';
import { reportSchema } from '../../src/show/report-schema.ts';
import { cravel, projectFolder } from '../support/program.ts';
import { checkAsJson } from '../support/report.ts';
import { type Files, temporaryFolder } from '../support/site.ts';

const schemaIn = (path: string): AnySchema => JSON.parse(readFileSync(join(projectFolder, path), 'utf8'));

function validatorOf(schema: AnySchema): (value: unknown) => string {
  const ajv = new Ajv2020({ strict: false, allErrors: true });
  formats.default(ajv);
  const validate = ajv.compile(schema);
  return (value) => (validate(value) ? '' : ajv.errorsText(validate.errors));
}

const faultsOfSarif = validatorOf(schemaIn('test/corpus/sarif-2.1.0.schema.json'));
const faultsOfReport = validatorOf(schemaIn('schemas/report.schema.json'));

/** What each element of JUnit XML may stand in, and the attributes that it must and may have. */
const junit: Readonly<
  Record<
    string,
    { readonly within: string; readonly must: readonly string[]; readonly may?: readonly string[] }
  >
> = {
  testsuites: { within: '', must: [], may: ['name', 'tests', 'failures', 'errors', 'time'] },
  testsuite: {
    within: 'testsuites',
    must: ['name', 'tests'],
    may: ['failures', 'errors', 'time', 'skipped', 'timestamp', 'hostname', 'id', 'package'],
  },
  testcase: { within: 'testsuite', must: ['name'], may: ['classname', 'time', 'status', 'assertions'] },
  failure: { within: 'testcase', must: [], may: ['message', 'type'] },
  error: { within: 'testcase', must: [], may: ['message', 'type'] },
  skipped: { within: 'testcase', must: [], may: ['message'] },
};

/** Reads JUnit XML, holds it to the table, and gives how many elements of each name it has. */
function countJunit(xml: string): Readonly<Record<string, number>> {
  const amounts: Record<string, number> = {};
  const open: string[] = [''];
  const parser = new Parser(
    {
      onopentag(name, attributes) {
        const { within, must, may = [] } = junit[name] as (typeof junit)[string];
        assert.equal(open.at(-1), within, name);
        for (const one of must) assert.ok(one in attributes, `${name} lacks ${one}`);
        for (const one of Object.keys(attributes))
          assert.ok([...must, ...may].includes(one), `${name} ${one}`);
        amounts[name] = (amounts[name] ?? 0) + 1;
        open.push(name);
      },
      onclosetag: () => open.pop(),
    },
    { xmlMode: true },
  );
  parser.end(xml);
  return amounts;
}

function placeOf({ ruleId, locations }: Result): unknown[] {
  const { artifactLocation, region } = locations?.[0]?.physicalLocation ?? {};
  const file = decodeURIComponent(artifactLocation?.uri ?? '');
  return [ruleId, file, region?.startLine, region?.startColumn, region?.byteOffset];
}

const head = '<!doctype html><title>x</title>';

test('every format is valid by its schema and has the same findings, whatever there is to report', (t) => {
  const folder = temporaryFolder(t);
  cravel(folder, 'demo', 'try');
  const sites: readonly (readonly [what: string, site: string | Files, least: number])[] = [
    ['sound', join(folder, 'try/gullhaven-ferry'), 0],
    ['with mistakes', join(folder, 'try/gullhaven-ferry-with-mistakes'), 15],
    ['several', folder, 15],
    [
      'with odd names',
      {
        'index.html': `${head}<a href="50%.html">a</a><img src="P.svg"><a href="a\\b.html">`,
        'ä b#c?.html': head,
        '50%.html': '',
        'p.svg': '<svg/>',
        'a/b.html': '',
        'no-page-loads.css': 'a{background:url(none.svg)}',
      },
      9,
    ],
    [
      'with what is accepted',
      {
        'index.html': `${head}<img src="p.svg"><img src="p.svg"><img src="q.svg">`,
        'cravel.yaml': 'accept: [{ rule: absent, written: q.svg, because: it comes }]\n',
      },
      3,
    ],
    ['with files that cannot be read', { 'index.html': head, 'b.html': Uint8Array.of(0, 1, 2) }, 1],
  ];
  for (const [what, site, least] of sites) {
    const root = typeof site === 'string' ? site : temporaryFolder(t, site);
    const named = what === 'several' ? ['try/gullhaven-ferry', 'try/gullhaven-ferry-with-mistakes'] : [];
    const as = (format: string, ...more: readonly string[]) =>
      cravel(root, 'check', ...named, '--as', format, ...more).stdout;
    const report = checkAsJson(root, ...named);
    const { findings, causes, sites: told, unread } = report;
    assert.equal(faultsOfReport(report), '', what);
    assert.ok(findings.length >= least, `${what}: ${findings.length}`);
    assert.equal(
      findings.length,
      causes.reduce((sum, cause) => sum + cause.findings, 0),
      what,
    );
    for (const [number, { rule, grade, site: folderOf, findings: amount }] of causes.entries()) {
      const own = findings.filter(({ cause }) => cause === number);
      assert.equal(own.length, amount, what);
      for (const one of own) assert.deepEqual([one.rule, one.grade, one.site], [rule, grade, folderOf], what);
    }

    const lines = as('ndjson')
      .trimEnd()
      .split('\n')
      .map((line) => JSON.parse(line));
    for (const line of lines) assert.equal(faultsOfReport(line), '', what);
    assert.deepEqual(lines[0], { cravel: 2, sites: told, unread });
    assert.deepEqual(lines.slice(1), findings, what);

    const log = JSON.parse(as('sarif')) as Log;
    assert.equal(faultsOfSarif(log), '', what);
    const [run] = log.runs;
    const results = run?.results ?? [];
    const accepted = told.reduce((sum, one) => sum + one.accepted, 0);
    const isSuppressed = ({ suppressions = [] }: Result) => suppressions.length > 0;
    assert.deepEqual(
      results.filter((one) => !isSuppressed(one)).map(placeOf),
      findings.map(({ rule, file, line, column, offset }) => [rule, file, line, column, offset]),
      what,
    );
    assert.equal(results.filter(isSuppressed).length, accepted, what);
    // A run says of all results whether they are suppressed, or of none (SARIF 3.27.23).
    assert.equal(
      new Set(results.map(({ suppressions }) => suppressions === undefined)).size,
      results.length > 0 ? 1 : 0,
    );
    // The schemas tell what is none.
    assert.notEqual(faultsOfSarif({ ...log, runs: [{ ...run, columnKind: 'bytes' }] }), '', what);
    assert.notEqual(faultsOfReport({ ...report, cravel: 1 }), '', what);

    const amounts = countJunit(as('junit'));
    const isFailing = ({ grade }: { readonly grade: string }) => grade !== 'untidy';
    assert.equal(amounts.failure ?? 0, findings.filter(isFailing).length, what);
    assert.equal((amounts.failure ?? 0) + (amounts.skipped ?? 0), findings.length, what);
    if (what === 'with odd names') {
      const strict = countJunit(as('junit', '--fail-on', 'broken,fragile,misplaced,untidy'));
      assert.equal(strict.failure, findings.length, what);
    }
    assert.equal(amounts.error ?? 0, unread.length, what);
    assert.equal(as('html').match(/<li data-kind/g)?.length ?? 0, findings.length, what);
    const spots = cravel(root, 'check', ...named, '--by', 'spot', '--most', 'all').stdout;
    const shown = spots.match(/^\S.* {3}(?:broken|fragile|misplaced|untidy) · /gm)?.length ?? 0;
    assert.equal(shown, findings.length, what);
  }
});

test('the schema that ships is the one that the program has', () => {
  assert.deepEqual(
    schemaIn('schemas/report.schema.json'),
    JSON.parse(JSON.stringify(reportSchema())),
    'npm run docs',
  );
});

test('SARIF has ends, fixes that are sure, other spots of a cause, and why something is accepted', (t) => {
  const root = temporaryFolder(t, {
    'index.html': `${head}<img src="P.svg"><img src="none.svg">\n<img src="none.svg"><img src="later.svg">`,
    'p.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
    'cravel.yaml': 'accept: [{ rule: absent, written: later.svg, because: it comes in spring }]\n',
  });
  const log = JSON.parse(
    cravel(root, 'check', '--only', 'absent,letter-case', '--as', 'sarif').stdout,
  ) as Log;
  const told = log.runs[0]?.results?.map(({ ruleId, locations, fixes, relatedLocations, suppressions }) => {
    const { startLine, startColumn, endLine, endColumn } = locations?.[0]?.physicalLocation?.region ?? {};
    return [
      ruleId,
      `${startLine}:${startColumn}-${endLine}:${endColumn}`,
      fixes?.[0]?.artifactChanges[0]?.replacements[0]?.insertedContent?.text,
      relatedLocations?.map(({ physicalLocation }) => physicalLocation?.region?.startLine),
      suppressions?.map(({ kind, status, justification }) => [kind, status, justification]),
    ];
  });
  assert.deepEqual(told, [
    ['absent', '1:59-1:67', undefined, [2], []],
    ['absent', '2:11-2:19', undefined, [1], []],
    ['letter-case', '1:42-1:47', 'p.svg', undefined, []],
    ['absent', '2:31-2:40', undefined, undefined, [['external', 'accepted', 'it comes in spring']]],
  ]);
});
