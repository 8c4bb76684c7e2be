import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { Settings } from '../../src/core/settings/settings.ts';
import { whyLeft } from '../../src/core/site/admission.ts';
import { keepProject } from '../../src/core/starter/keep.ts';
import { readManifest } from '../../src/core/starter/manifest.ts';
import { fillBlanks, renderStarter } from '../../src/core/starter/render.ts';
import { textOf } from '../support/files.ts';
import { bytesOf, type Files } from '../support/site.ts';

/** A project kept with its title as a blank, and laid out again under another title. */
function keptAs(files: Files, text: string, title: string): Record<string, string> {
  const entries = Object.entries(files).map(([path, content]) => [path, bytesOf(content)] as const);
  const { files: kept } = keepProject(new Map(entries), [{ text, blank: 'title' }], new Settings(), 'A test');
  const { manifest } = readManifest(textOf(kept.get('starter.yaml') as Uint8Array), 'starter.yaml');
  const sources = new Map([...kept].filter(([path]) => path !== 'starter.yaml'));
  const starter = { name: 'kept', shown: 'kept', own: true, manifest, files: sources };
  const layout = renderStarter(starter, fillBlanks(starter, 'new', new Map([['title', title]])));
  return Object.fromEntries([...layout.files].map(([path, bytes]) => [path, textOf(bytes)]));
}

test('a text becomes a blank wherever it stands, as each format writes it, and nowhere in an address', () => {
  const made = keptAs(
    {
      'index.html': '<title>A &amp; B</title><a href="A & B.html">A & B</a>',
      'a.js': "const t = 'A & B';",
      'a.css': '/* A & B */',
      'note.txt': 'C:\\A & B {{x}} \\{{y}} {{{z}}}',
      'page.hbs': '{{untouched}}',
      'plain.html': '{{untouched}}',
      'data.bin': 'A & B',
      'A & B.html': '',
    },
    'A & B',
    `"O'Hara" <x>`,
  );
  assert.deepEqual(made, {
    'index.html':
      '<title>&quot;O&#x27;Hara&quot; &lt;x&gt;</title><a href="A & B.html">&quot;O&#x27;Hara&quot; &lt;x&gt;</a>',
    'a.js': "const t = '\\u0022O\\u0027Hara\\u0022 \\u003cx\\u003e';",
    'a.css': '/* \\22 O\\27 Hara\\22  \\3c x> */',
    'note.txt': `C:\\"O'Hara" <x> {{x}} \\{{y}} {{{z}}}`,
    'page.hbs': '{{untouched}}',
    'plain.html': '{{untouched}}',
    'data.bin': 'A & B',
    'A & B.html': '',
  });
});

test('a project that is kept and laid out with the words it had is the project it was', () => {
  const scrap = fc.constantFrom(
    'Gull',
    '{{',
    '}}',
    '{{{',
    '\\',
    '\\\\',
    'x',
    '\n',
    '{{#if a}}',
    '{{!',
    '~',
    '&',
    "'",
  );
  fc.assert(
    fc.property(fc.array(scrap, { maxLength: 12 }), fc.array(scrap, { maxLength: 12 }), (one, other) => {
      const files = { 'a.txt': `Gull${one.join('')}`, 'b.hbs': other.join(''), 'c.md': other.join('') };
      assert.deepEqual(keptAs(files, 'Gull', 'Gull'), files);
    }),
    { numRuns: 300 },
  );
});

test('secrets, litter and ignored folders are told from files of the project', () => {
  const rows: Readonly<Record<string, boolean>> = {
    'index.html': true,
    '.htaccess': true,
    '.well-known/security.txt': true,
    'keys.html': true,
    'environment.css': true,
    '.env': false,
    '.env.local': false,
    'a/server.key': false,
    id_rsa: false,
    'credentials.json': false,
    '.npmrc': false,
    '.git/': false,
    'a/node_modules/': false,
    '.cravel/': false,
    '.vscode/': false,
    'a/.DS_Store': false,
    'a.html~': false,
  };
  for (const [path, comes] of Object.entries(rows)) assert.equal(whyLeft('keep', path) === null, comes, path);
});
