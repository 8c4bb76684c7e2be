/** Whatever stands in the pages of a site, each mend settles what it is offered for. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import type { Finding } from '../../src/core/report.ts';
import { checkFiles, type Files, mendedBy } from '../support/site.ts';

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
  const shown = ({ rule, file, written: text, message }: Finding) => `${rule} ${file} ${text} ${message}`;
  fc.assert(
    fc.property(page, page, (one, other) => {
      const files: Files = { ...beside, 'index.html': one, 'b.html': other };
      const { findings } = checkFiles(files);
      for (const finding of findings)
        for (const mend of finding.mends) {
          const after = mendedBy(files, mend);
          const amountOf = (all: readonly Finding[]) =>
            all.filter((each) => shown(each) === shown(finding)).length;
          assert.ok(
            amountOf(checkFiles(after).findings) < amountOf(findings),
            `${shown(finding)}: ${mend.title}`,
          );
        }
    }),
    { numRuns: Number(process.env.CRAVEL_MADE_UP ?? 100) },
  );
});
