/** A downloaded library for tests: builds, stylesheets with fonts, and what no page needs. */

import { gzipSync } from 'node:zlib';
import { zipSync } from 'fflate';
import tar from 'tar-stream';
import { bytesOf, type Files } from './site.ts';

const UMD =
  "(function (global, factory) { typeof exports === 'object' ? (module.exports = factory()) : (global.Tideclock = factory()); })(this, function () { return { tick: function () {} }; });\n";

export const tideclock: Files = {
  'package.json': '{"name":"@gullhaven/tideclock","version":"2.3.1","peerDependencies":{"buoys":"^1"}}',
  LICENSE: 'Free for all.\n',
  'README.md': '# Tideclock\n',
  'dist/Tideclock-2.3.1.js': `${UMD}//# sourceMappingURL=Tideclock-2.3.1.js.map\n`,
  'dist/Tideclock-2.3.1.js.map': '{"version":3}',
  'dist/Tideclock-2.3.1.min.js': '!function(t,e){t.Tideclock=e()}(this,function(){return{tick(){}}});',
  'dist/tideclock.esm.js': 'export const tick = 1;\n',
  'dist/tideclock.cjs': 'module.exports = 1;\n',
  'dist/css/tideclock.css': '@font-face { font-family: tide; src: url("../fonts/tide.woff2"); }\n',
  'dist/css/tideclock.min.css': '@font-face{font-family:tide;src:url(../fonts/tide.woff2)}',
  'dist/css/reset.css': '* { margin: 0; }\n',
  'dist/css/theme.css': '.tide { background: url(../images/wave.svg); }\n',
  'dist/fonts/tide.woff2': Uint8Array.from([0x77, 0x4f, 0x46, 0x32, 0, 1, 0, 0]),
  'dist/fonts/other.woff2': Uint8Array.from([0x77, 0x4f, 0x46, 0x32, 0, 1, 0, 0]),
  'dist/images/wave.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
  'src/tideclock.js': 'export default 1;\n',
  'test/tideclock.test.js': '',
  'docs/index.html': '<p>',
  'gulpfile.js': '',
};

/** The same files below one folder, as archives have them. */
export function wrapped(files: Files, folder = 'tideclock-2.3.1'): Files {
  return Object.fromEntries(Object.entries(files).map(([path, content]) => [`${folder}/${path}`, content]));
}

export function zipOf(files: Files): Uint8Array {
  return zipSync(
    Object.fromEntries(Object.entries(files).map(([path, content]) => [path, bytesOf(content)])),
  );
}

/** A gzipped tar; entries that are links or devices are given by their header. */
export async function tgzOf(files: Files, others: readonly Partial<tar.Header>[] = []): Promise<Uint8Array> {
  const pack = tar.pack();
  for (const [name, content] of Object.entries(files)) pack.entry({ name }, Buffer.from(bytesOf(content)));
  for (const header of others) pack.entry(header as tar.Header);
  pack.finalize();
  const pieces: Uint8Array[] = [];
  for await (const piece of pack) pieces.push(piece as Uint8Array);
  return gzipSync(Buffer.concat(pieces));
}
