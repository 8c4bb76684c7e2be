/** Places: which folder of a site each role of file lives in. */

export const roles = [
  'styles',
  'scripts',
  'images',
  'fonts',
  'media',
  'data',
  'libraries',
  'pages',
  'downloads',
] as const;
export type Role = (typeof roles)[number];

/** The folder of each role, without a closing slash. */
export type Places = Readonly<Partial<Record<Role, string>>>;

export const scriptPlaces = ['end-of-body', 'deferred-head', 'module', 'any'] as const;
/** Where pages hold their scripts. */
export type ScriptPlace = (typeof scriptPlaces)[number];

/** Names that people give to the folder of a role, the likeliest first. */
const usual: Readonly<Record<Role, readonly string[]>> = {
  styles: ['css', 'styles', 'style', 'stylesheets'],
  scripts: ['js', 'scripts', 'script', 'javascript'],
  images: ['images', 'img', 'pictures', 'image'],
  fonts: ['fonts', 'font', 'webfonts'],
  media: ['media', 'audio', 'video'],
  data: ['data'],
  libraries: ['lib', 'libs', 'libraries', 'vendor'],
  pages: ['pages'],
  downloads: ['downloads', 'files'],
};

/** The places of a project that states none, from the names of its folders (site paths that end in `/`). */
export function inferPlaces(folders: ReadonlySet<string>): Places {
  const places: Partial<Record<Role, string>> = {};
  for (const role of roles) {
    const names = usual[role].flatMap((name) => [name, `assets/${name}`]);
    const found = names.find((name) => folders.has(`${name}/`));
    if (found !== undefined) places[role] = found;
  }
  return places;
}

/** True for code that others wrote: it lies where libraries do, or is made small for them. */
export function isOfLibrary(path: string, { libraries }: Places): boolean {
  if (libraries !== undefined && path.startsWith(`${libraries}/`)) return true;
  return /[.-]min\.m?js$/.test(path) || /(?:^|\/)(?:node_modules|bower_components|vendor)\//.test(path);
}

/** True for a relative path that does not lead out of the folder it starts in. */
export function staysInside(path: string): boolean {
  return !/^[/\\]|^[a-z]:|(?:^|[/\\])\.\.(?:[/\\]|$)|\0/i.test(path);
}

/** The site's folder as the start of paths: empty, or ending in `/`. */
export function sitePrefix(site: string): string {
  const plain = site.replace(/^(?:\.\/)+|\/+$/g, '');
  return plain === '' || plain === '.' ? '' : `${plain}/`;
}
