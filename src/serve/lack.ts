/** What is known of an address where nothing is served: where it goes wrong, what was meant, who refers to it, what mends it. */
import { type Cause, type Finding, type SiteReport, whatIsWritten } from '../core/report.ts';
import type { Inventory } from '../core/site/inventory.ts';
import { nearestNames } from '../core/site/near-names.ts';
import { explainStop, walk } from '../core/site/walk.ts';
import { foundStep } from './about.ts';
import { asAddress } from './answer.ts';
import type { Lack } from './messages.ts';

/** Spots that are named at most. */
const MOST = 12;

export interface Lacking {
  /** The site path that was asked for; null where it is none of the site. */
  readonly path: string | null;
  /** As it was asked for. */
  readonly target: string;
  /** The folder of the host that the site is served in. */
  readonly folder: string;
  readonly inventory: Inventory;
  readonly site: SiteReport | null;
}

export function lackOf({ path, target, folder, inventory, site }: Lacking): Lack {
  const asked = decoded(target);
  const toAddress = (one: string) => ({ path: one, address: folder + asAddress(one) });
  if (path === null) {
    const why = `the site is served in ${folder}, as published-at says: what starts at the root of the host is not the site's`;
    const meant = [{ path: folder, address: folder }];
    return { asked, walk: [], why, meant, spots: [], moreSpots: 0, commands: [] };
  }
  const steps = walk(inventory, '', path.split('/'));
  const isFolder = path === '' || path.endsWith('/');
  const why =
    explainStop(inventory, '', steps) ??
    (isFolder ? 'this folder has no index.html' : 'no host serves this one');
  const findings = (site?.findings ?? []).filter((finding) => finding.target === path);
  return {
    asked,
    walk: steps.map(foundStep),
    why,
    meant: (meantBy(findings) ?? nearestTo(path, inventory)).map(toAddress),
    spots: findings.slice(0, MOST).map(({ file, line, column, written, mends: [mend] }) => ({
      file,
      line,
      column,
      written,
      mend:
        mend === undefined || mend.edits.length === 0 ? null : { sure: mend.sure, text: whatIsWritten(mend) },
    })),
    moreSpots: Math.max(0, findings.length - MOST),
    commands: commandsFor(findings, site?.causes ?? []),
  };
}

function meantBy(findings: readonly Finding[]): readonly string[] | null {
  const paths = new Set(findings.flatMap(({ mends }) => mends.flatMap(({ target }) => target ?? [])));
  return paths.size > 0 ? [...paths] : null;
}

function nearestTo(path: string, { files }: Inventory): readonly string[] {
  const near = nearestNames(path, [...files]);
  return near === '' ? [] : near.split(', ');
}

function commandsFor(findings: readonly Finding[], causes: readonly Cause[]): readonly string[] {
  const own = new Set(findings);
  const all = causes.filter((cause) => cause.findings.some((one) => own.has(one)));
  return [...new Set(all.flatMap(({ mend }) => mend ?? []))];
}

function decoded(target: string): string {
  try {
    return decodeURI(target);
  } catch {
    return target;
  }
}
