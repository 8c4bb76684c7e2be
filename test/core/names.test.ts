/** Names that scripts and handlers miss: where, by which element, in which order, and which file makes them. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { nearestName } from '../../src/core/check/near-name.ts';
import { casesOf } from '../support/cases.ts';
import { checkFiles, type Files } from '../support/site.ts';

const RULES = /^(?:before-its-library|library-left-out|nobody-makes|calls-nothing)$/;

/** `file:line:column-endColumn grade rule holder written | message | target | is > should | mends`, what is empty left out. */
function told(files: Files): string[] {
  return checkFiles(files)
    .findings.filter(({ rule, written }) => RULES.test(rule) || (rule === 'does-not-parse' && written !== ''))
    .map((finding) => {
      const { file, line, column, endColumn, grade, rule, written, message, target, order, mends } = finding;
      const { element = '', name = '' } = finding.holder ?? {};
      return [
        `${file}:${line}:${column}-${endColumn} ${grade} ${rule} ${element} ${name} ${written}`.replace(
          / +/g,
          ' ',
        ),
        message,
        ...(target === null ? [] : [`makes it: ${target}`]),
        ...(order === null ? [] : [`${order.is.join(' ')} > ${order.should.join(' ')}`]),
        ...mends.map(({ sure, title }) => (sure ? title : `perhaps ${title}`)),
      ].join(' | ');
    });
}

test('a name that is missing is told with its place, its order, and what makes it', () => {
  for (const { what, files, said } of casesOf('missing-names')) assert.deepEqual(told(files), said, what);
});

test('the one name that is nearly the same is the one that was meant', () => {
  const rows: readonly (readonly [wanted: string, names: readonly string[], meant: string | null])[] = [
    ['tideClock', ['tideclock'], 'tideclock'],
    ['tideclok', ['tideclock', 'boats'], 'tideclock'],
    ['tidecolck', ['tideclock'], 'tideclock'],
    ['tideclcks', ['tideclock'], 'tideclock'],
    ['tideclcksx', ['tideclock'], null],
    ['tdclock', ['tideclock'], 'tideclock'],
    ['dclock', ['tideclock'], null],
    // Of names that are as near, none.
    ['tideclok', ['tideclock', 'tidecloak'], null],
    ['tideclok', ['tidecloak', 'tideclock', 'Tideclok'], 'Tideclok'],
    ['tideclok', ['Tideclok', 'tidecloak'], 'Tideclok'],
    ['tideclok', ['Tideclok', 'TIDECLOK'], null],
    ['tideclck', ['tidecluck', 'tideclocks'], 'tidecluck'],
    // Short names are near to everything; of those that are not long, one slip.
    ['tide', ['tides'], 'tides'],
    ['tide', ['tid'], 'tid'],
    ['tide', ['ti'], null],
    ['tid', ['tide'], null],
    ['boats1', ['boat'], null],
    ['harbor', ['harbur'], 'harbur'],
    ['harbor', ['hurbur'], null],
    ['harbors', ['hurburs'], 'hurburs'],
    ['tide', ['tide'], null],
    ['tide', [], null],
  ];
  assert.deepEqual(
    rows.map(([wanted, names]) => [wanted, names, nearestName(wanted, names)]),
    rows,
  );
});
