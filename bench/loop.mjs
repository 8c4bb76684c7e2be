// The yardstick for whole checks: htmlparser2's bare event loop over every page of a folder.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Parser } from 'htmlparser2';

const folder = process.argv[2];
for (const path of readdirSync(folder, { recursive: true })) {
  if (!/\.x?html?$/i.test(path)) continue;
  const parser = new Parser({});
  parser.write(readFileSync(join(folder, path)).toString());
  parser.end();
}
