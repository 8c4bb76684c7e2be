/** All tests of the core in one process: most of what each takes by itself is the time in which the core is loaded. */
import { readdirSync } from 'node:fs';
import { join } from 'node:path';

const folder = join(import.meta.dirname, 'core');
for (const name of readdirSync(folder).sort()) if (name.endsWith('.test.ts')) await import(`./core/${name}`);
