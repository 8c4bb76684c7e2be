import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { Ajv2020 } from 'ajv/dist/2020.js';
import formats from 'ajv-formats';
import { cravel, projectFolder } from '../support/program.ts';
import { type Files, temporaryFolder } from '../support/site.ts';

const schema = JSON.parse(readFileSync(join(projectFolder, 'test/corpus/sarif-2.1.0.schema.json'), 'utf8'));
const ajv = new Ajv2020({ strict: false, allErrors: true });
formats.default(ajv);
const validate = ajv.compile(schema);
const isValid = (log: unknown): boolean => validate(log);

test('reports in SARIF are valid by the schema of the standard, whatever they report', (t) => {
  const folder = temporaryFolder(t);
  cravel(folder, 'demo', 'try');
  const head = '<!doctype html><title>x</title>';
  const sites: readonly (readonly [what: string, site: string | Files, results: number])[] = [
    ['sound', join(folder, 'try/gullhaven-ferry'), 0],
    ['with mistakes', join(folder, 'try/gullhaven-ferry-with-mistakes'), 15],
    [
      'with odd names',
      { 'index.html': `${head}<a href="50%.html">a</a>`, 'ä b#c?.html': head, '50%.html': '' },
      5,
    ],
    [
      'with mends',
      { 'index.html': `${head}<img src="P.svg"><a href="a\\b.html">`, 'p.svg': '<svg/>', 'a/b.html': '' },
      3,
    ],
    ['with files that cannot be read', { 'index.html': head, 'b.html': Uint8Array.of(0, 1, 2) }, 1],
  ];
  for (const [what, site, least] of sites) {
    const root = typeof site === 'string' ? site : temporaryFolder(t, site);
    const log = JSON.parse(cravel(root, 'check', '--as', 'sarif').stdout);
    assert.ok(isValid(log), `${what}: ${ajv.errorsText(validate.errors)}`);
    assert.ok(log.runs[0].results.length >= least, `${what}: ${log.runs[0].results.length} results`);
    // The schema tells what is none.
    assert.ok(!isValid({ ...log, runs: [{ ...log.runs[0], columnKind: 'bytes' }] }), what);
  }
});
