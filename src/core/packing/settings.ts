/** The settings of a project as they are true of its packed copy. */
import { Library, Settings } from '../settings/settings.ts';
import type { PackedCopy } from './pack.ts';

export function settingsOfCopy(settings: Settings, copy: PackedCopy): Settings {
  const { published, renamed, readable } = copy;
  const own = Object.assign(new Settings(), settings);
  own.site = '.';
  own['leave-out'] = [];
  if (published !== null) own['published-at'] = published.origin + published.folder;
  const gone = new Set(readable);
  own.libraries = Object.fromEntries(
    Object.entries(settings.libraries).map(([name, library]) => [
      name,
      libraryOfCopy(library, renamed, gone),
    ]),
  );
  own.accept = settings.accept.map((one) => {
    const { file, written } = one;
    const rewritten = copy.addressOf(file ?? null, written ?? '');
    return {
      ...one,
      ...(file === undefined ? {} : { file: renamed.get(file) ?? file }),
      ...(written === undefined ? {} : { written: rewritten }),
    };
  });
  return own;
}

function libraryOfCopy(
  library: Library,
  renamed: ReadonlyMap<string, string>,
  gone: ReadonlySet<string>,
): Library {
  const { folder, release } = library;
  const nameOf = (file: string) => {
    const path = `${folder}/${gone.has(`${folder}/${file}`) ? (release[file] ?? file) : file}`;
    return (renamed.get(path) ?? path).slice(folder.length + 1);
  };
  const pairs = Object.entries(release).filter(([readable]) => !gone.has(`${folder}/${readable}`));
  return Object.assign(new Library(), library, {
    styles: library.styles.map(nameOf),
    scripts: library.scripts.map(nameOf),
    release: Object.fromEntries(pairs.map(([readable, small]) => [nameOf(readable), nameOf(small)])),
  });
}
