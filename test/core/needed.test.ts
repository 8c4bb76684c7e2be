/** What scripts need and do not find is what a browser said of each page: script, line and name. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { filesOf, neededByScripts } from '../corpus/needed-by-scripts.ts';
import { saidBefore } from '../support/said-before.ts';
import { checkFiles, isSettled } from '../support/site.ts';

const RULES =
  /^(?:before-its-library|library-left-out|nobody-makes|calls-nothing|does-not-parse|before-its-element|element-left-out)$/;

for (const [what, cases] of Object.entries(neededByScripts))
  test(`what scripts need and do not find is told, script, line and name, and nothing else: ${what}`, () => {
    const said = saidBefore('what scripts need', cases);
    const wrong: string[] = [];
    for (const [index, one] of cases.entries()) {
      const failures = said[index];
      assert.ok(
        failures !== undefined,
        `${one.about}: no browser was asked yet; CRAVEL_BROWSER_SAYS=keep npm test asks it, and keeps the answer`,
      );
      const told = checkFiles(filesOf(one)).findings.filter(({ rule }) => RULES.test(rule));
      const named = told.map(({ rule, file, line, written }) =>
        rule === 'does-not-parse' ? file : `${file}:${line} ${written}`,
      );
      // Of a property of what is not there, a browser does not say the name.
      const seen = failures.map((text) =>
        / /.test(text) ? text : (named.find((name) => name.startsWith(`${text} `)) ?? text),
      );
      const [expected, actual] = [[...new Set(seen)].sort(), [...new Set(named)].sort()];
      if (expected.join() !== actual.join())
        wrong.push(`${one.about}: a browser says [${expected}], the check [${actual}]`);
    }
    assert.deepEqual(wrong, []);
  });

/** Of all cases one in so many: whoever tries much else asks for few. */
const EVERY = process.env.CRAVEL_MADE_UP === undefined ? 1 : 5;

test('what a mend is offered for is settled by it, and each edit is one of a file of the site', () => {
  const cases = Object.values(neededByScripts).flat();
  for (const one of cases.filter((_one, at) => at % EVERY === 0)) {
    const files = filesOf(one);
    const { findings } = checkFiles(files);
    for (const finding of findings)
      for (const mend of finding.mends) {
        const what = `${one.about}: ${mend.title}`;
        assert.ok(
          mend.edits.every(({ file }) => file in files),
          what,
        );
        assert.ok(isSettled(files, findings, finding, mend), what);
      }
  }
});
