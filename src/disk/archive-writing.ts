/** Writes a folder as an archive: the same files give the same bytes, whenever and wherever that is done. */

import { type Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import tar from 'tar-stream';
import { ZipFile } from 'yazl';
import { below, type DiskPath } from './disk-path.ts';
import { closeSync, createReadStream, fsyncSync, openSync } from './fs.ts';
import type { PackedFile } from './packed.ts';
import { writeAll } from './write-all.ts';

/** Permission bits of every file. */
const MODE = 0o644;
/** The first instant that both formats can say, by the clock on the wall, which is what one of them goes by (APPNOTE 4.4.6). */
const TIME = new Date(1980, 0, 1, 0, 0, 0);

type Files = readonly Pick<PackedFile, 'path' | 'bytes'>[];
type Tell = (done: number, total: number) => Promise<void> | void;

/** `files` in order, below `root`. Writes to `target`, where nothing is. Throws the system's error. */
export async function writeArchive(
  form: 'zip' | 'tar.gz',
  root: DiskPath,
  files: Files,
  target: DiskPath,
  tell: Tell = () => {},
): Promise<void> {
  const handle = openSync(target, 'wx');
  const write = async (pieces: AsyncIterable<Uint8Array>) => {
    for await (const piece of pieces) writeAll(handle, piece);
  };
  try {
    if (form === 'zip') await pipeline(zipOf(root, files, tell), write);
    else await pipeline(tarOf(root, files, tell), createGzip({ level: 9 }), withoutSystem(), write);
    fsyncSync(handle);
  } finally {
    closeSync(handle);
  }
}

function zipOf(root: DiskPath, files: Files, tell: Tell): Readable {
  const zip = new ZipFile();
  const out = zip.outputStream as Readable;
  let done = 0;
  for (const { path, bytes } of files) {
    const options = { mtime: TIME, mode: 0o100000 | MODE, forceDosTimestamp: true, size: bytes };
    zip.addReadStreamLazy(path, options, (take) => {
      void tell(++done, files.length);
      take(null, createReadStream(below(root, path)));
    });
  }
  zip.on('error', (error: Error) => out.destroy(error));
  zip.end();
  return out;
}

function tarOf(root: DiskPath, files: Files, tell: Tell): tar.Pack {
  const pack = tar.pack();
  const fill = async () => {
    for (const [index, { path, bytes }] of files.entries()) {
      const entry = pack.entry({ name: path, size: bytes, mode: MODE, mtime: new Date(0), uid: 0, gid: 0 });
      await pipeline(createReadStream(below(root, path)), entry);
      await tell(index + 1, files.length);
    }
    pack.finalize();
  };
  fill().catch((error: Error) => pack.destroy(error));
  return pack;
}

/** The header of a gzip file says which system made it (RFC 1952, 2.3.1). */
function withoutSystem(): Transform {
  let at = 0;
  return new Transform({
    transform(piece: Uint8Array, _encoding, done) {
      if (at <= 9 && at + piece.length > 9) piece[9 - at] = 255;
      at += piece.length;
      done(null, piece);
    },
  });
}
