/** What a change of one file changes for the site, and that nothing else is looked at again for it. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { Ledger } from '../../src/core/check/ledger.ts';
import { Marks } from '../../src/core/check/marks.ts';
import type { Facet } from '../../src/core/judge/rule.ts';
import { sharesIn } from '../support/shares.ts';

const share = sharesIn(['index.html', 'a.html', 'b.html', 'p.png', 's.css', 'j.js', 'w.js', 'm.js'], {
  samples: ['Six crossings a day.'],
});

const facets: readonly Facet[] = [
  'names',
  'pages',
  'titles',
  'descriptions',
  'samples',
  'ways',
  'loads',
  'uses',
];
type Counter = Facet | 'modules' | 'links';

const countersOf = (ledger: Ledger) =>
  new Map<Counter, number>([
    ...facets.map((facet) => [facet, ledger.versionOf([facet])] as const),
    ['modules', ledger.modules],
    ['links', ledger.links],
  ]);

const head = '<title>T</title><meta name=description content=D><nav><a href=a.html>a</a></nav>';

/** A file before and after, and what that changes; a script where it is one. */
const rows: readonly (readonly [
  about: string,
  before: string,
  after: string,
  changes: readonly Counter[],
])[] = [
  ['nothing that counts', `${head}<p>x`, `${head}<p id=y>y <b>z</b>`, []],
  ['a title', head, head.replace('>T<', '>U<'), ['titles']],
  ['where a title stands', head, ` ${head}`, ['titles']],
  ['a description', head, head.replace('=D', '=E'), ['descriptions']],
  ['a text of the starter', head, `${head}<p>Six crossings a day.`, ['samples']],
  ['a link', head, `${head}<a href=b.html>b</a>`, ['ways', 'uses', 'links']],
  [
    'a link in the navigation',
    `${head}<a href=b.html>b</a>`,
    `${head.replace('</nav>', '<a href=b.html>b</a></nav>')}`,
    ['ways'],
  ],
  ['the same link again', head, `${head}<a href=a.html>a</a>`, []],
  ['a picture', head, `${head}<img src=p.png>`, ['loads', 'uses', 'modules', 'links']],
  [
    'one kind for another',
    `${head}<img src=p.png>`,
    `${head}<link rel=icon href=p.png>`,
    ['loads', 'modules', 'links'],
  ],
  ['a file that a script names', head, `${head}<script>let a = "p.png";</script>`, ['uses', 'links']],
  [
    'an import map',
    head,
    `${head}<script type=importmap>{"imports":{"a":"https://a.example/"}}</script>`,
    ['modules'],
  ],
  ['an address of the page that runs it', 'let a;', 'fetch("d.json");', ['modules']],
  ['a worker', 'let a;', 'new Worker("w.js");', ['uses', 'modules', 'links']],
  ['a module', 'let a;', 'import "./m.js";', ['loads', 'uses', 'modules', 'links']],
];

test('a change is noted for what it changes, and for nothing else', () => {
  for (const [about, before, after, changes] of rows) {
    const file = before.startsWith('let') ? 'j.js' : 'index.html';
    for (const isPrepared of [false, true])
      for (const [from, to] of [
        [before, after],
        [after, before],
      ] as const) {
        const ledger = new Ledger();
        ledger.set(share(file, from));
        ledger.set(share('s.css', 'p{color:red}'));
        if (isPrepared) ledger.prepare();
        const old = countersOf(ledger);
        ledger.set(share(file, to));
        const changed = [...countersOf(ledger)].flatMap(([counter, value]) =>
          value === old.get(counter) ? [] : counter,
        );
        // Until uses are counted, any change may be one of them.
        const expected = isPrepared ? changes : [...new Set([...changes, 'uses'])];
        assert.deepEqual(changed.sort(), [...expected].sort(), `${about} ${isPrepared}`);
      }
  }
});

test('what a ledger holds together is what its shares say, in order', () => {
  const ledger = new Ledger();
  const texts = {
    'b.html': `${head}<img src=p.png><img src=none.png><a href="https://a.example/">x</a>`,
    'a.html': `${head}<link rel=icon href=p.png><a href=b.html>b</a>`,
    'j.js': 'fetch("d.json");',
    's.css': 'p{background:url(p.png)}',
  };
  for (const [file, text] of Object.entries(texts)) ledger.set(share(file, text));
  const amount = ledger.references;
  assert.deepEqual([...ledger.pages.keys()], ['a.html', 'b.html']);
  assert.deepEqual([...ledger.loadedAs], [['p.png', 'icon']]);
  assert.deepEqual(
    [...ledger.speaking].map(({ file }) => file),
    ['b.html', 'a.html', 's.css'],
  );
  assert.deepEqual([amount, ledger.external, ledger.isAwaitingRuns], [9, 1, true]);
  const uses = () => [...ledger.uses.led, '|', ...ledger.uses.named, '|', ...ledger.uses.byOthers];
  for (const isPrepared of [false, true]) {
    if (isPrepared) ledger.prepare();
    assert.deepEqual(uses(), ['a.html', 'b.html', '|', 'p.png', '|', 'p.png']);
  }
  ledger.delete('j.js');
  ledger.delete('a.html');
  ledger.delete('none.html');
  assert.deepEqual([...ledger.pages.keys(), ledger.isAwaitingRuns, ledger.references], ['b.html', false, 5]);
  assert.deepEqual(
    [[...ledger.loadedAs], uses()],
    [[['p.png', 'image']], ['a.html', '|', 'p.png', '|', 'p.png']],
  );
  ledger.delete('b.html');
  ledger.delete('s.css');
  assert.deepEqual(
    [[...ledger.loadedAs], uses(), ledger.references, ledger.external],
    [[], ['|', '|'], 0, 0],
  );
  assert.equal(ledger.get('b.html'), undefined);
  assert.equal([...ledger.speaking].length, 0);
});

test('a mark is one file’s, and stays as longer rows of things are marked', () => {
  const marks = new Marks();
  const asked: readonly (readonly [number: number, serial: number, isFirst: boolean])[] = [
    [3, 1, true],
    [3, 1, false],
    [1024, 1, true],
    [1024, 1, false],
    [3, 1, false],
    [5000, 2, true],
    [5000, 2, false],
    [1024, 1, false],
    [3, 2, true],
    [3, 1, true],
  ];
  for (const [number, serial, isFirst] of asked)
    assert.equal(marks.isFirst(number, serial), isFirst, `${number}`);
});
