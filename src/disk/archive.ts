/** Unpacks archives into memory; nothing of them touches the disk here. */

import { Readable, Transform } from 'node:stream';
import { crc32, createGunzip } from 'node:zlib';
import tar from 'tar-stream';
import { type Entry, fromBuffer, type ZipFile } from 'yauzl';
import { CravelError, fail } from '../core/errors.ts';
import type { Allowance } from '../core/library/allowance.ts';
import { fold, folderOf } from '../core/site/inventory.ts';

export type ArchiveFormat = 'zip' | 'gzip' | 'tar';

/** The format that the first bytes tell; null for what is no archive. */
export function archiveFormat(bytes: Uint8Array): ArchiveFormat | null {
  if (bytes[0] === 0x50 && bytes[1] === 0x4b && (bytes[2] === 0x03 || bytes[2] === 0x05)) return 'zip';
  if (bytes[0] === 0x1f && bytes[1] === 0x8b) return 'gzip';
  return String.fromCharCode(...bytes.subarray(257, 262)) === 'ustar' ? 'tar' : null;
}

/** The files of an archive by path. Throws a `CravelError` for what is damaged, too large, or leads out of it. */
export async function unpack(
  source: string,
  bytes: Uint8Array,
  format: ArchiveFormat,
  allowance: Allowance,
): Promise<Map<string, Uint8Array>> {
  try {
    const files =
      format === 'zip'
        ? await unpackZip(source, bytes, allowance)
        : await unpackTar(source, bytes, format, allowance);
    checkTogether(source, files.keys());
    return files;
  } catch (error) {
    if (error instanceof CravelError) throw error;
    throw fail(
      'bad-archive',
      source,
      `the archive is damaged (${(error as Error).message.replace(/\.$/, '')})`,
    );
  }
}

/** A path in an archive as it may be used. Throws a `CravelError` where it leads out of the folder. */
function checkedPath(source: string, written: string): string {
  const path = written.replaceAll('\\', '/').replace(/^(?:\.\/)+/, '');
  if (/^\/|^[a-z]:/i.test(path))
    throw fail('bad-archive', source, `its entry ${written} has an absolute path`);
  if (path.split('/').includes('..'))
    throw fail('bad-archive', source, `its entry ${written} leads out of the folder`);
  if (/\p{Cc}/u.test(path))
    throw fail('bad-archive', source, 'one of its entries has a control character in its name');
  return path
    .split('/')
    .filter((step) => step !== '' && step !== '.')
    .join('/');
}

async function unpackZip(
  source: string,
  bytes: Uint8Array,
  allowance: Allowance,
): Promise<Map<string, Uint8Array>> {
  const files = new Map<string, Uint8Array>();
  // Names are checked here: the reader's own check says less about what is wrong.
  const zip = await new Promise<ZipFile>((done, failed) => {
    fromBuffer(Buffer.from(bytes), { lazyEntries: true, decodeStrings: false }, (error, file) =>
      error ? failed(error) : done(file as ZipFile),
    );
  });
  await new Promise<void>((done, failed) => {
    zip.on('error', failed);
    zip.on('end', done);
    zip.on('entry', (entry: Entry) => {
      takeEntry(source, zip, entry, files, allowance).then(() => zip.readEntry(), failed);
    });
    zip.readEntry();
  });
  return files;
}

async function takeEntry(
  source: string,
  zip: ZipFile,
  entry: Entry,
  files: Map<string, Uint8Array>,
  allowance: Allowance,
): Promise<void> {
  const written = new TextDecoder().decode(entry.fileName as unknown as Uint8Array);
  const path = checkedPath(source, written);
  // The upper half holds the mode where the archive was made on Unix (APPNOTE 4.4.2).
  const type = (entry.externalFileAttributes >>> 16) & 0o170000;
  if (type === 0o120000) throw fail('bad-archive', source, `its entry ${written} is a symbolic link`);
  if (/[\\/]$/.test(written) || path === '') return;
  if ((entry.generalPurposeBitFlag & 1) !== 0)
    throw fail('bad-archive', source, 'it is locked with a password');
  allowance.file();
  const stream = await new Promise<Readable>((done, failed) => {
    // Without the sizes that an archive claims: what really comes out is counted.
    zip.openReadStream(entry, (error, readable) => (error ? failed(error) : done(readable as Readable)));
  });
  const content = await gather(stream, allowance);
  if (crc32(content) !== entry.crc32)
    throw new Error(`its entry ${written} is not what its checksum promises`);
  place(source, files, path, content);
}

/** Notes a file. Throws a `CravelError` where another one has its path already; the very same may come again. */
function place(source: string, files: Map<string, Uint8Array>, path: string, content: Uint8Array): void {
  const known = files.get(path);
  if (known !== undefined && !Buffer.from(known).equals(content))
    throw fail('bad-archive', source, `it holds two files ${path}, and they differ`);
  files.set(path, content);
}

/** Throws a `CravelError` where two entries cannot stand beside each other on every disk. */
function checkTogether(source: string, paths: Iterable<string>): void {
  const known = new Map<string, string>();
  for (const path of paths) {
    const other = known.get(fold(path));
    if (other !== undefined)
      throw fail('bad-archive', source, `its entries ${other} and ${path} differ in nothing but letter case`);
    known.set(fold(path), path);
  }
  for (const path of known.values())
    for (let folder = folderOf(path).slice(0, -1); folder !== ''; folder = folderOf(folder).slice(0, -1))
      if (known.has(fold(folder)))
        throw fail('bad-archive', source, `its entry ${folder} is a file and a folder`);
}

async function unpackTar(
  source: string,
  bytes: Uint8Array,
  format: ArchiveFormat,
  allowance: Allowance,
): Promise<Map<string, Uint8Array>> {
  const extract = tar.extract();
  const input = Readable.from([Buffer.from(bytes)]);
  const stages = [input, ...(format === 'gzip' ? [createGunzip()] : []), counter(allowance)];
  // An entry under way does not hear of what ends the stream that it comes from.
  const failure = new Promise<never>((_done, failed) => {
    for (const [at, stage] of stages.entries()) {
      stage.on('error', failed);
      stage.pipe((stages[at + 1] ?? extract) as Transform);
    }
  });
  try {
    return await Promise.race([readTar(source, extract, allowance), failure]);
  } finally {
    for (const stage of [...stages, extract]) stage.destroy();
  }
}

async function readTar(
  source: string,
  extract: tar.Extract,
  allowance: Allowance,
): Promise<Map<string, Uint8Array>> {
  const files = new Map<string, Uint8Array>();
  for await (const entry of extract) {
    const { name, type } = entry.header;
    const path = checkedPath(source, name);
    if (type === 'symlink' || type === 'link')
      throw fail('bad-archive', source, `its entry ${name} is a link`);
    if (type === 'file' || type === 'contiguous-file') {
      if (path !== '') {
        allowance.file();
        // All that comes out is counted, also what belongs to no file.
        place(source, files, path, await gather(entry as AsyncIterable<Uint8Array>, null));
        continue;
      }
    } else if (type !== 'directory' && !/^pax/.test(String(type))) {
      throw fail('bad-archive', source, `its entry ${name} is no file (${type})`);
    }
    entry.resume();
  }
  return files;
}

function counter(allowance: Allowance): Transform {
  return new Transform({
    transform(piece: Uint8Array, _encoding, done) {
      try {
        allowance.bytes(piece.length);
        done(null, piece);
      } catch (error) {
        done(error as Error);
      }
    },
  });
}

async function gather(stream: AsyncIterable<Uint8Array>, allowance: Allowance | null): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  for await (const piece of stream) {
    allowance?.bytes(piece.length);
    pieces.push(piece);
  }
  return Buffer.concat(pieces);
}
