/**
 * `npm run mended`: plants mistakes in sound sites and mends them. Of one mistake at a time it tells how often the sure mends
 * give the references of the sound site again; of several at random that no mend brings a finding, and that mending again
 * does nothing. A number says how many sites with several are made up (2,000 unless said).
 */
import { areEqual } from '../src/core/change/files.ts';
import { mended } from '../test/support/mended.ts';
import { graphOf } from '../test/support/moved.ts';
import { kinds, LOST, MOST, type Site, soundSites } from './planting.ts';

const amount = Number(process.argv[2] ?? 2000);
const sites = soundSites();
const plain = (site: Site) => Object.fromEntries(site);

/** A file that was renamed, by its name in the sound site. */
function namesIn(sound: Site, one: Site): (path: string) => string {
  const [gone] = [...sound.keys()].filter((path) => !one.has(path));
  const [come] = [...one.keys()].filter((path) => !sound.has(path));
  return (path) => (path === gone && come !== undefined ? come : path);
}

/** Who writes the name of a host means that host, and not the site. */
const ELSEWHERE = 'http: left out';

let [planted, restored] = [0, 0];
const rest = new Map<string, number>();
for (const [kind, plant] of Object.entries(kinds)) {
  if (LOST.has(kind) || kind === ELSEWHERE) continue;
  for (const sound of sites) {
    const all = plant(sound);
    const step = Math.max(1, Math.floor(all.length / MOST));
    for (const one of all.filter((_one, index) => index % step === 0).slice(0, MOST)) {
      const wanted = JSON.stringify(graphOf(plain(sound), false, namesIn(sound, one)));
      // What changes no reference is nothing to restore.
      if (JSON.stringify(graphOf(plain(one), false)) === wanted) continue;
      planted++;
      const { site } = await mended(plain(one));
      if (JSON.stringify(graphOf(site, false)) === wanted) restored++;
      else rest.set(kind, (rest.get(kind) ?? 0) + 1);
    }
  }
}
console.log(`One mistake: ${restored} of ${planted} restored, ${((100 * restored) / planted).toFixed(1)} %.`);
for (const [kind, times] of [...rest].sort(([, a], [, b]) => b - a)) console.log(`  ${times} not: ${kind}`);

let state = 20261127;
/** The same each time (Park and Miller, minimal standard). */
function random(below: number): number {
  state = (state * 48271) % 2147483647;
  return state % below;
}

const names = Object.keys(kinds);
const keyOf = ({
  rule,
  file,
  written,
  target,
}: {
  rule: string;
  file: string;
  written: string;
  target: string | null;
}) => JSON.stringify([rule, file, written, target]);
let [brought, again] = [0, 0];
for (let number = 0; number < amount; number++) {
  let one = sites[random(sites.length)] as Site;
  for (let times = 1 + random(4); times > 0; times--) {
    const all = kinds[names[random(names.length)] as string]?.(one) ?? [];
    if (all.length > 0) one = all[random(all.length)] as Site;
  }
  const { before, left, site } = await mended(plain(one));
  const known = new Map<string, number>();
  for (const finding of before) known.set(keyOf(finding), (known.get(keyOf(finding)) ?? 0) + 1);
  for (const finding of left) {
    const count = known.get(keyOf(finding)) ?? 0;
    known.set(keyOf(finding), count - 1);
    if (count <= 0) {
      brought++;
      console.log(`site ${number}: ${finding.rule} ${finding.file} ${finding.written} was not there before`);
    }
  }
  const second = await mended(site);
  if (Object.entries(second.site).some(([path, bytes]) => !areEqual(bytes, site[path] ?? null))) {
    again++;
    console.log(`site ${number}: mending again changes something`);
  }
}
console.log(`${amount} sites with several: ${brought} findings brought, ${again} changed by mending again.`);
process.exitCode = brought + again === 0 ? 0 : 1;
