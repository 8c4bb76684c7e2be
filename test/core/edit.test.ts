import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { applyEdits, type Syntax } from '../../src/core/change/edit.ts';

test('a text that is put in is written so that it says the same in every encoding', () => {
  const rows: readonly (readonly [encoding: string, syntax: Syntax, text: string, written: string])[] = [
    ['utf-8', 'markup', 'Möwe 🐦', 'Möwe 🐦'],
    ['windows-1252', 'markup', 'Möwe 🐦', 'M&#246;we &#128038;'],
    ['shift_jis', 'css', 'Möwe 🐦', 'M\\f6 we \\1f426 '],
    ['koi8-r', 'script', 'Möwe 🐦', 'M\\u00f6we \\ud83d\\udc26'],
  ];
  for (const [encoding, syntax, text, written] of rows) {
    const edited = applyEdits(new TextEncoder().encode('[]'), [{ start: 1, end: 1, text }], encoding, syntax);
    assert.equal(new TextDecoder().decode(edited), `[${written}]`, `${encoding} ${syntax}`);
  }
  for (const encoding of ['utf-16le', 'utf-16be']) {
    const edited = applyEdits(new Uint8Array(), [{ start: 0, end: 0, text: 'Möwe 🐦' }], encoding);
    assert.equal(new TextDecoder(encoding).decode(edited), 'Möwe 🐦');
  }
});

test('edits change what they name and nothing else, insertions at one place keep their order', () => {
  const piece = fc.record({
    kept: fc.string({ maxLength: 4 }),
    gone: fc.string({ maxLength: 4 }),
    text: fc.string({ maxLength: 4 }),
  });
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 6 }), fc.string(), (pieces, rest) => {
      let before = '';
      const edits = pieces.map(({ kept, gone, text }) => {
        const start = Buffer.byteLength(before + kept);
        before += kept + gone;
        return { start, end: Buffer.byteLength(before), text };
      });
      const after = pieces.map(({ kept, text }) => kept + text).join('') + rest;
      const edited = applyEdits(new TextEncoder().encode(before + rest), edits);
      assert.equal(new TextDecoder('utf-8', { ignoreBOM: true }).decode(edited), after);
    }),
  );
  assert.throws(
    () =>
      applyEdits(new Uint8Array(4), [
        { start: 0, end: 2, text: '' },
        { start: 1, end: 3, text: '' },
      ]),
    /overlap/,
  );
});
