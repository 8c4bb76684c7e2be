/** Lays out a new project: a starter's files, its settings, and the pages that were asked for. */

import { ChangedFiles, type Files, filesWithin } from '../change/files.ts';
import { pageFile, wordsFor } from '../page/naming.ts';
import { navigationPart, withLink } from '../page/navigation.ts';
import { openPage } from '../page/page.ts';
import { pagesOf } from '../page/pages.ts';
import { partsOf } from '../page/parts.ts';
import { fillParts } from '../page/sync.ts';
import { SETTINGS_FILE } from '../settings/settings.ts';
import { newSettings } from '../settings/write.ts';
import { INDEX } from '../site/formats.ts';
import { sitePrefix } from '../site/places.ts';
import { addPage, type Pattern, siteWords } from './add-page.ts';
import { MANIFEST } from './manifest.ts';
import type { ListedPage } from './page-list.ts';
import { placingOf } from './placing.ts';
import { defaultOf, type Layout, renderStarter, type Starter, valuesOf } from './render.ts';

/** The whole project, with these pages beside the starter's own. Throws a `CravelError`. */
export function scaffoldLayout(
  starter: Starter,
  values: Readonly<Record<string, string>>,
  pages: readonly ListedPage[],
): Layout {
  const { manifest, name } = starter;
  const { files, folders } = renderStarter(starter, values);
  const project = new ChangedFiles(files.keys(), (path) => files.get(path) as Uint8Array);
  const prefix = sitePrefix(manifest.site);
  const site = filesWithin(project, prefix);
  const { places } = placingOf(manifest, values, `${starter.shown}/${MANIFEST}`);
  const pagesFolder = places.pages;
  const pattern = patternOf(starter, values);
  const { title: called, description: about } = siteWords(site, INDEX);
  const words = { title: called, description: isFilledIn(starter, values, about) ? about : '' };
  for (const { path: wanted, title, description } of pages) {
    const file = pageFile(wanted, pagesFolder);
    // The starter may bring it.
    if (files.has(prefix + file)) continue;
    const derived = wordsFor(file, pagesFolder, words);
    const own = {
      title: title ?? derived.title,
      description: description ?? derived.description,
      heading: title ?? derived.heading,
    };
    addPage(site, prefix, pattern, file, own);
    linkFromNavigation(site, INDEX, file, own.heading);
  }
  fillParts(site, INDEX, pagesOf(site));
  const old = project.has(SETTINGS_FILE) ? new TextDecoder().decode(project.read(SETTINGS_FILE)) : undefined;
  const settings = { site: manifest.site, places, scriptsGo: manifest['scripts-go'] };
  const text = newSettings({ ...settings, starter: name, blanks: values }, old);
  project.write(SETTINGS_FILE, new TextEncoder().encode(text));
  return { files: new Map(project.paths().map((path) => [path, project.read(path)])), folders };
}

/** False for a description that the starter gave in place of one: other pages are not to carry it on. */
export function isFilledIn(
  starter: Starter | null,
  values: Readonly<Record<string, string>>,
  description: string,
): boolean {
  if (starter === null || starter.own) return true;
  return description !== defaultOf(starter, 'description', '', values);
}

/** What further pages of a project are made from: its starter's pattern, else its entry page. */
export function patternOf(
  starter: Starter | null,
  values: Readonly<Record<string, string>>,
  entry = INDEX,
): Pattern {
  const page = starter?.manifest.page;
  const bytes = page === undefined ? undefined : starter?.files.get(page);
  if (starter === null || bytes === undefined) return { from: 'page', path: entry };
  const all = valuesOf(starter, values);
  const placing = placingOf(starter.manifest, all, `${starter.shown}/${MANIFEST}`);
  return { from: 'template', shown: `${starter.shown}/${page}`, bytes, values: all, placing };
}

/** Adds a link to the entry page's navigation part. False where there is no such part. */
export function linkFromNavigation(site: Files, entry: string, file: string, label: string): boolean {
  if (!site.has(entry)) return false;
  const page = openPage(entry, site.read(entry));
  const part = navigationPart(page, partsOf(page));
  if (part === null) return false;
  const bytes = withLink(page, part, file, label);
  if (bytes !== null) site.write(entry, bytes);
  return true;
}
