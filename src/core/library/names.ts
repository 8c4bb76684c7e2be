/** Names of libraries and their files: versions taken off, builds told apart. */
import { safeName } from '../site/names.ts';

/** A version in a name, with what parts it from the rest: `-2.3.1`, `@2`, `.v4`, `-1.0.0-beta.2`. */
const VERSION =
  /(?:[-_.@ ]v?\d+(?:\.\d+)+|@\d+|[-_. ]v\d+)(?:[-.]?(?:alpha|beta|rc|pre|next|dev|canary)[-.]?\d*)*(?:\+[a-z0-9.]+)?(?=$|[-_. ])/gi;

export function withoutVersion(name: string): string {
  return name.replace(VERSION, '');
}

/** Endings that say which build a file is. */
const builds = {
  minified: ['min', 'minified', 'prod', 'production'],
  readable: ['dev', 'development', 'debug', 'src', 'source', 'uncompressed'],
  formats: [
    'umd',
    'iife',
    'global',
    'browser',
    'esm',
    'es',
    'module',
    'cjs',
    'common',
    'commonjs',
    'amd',
    'system',
    'node',
  ],
  variants: ['bundle', 'bundled', 'pkgd', 'all', 'full', 'slim', 'lite', 'legacy', 'modern', 'rtl'],
} as const;

/** One build of something: what it is a build of, and which one. */
export interface Build {
  /** The name without version and endings. */
  readonly stem: string;
  readonly isMinified: boolean;
  readonly format: string | null;
  readonly variant: string | null;
  readonly extension: string;
}

export function buildOf(fileName: string): Build {
  const dot = fileName.lastIndexOf('.');
  const extension = fileName.slice(dot + 1).toLowerCase();
  let stem = withoutVersion(fileName.slice(0, dot));
  let isMinified = false;
  let format: string | null = extension === 'mjs' ? 'esm' : extension === 'cjs' ? 'cjs' : null;
  let variant: string | null = null;
  for (;;) {
    const [, rest = '', word = ''] = /^(.+)[-_.]([a-z]+)$/i.exec(stem) ?? [];
    const ending = word.toLowerCase();
    const is = (list: readonly string[]) => list.includes(ending);
    if (rest !== '' && is(builds.minified)) isMinified = true;
    else if (rest !== '' && is(builds.formats)) format = ending;
    else if (rest !== '' && is(builds.variants)) variant = ending;
    else if (rest === '' || !is(builds.readable)) break;
    stem = rest;
  }
  return {
    stem,
    isMinified,
    format,
    variant,
    extension: extension === 'mjs' || extension === 'cjs' ? 'js' : extension,
  };
}

const ARCHIVE = /\.(?:zip|tgz|tar\.gz|tar|js|mjs|css)$/i;

/** A short folder name for a library, from the name of its folder, archive, file or package. */
export function libraryName(named: string): string {
  const plain = withoutVersion(named.replace(ARCHIVE, '').replace(ARCHIVE, ''));
  const { stem } = buildOf(`${plain}.js`);
  const name = safeName(stem.replace(/[-_.](?:main|master|js|css|dist)$/i, '').replace(/^@[^/]*\//, ''));
  return name.replace(/\./g, '-');
}

/** Names that say nothing of what a library is called. */
export function saysNothing(name: string): boolean {
  return /^(?:|index|main|bundle|dist|build|lib|download|package|archive|release|latest|src|source|app|js|css|styles?|scripts?)$/.test(
    name,
  );
}
