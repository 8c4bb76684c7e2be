/** `cravel visit`: asks the host of a published site for every file of it, and reports what differs. */

import { fail } from '../core/errors.ts';
import type { Visit } from '../core/judge/visit.ts';
import { chooseFiles } from '../core/packing/choose.ts';
import type { Report } from '../core/report.ts';
import { withoutCredentials } from '../core/resolve/credentials.ts';
import type { Settings } from '../core/settings/settings.ts';
import { INDEX } from '../core/site/formats.ts';
import { fileQuestion, otherQuestions } from '../core/visiting/plan.ts';
import { reportOfVisit } from '../core/visiting/report.ts';
import { below, type DiskPath, pointedTo, withSlashes } from '../disk/disk-path.ts';
import { uniqueName } from '../disk/process.ts';
import { openProject, type Project } from '../disk/project.ts';
import { whileHeldBack } from '../disk/signals.ts';
import { VisitMemory } from '../disk/visit-memory.ts';
import { publishedFiles } from '../disk/visited-files.ts';
import { visible } from '../show/escape.ts';
import { count } from '../show/paint.ts';
import { visitHost } from '../web/visit.ts';
import { visit as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { showProgress } from './progress.ts';
import { workPlace } from './project-change.ts';
import { chosenBy, writeReport } from './report-writing.ts';

export async function visit(named: string | undefined, raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const { isPart, isWanted, failsBy } = chosenBy(options);
  const { root, from } = workPlace(options.dir, output);
  const project = await openProject(root, { from });
  const { settings } = project;
  const place = options.packed === undefined ? null : pointedTo(options.packed, from);
  const published = await publishedFiles(root, place, withSlashes(options.packed ?? ''), () =>
    filesOf(project),
  );
  if (published.isProject)
    output.note('Nothing was packed of this project yet: the host is held to the project itself.');
  const address = addressOf(named, published.at, settings);
  const shown = withoutCredentials(address);
  const memory = VisitMemory.open(root, { address: shown, mark: published.mark }, options.again);
  if (memory.known.size > 0)
    output.note(
      `Going on where an earlier visit was broken off: ${count(memory.known.size, 'answer')} known already.`,
    );
  const files = [...published.files.keys()];
  const word = `no-such-page-${uniqueName().slice(-12)}`;
  const [invented, ...others] = otherQuestions(files, leftOf(project), address, word);
  const questions = [
    ...(invented === undefined ? [] : [invented]),
    ...files.map((file) => fileQuestion(file, address)),
    ...others,
  ];
  const asking = showProgress(output, { verb: 'asking for', noun: 'address', plural: 'addresses' });
  const { visits, unasked } = await whileHeldBack(async (asked) => {
    try {
      return await visitHost(questions, {
        files: published.files,
        known: memory.known,
        signal: asked.signal,
        tell: async (visited, done, total) => {
          if (visited !== null) memory.note(visited);
          await asking.tell(done, total);
        },
      });
    } finally {
      asking.end();
      memory.save();
    }
  });
  const [silence] = unasked.values();
  if (visits.length === 0 && silence !== undefined) throw fail('host-silent', shown, silence);
  if (unasked.size === 0) memory.forget();
  const unread = Array.from(unasked, ([file, why]) => ({ file, why }));
  const site = reportOfVisit(shown, visits.map(inPublic), unread, settings, isWanted);
  const fails = failsBy(settings['fail-on']);
  const report: Report = { cravel: 2, sites: [site] };
  const words = {
    read: `Asked ${visible(shown)} for ${count(site.files, 'file')}, and for ${count(questions.length - site.files, 'address', 'addresses')} that should give nothing`,
    holds:
      unread.length === 0
        ? 'Every file arrives as it was packed'
        : 'Every file that was asked for arrives as it was packed',
  };
  const ofPart = isPart ? 'Nothing of that is found.' : undefined;
  const sites = [{ name: new URL(shown).host, lineOf: () => null }];
  await writeReport(report, sites, (_site, finding) => fails(finding), { ...options, ofPart, words }, output);
  if (unread.length > 0) {
    output.note(
      `${count(unread.length, 'file')} could not be asked for: call again, and the visit goes on from there.`,
    );
    return 2;
  }
  return site.findings.some(fails) ? 1 : 0;
}

/** The address of the site's root, which ends in `/`. Throws a `CravelError` where there is none. */
function addressOf(named: string | undefined, packed: string | null, settings: Settings): string {
  const written = named ?? packed ?? settings['published-at'];
  if (written === undefined) throw fail('visit-where');
  const url = URL.canParse(written) ? new URL(written) : null;
  if (url === null || !/^https?:$/.test(url.protocol))
    throw fail('no-web-address', withoutCredentials(written));
  url.search = '';
  url.hash = '';
  if (url.pathname.endsWith(`/${INDEX}`)) url.pathname = url.pathname.slice(0, -INDEX.length);
  if (!url.pathname.endsWith('/')) url.pathname += '/';
  return url.href;
}

/** What would be packed of a project. */
function filesOf({ inventory, root, prefix }: Project): {
  readonly folder: DiskPath;
  readonly files: readonly string[];
} {
  const { taken } = chooseFiles({ inventory, used: inventory.files, isWanted: () => false, onlyUsed: false });
  return { folder: below(root, prefix), files: taken };
}

/** What of a project is not to be published. */
function leftOf({ inventory, leaves }: Project): string[] {
  const { left } = chooseFiles({ inventory, used: new Set(), isWanted: () => false, onlyUsed: false });
  return [...[...left.values()].flat().filter((path) => !path.endsWith('/')), ...leaves];
}

/** Names and passwords are for the host alone. */
function inPublic(visited: Visit): Visit {
  return { ...visited, address: withoutCredentials(visited.address) };
}
