/**
 * Unpacks the bundled Chromium for the tests, once, into a folder of the project's own: before any test runs, since a
 * file that one process still writes cannot be run by another.
 */
import { existsSync, mkdirSync, mkdtempSync, renameSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import chromium from '@sparticuz/chromium';
import { browserFolder } from '../test/support/browser.ts';

if (!existsSync(browserFolder)) {
  mkdirSync(dirname(browserFolder), { recursive: true });
  const staging = mkdtempSync(join(dirname(browserFolder), 'unpacking-'));
  // The package unpacks into the temporary folder, whichever that is.
  process.env.TMPDIR = staging;
  await chromium.executablePath();
  try {
    renameSync(staging, browserFolder);
  } catch (error) {
    // Another run may have been faster.
    rmSync(staging, { recursive: true, force: true });
    if (!existsSync(browserFolder)) throw error;
  }
}
