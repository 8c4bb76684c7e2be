import assert from 'node:assert/strict';
import { test } from 'node:test';
import { gunzipSync, gzipSync } from 'node:zlib';
import { zipSync } from 'fflate';
import { CravelError } from '../../src/core/errors.ts';
import { Allowance } from '../../src/core/library/allowance.ts';
import { archiveFormat, unpack } from '../../src/disk/archive.ts';
import { tgzOf, tideclock, wrapped, zipOf } from '../support/library.ts';
import { bytesOf } from '../support/site.ts';

function unpacked(bytes: Uint8Array, limits = { files: 100, bytes: 1e6 }): Promise<Map<string, Uint8Array>> {
  const format = archiveFormat(bytes);
  assert.ok(format);
  return unpack('a.zip', bytes, format, new Allowance('a.zip', limits));
}

test('archives give their files back, byte for byte', async () => {
  const files = wrapped(tideclock);
  for (const archive of [zipOf(files), await tgzOf(files)]) {
    const found = await unpacked(archive);
    assert.deepEqual([...found.keys()].sort(), Object.keys(files).sort());
    for (const [path, content] of Object.entries(files))
      assert.deepEqual(new Uint8Array(found.get(path) ?? []), bytesOf(content), path);
  }
});

test('what leads out of an archive, is no file, is damaged or too large is refused, and nothing is taken', async () => {
  const good = { 'a.js': '1' };
  const named = (name: string) => zipOf({ ...good, [name]: 'x' });
  const link = zipSync({ 'a.js': [bytesOf('../../b'), { os: 3, attrs: (0o120777 << 16) >>> 0 }] });
  const bomb = zipSync({ 'a.js': new Uint8Array(50e6) });
  const lying = Uint8Array.from(zipOf(good));
  const damaged = zipOf({ 'a.js': 'abcdefghij'.repeat(100) });
  damaged.fill(0xff, 40, 60);
  const changed = zipSync({ 'a.js': bytesOf('abc') }, { level: 0 });
  changed[changed.indexOf(0x61, 30 + 4)] = 0x62;
  const plain = gunzipSync(await tgzOf(good));
  const again = gunzipSync(await tgzOf({ 'a.js': '2' }));
  const twice = gzipSync(Buffer.concat([plain.subarray(0, -1024), again]));
  // The very same file may come again.
  assert.equal((await unpacked(gzipSync(Buffer.concat([plain.subarray(0, -1024), plain])))).size, 1);
  const padded = gzipSync(Buffer.concat([plain, new Uint8Array(50e6)]));
  const rows: readonly (readonly [what: string, archive: Uint8Array, problem: RegExp])[] = [
    ['up', named('../b.js'), /its entry \.\.\/b\.js leads out of the folder/],
    ['up, inside', named('x/../../b.js'), /leads out of the folder/],
    ['up, with backslashes', named('..\\b.js'), /leads out of the folder/],
    ['absolute', named('/b.js'), /its entry \/b\.js has an absolute path/],
    ['a drive', named('C:/b.js'), /has an absolute path/],
    ['control characters', named('a\x1b[31m.js'), /control character/],
    ['a link in a zip', link, /its entry a\.js is a symbolic link/],
    [
      'a link in a tar',
      await tgzOf(good, [{ name: 'b.js', type: 'symlink', linkname: '../x' }]),
      /its entry b\.js is a link/,
    ],
    ['a hard link', await tgzOf(good, [{ name: 'b.js', type: 'link', linkname: 'a.js' }]), /is a link/],
    ['a device', await tgzOf(good, [{ name: 'b', type: 'character-device' }]), /is no file/],
    ['up in a tar', await tgzOf({ '../b.js': '' }), /leads out of the folder/],
    [
      'a bomb',
      bomb,
      /holds more than 1 MB; nothing was taken\.\nIf you trust it, allow more with: --most-megabytes/,
    ],
    ['a bomb in a tar', await tgzOf({ 'a.js': new Uint8Array(50e6) }), /holds more than 1 MB/],
    [
      'too many files',
      zipOf(Object.fromEntries(Array.from({ length: 200 }, (_none, index) => [`${index}.js`, '']))),
      /holds more than 100 files/,
    ],
    ['cut off', lying.subarray(0, lying.length - 30), /the archive is damaged/],
    ['garbled', damaged, /the archive is damaged/],
    ['changed since', changed, /its entry a\.js is not what its checksum promises/],
    ['capitals', named('A.js'), /its entries a\.js and A\.js differ in nothing but letter case/],
    ['a file and a folder', named('a.js/b.js'), /its entry a\.js is a file and a folder/],
    ['twice', twice, /it holds two files a\.js, and they differ/],
    ['a bomb outside of the entries', padded, /holds more than 1 MB/],
    ['a tar cut off', (await tgzOf({ 'a.js': 'x'.repeat(5000) })).subarray(0, 60), /the archive is damaged/],
  ];
  for (const [what, archive, problem] of rows) {
    await assert.rejects(
      unpacked(archive),
      (error) =>
        (error instanceof CravelError && problem.test(error.message)) ||
        assert.fail(`${what}: ${String(error)}`),
      what,
    );
  }
});
