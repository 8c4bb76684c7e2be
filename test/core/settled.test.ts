/** Whatever stands in the pages of a site, each mend settles what it is offered for. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { addressRules } from '../../src/core/judge/index.ts';
import type { Finding } from '../../src/core/report.ts';
import { publishedAt } from '../../src/core/resolve/published.ts';
import { around, carriers, oddAddress } from '../support/odd-addresses.ts';
import { checkFiles, type Files, isSettled, mendedBy } from '../support/site.ts';

const beside: Files = {
  'l.js': 'globalThis.Tideclock = { start() {} };',
  'u.js': 'Tideclock.start();',
  'p.js': 'Tideclock.plug = () => {}; globalThis.Piers = {};',
  'v.js': 'Piers.x; Tideclock.plug();',
  'm.mjs': 'import { a } from "./n.mjs"; globalThis.Later = a;',
  'n.mjs': 'export const a = 1;',
  'e.js': 'document.getElementById("go").hidden = true;',
  'x.js': 'Later.y;',
  'b.js': 'let q = ;',
  'i.js': 'import "./n.mjs";',
  'a.css': '',
};
const sources = [...Object.keys(beside).filter((path) => !path.endsWith('css')), 'gone.js', 'L.js', './l.js'];
const loaded = fc
  .tuple(
    fc.constantFrom('', 'defer ', 'async ', 'type=module ', 'type=module async '),
    fc.constantFrom(...sources),
  )
  .map(([attributes, source]) => `<script ${attributes}src=${source}></script>`);
const written = fc.constantFrom(
  '<script>Tideclock.start();</script>',
  '<script>var Tideclok = {};</script>',
  '<script>\nPiers.open();\n</script>\n',
  '<script>import "./n.mjs"</script>',
  '<script type=module>import "./m.mjs";</script>',
  '<script>new Worker("u.js")</script>',
  '<button onclick="Tideclock.start()">x</button>',
  '<p id=go>',
  '<script>document.querySelector("#go").hidden = 1</script>',
  '<iframe srcdoc="<script src=u.js></script><script src=l.js></script>"></iframe>',
  '<iframe srcdoc=\'<script src="l.js"></script><p id=go><script>Tideclock.start()</script>\'></iframe>',
  '<img src=Gone.png>',
  '<img src="%">',
  '<a href="#go">g</a>',
  '<template><p id=go></template>',
  '<noscript><link rel=stylesheet href=a.css></noscript>',
  '<link rel=stylesheet href=A.css>',
  '<style>a{background:url(gone.svg)}</style>',
);
const parts = fc.array(fc.oneof(loaded, written), { maxLength: 4 }).map((all) => all.join('\n'));
const page = fc
  .tuple(parts, parts)
  .map(
    ([head, body]) =>
      `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Gullhaven Ferry</title>${head}</head><body>\n${body}</body></html>`,
  );

test('whatever stands in the pages of a site, each mend settles what it is offered for', () => {
  fc.assert(
    fc.property(page, page, (one, other) => {
      const files: Files = { ...beside, 'index.html': one, 'b.html': other };
      const { findings } = checkFiles(files);
      for (const finding of findings)
        for (const mend of finding.mends) {
          const what = `${finding.message}: ${mend.title}`;
          assert.ok(isSettled(files, findings, finding, mend), what);
          const amount = (all: readonly Finding[]) => all.filter(({ grade }) => grade === 'broken').length;
          if (mend.sure)
            assert.ok(amount(checkFiles(mendedBy(files, mend)).findings) <= amount(findings), what);
        }
    }),
    { numRuns: Number(process.env.CRAVEL_MADE_UP ?? 100) },
  );
});

const published = fc.constantFrom(null, 'https://gullhaven.example/', 'https://gullhaven.example/ferry/');

/** What rules say of the way to a file, not of the file. */
const ofAddresses: ReadonlySet<string> = new Set(
  addressRules.map(({ name }) => name).filter((name) => name !== 'wrong-kind' && name !== 'from-root'),
);

test('whatever address stands in a file, each mend settles what it is offered for', () => {
  fc.assert(
    fc.property(
      fc.array(oddAddress, { minLength: 1, maxLength: 3 }),
      fc.constantFrom(...Object.keys(carriers)),
      published,
      (all, carrier, host) => {
        const files: Files = { ...around, ...carriers[carrier]?.(all) };
        const options = { published: publishedAt(host ?? '') };
        const { findings } = checkFiles(files, null, options);
        for (const finding of findings)
          for (const mend of finding.mends) {
            const what = `${finding.rule} ${finding.written}: ${mend.title}`;
            assert.ok(isSettled(files, findings, finding, mend, options), what);
            if (!mend.sure) continue;
            const after = checkFiles(mendedBy(files, mend), null, options).findings;
            const there = (one: Finding) => ofAddresses.has(one.rule) && one.offset === mend.edits[0]?.start;
            const before = findings.filter((one) => there(one) && one !== finding).map(({ rule }) => rule);
            const brought = after.filter((one) => there(one) && !before.includes(one.rule));
            assert.deepEqual(
              brought.map(({ rule, written }) => `${rule} ${written}`),
              [],
              what,
            );
          }
      },
    ),
    { numRuns: Number(process.env.CRAVEL_MADE_UP ?? 200) },
  );
});
