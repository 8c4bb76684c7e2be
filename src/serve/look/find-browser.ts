/** Finds a Chromium, or a browser made from it, that this machine has. */
import { delimiter } from 'node:path';
import { fail } from '../../core/errors.ts';
import { below, type DiskPath, pointedTo } from '../../disk/disk-path.ts';
import { statOrNull } from '../../disk/stat.ts';

/** What they are called on the ways to programs. */
const NAMES: readonly string[] = [
  'chromium',
  'chromium-browser',
  'google-chrome',
  'google-chrome-stable',
  'microsoft-edge',
  'chrome',
];

/** Where they stand on systems that have no such ways to them. */
const PLACES: Readonly<Record<string, readonly string[]>> = {
  darwin: [
    '/Applications/Chromium.app/Contents/MacOS/Chromium',
    '/Applications/Google Chrome.app/Contents/MacOS/Google Chrome',
    '/Applications/Microsoft Edge.app/Contents/MacOS/Microsoft Edge',
  ],
  win32: [
    '%ProgramFiles%\\Google\\Chrome\\Application\\chrome.exe',
    '%ProgramFiles(x86)%\\Google\\Chrome\\Application\\chrome.exe',
    '%ProgramFiles(x86)%\\Microsoft\\Edge\\Application\\msedge.exe',
    '%LocalAppData%\\Chromium\\Application\\chrome.exe',
  ],
};

/** The browser that somebody named, else one that is found. Throws a `CravelError` where there is none. */
export function findBrowser(named: string | undefined, env: NodeJS.ProcessEnv): DiskPath {
  const wanted = named ?? (env.CRAVEL_BROWSER || undefined);
  if (wanted !== undefined) {
    const place = pointedTo(wanted);
    if (isProgram(place)) return place;
    throw fail('no-browser', `at ${wanted}`);
  }
  const folders = (env.PATH ?? '').split(delimiter).filter((folder) => folder !== '');
  const onWays = folders.flatMap((folder) =>
    NAMES.map((name) => below(pointedTo(folder), process.platform === 'win32' ? `${name}.exe` : name)),
  );
  const inPlaces = (PLACES[process.platform] ?? []).map((place) =>
    pointedTo(place.replace(/%([^%]+)%/g, (_whole, name: string) => env[name] ?? '')),
  );
  const found = [...onWays, ...inPlaces].find(isProgram);
  if (found === undefined) throw fail('no-browser', 'where this machine has its programs');
  return found;
}

function isProgram(place: DiskPath): boolean {
  try {
    return statOrNull(place)?.isFile() === true;
  } catch {
    return false;
  }
}
