import assert from 'node:assert/strict';
import { test } from 'node:test';
import { isBare, mapSpecifier } from '../../src/core/resolve/specifier.ts';

/** Browsers have been seen to take the scopes in another order: the standard (HTML 8.1.6.2) says the narrowest first. */
const map = {
  imports: new Map([
    ['tide', 'js/tide.mjs'],
    ['parts/', 'js/parts/'],
    ['parts/deck/', 'js/deck/'],
  ]),
  scopes: new Map([
    // Written longer, and the wider one.
    ['./././././', new Map([['tide/', 'wide/']])],
    ['js/', new Map([['tide/', 'js/narrow/']])],
    ['js/pier.mjs', new Map([['tide/', 'js/pier/']])],
    ['js/gate', new Map([['tide/', 'no folder/']])],
    ['https://gullhaven.example/', new Map([['tide/', 'elsewhere/']])],
  ]),
};

const rows: readonly (readonly [specifier: string, importer: string, expected: string])[] = [
  ['tide', 'js/a.mjs', 'name'],
  ['tides', 'js/a.mjs', 'nothing'],
  ['parts', 'js/a.mjs', 'nothing'],
  ['parts/a.mjs', 'js/a.mjs', 'js/parts/a.mjs'],
  ['parts/deck/a.mjs', 'js/a.mjs', 'js/deck/a.mjs'],
  ['tide/a.mjs', 'a.mjs', 'wide/a.mjs'],
  ['tide/a.mjs', 'js/a.mjs', 'js/narrow/a.mjs'],
  ['tide/a.mjs', 'js/deep/a.mjs', 'js/narrow/a.mjs'],
  ['tide/a.mjs', 'js/pier.mjs', 'js/pier/a.mjs'],
  ['tide/a.mjs', 'js/gate.mjs', 'js/narrow/a.mjs'],
];

test('an import map answers by the narrowest scope and the longest prefix', () => {
  for (const [specifier, importer, expected] of rows) {
    const mapped = mapSpecifier(specifier, map, 'index.html', importer);
    const got = mapped.by === 'prefix' ? mapped.address : mapped.by;
    assert.equal(got, expected, `${specifier} in ${importer}`);
  }
  assert.deepEqual(mapSpecifier('tide', null, 'index.html', 'js/a.mjs'), { by: 'nothing' });
});

test('a specifier without scheme, slash or dots is bare', () => {
  const bare = ['tide', '@gull/tide', 'a:b', '.tide', './a.mjs', '../a.mjs', '/a.mjs', 'https://x.example/'];
  assert.deepEqual(bare.filter(isBare), ['tide', '@gull/tide', '.tide']);
});
