/** wrong-kind: what is loaded is not what it is loaded as, by its content or by its name. */

import { onceFor } from '../../once-for.ts';
import type { Content } from '../../read/content.ts';
import { isAttribute } from '../../read/holder.ts';
import type { Kind } from '../../read/reading.ts';
import { extensionOf } from '../../site/inventory.ts';
import { walk } from '../../site/walk.ts';
import type { Rule } from '../rule.ts';

/** What each kind may be, and what its file may be called. */
const fits: Readonly<
  Partial<
    Record<
      Kind,
      { readonly contents: readonly Content[]; readonly extensions: RegExp; readonly name: string }
    >
  >
> = {
  stylesheet: { contents: ['text', 'empty'], extensions: /^css$/, name: 'a stylesheet' },
  script: { contents: ['text', 'empty'], extensions: /^[cm]?js$/, name: 'a script' },
  module: { contents: ['text', 'empty'], extensions: /^(?:m?js|json|css|wasm)$/, name: 'a module' },
  image: {
    contents: ['image', 'svg'],
    extensions: /^(?!(?:x?html?|css|m?js|json|txt|md|pdf|woff2?)$)/,
    name: 'an image',
  },
  icon: {
    contents: ['image', 'svg'],
    extensions: /^(?!(?:x?html?|css|m?js|json|txt|md|pdf)$)/,
    name: 'an icon',
  },
  font: { contents: ['font', 'svg'], extensions: /^(?!(?:x?html?|css|m?js|png|jpe?g|gif)$)/, name: 'a font' },
};

const described: Readonly<Record<Content, string>> = {
  empty: 'it is empty',
  html: 'it is a page (HTML)',
  svg: 'it is a drawing (SVG)',
  image: 'it is an image',
  font: 'it is a font',
  media: 'it is sound or video',
  archive: 'it is an archive',
  text: 'it is text',
  other: 'its content is something else',
};

export const wrongKind: Rule = {
  name: 'wrong-kind',
  grade: 'broken',
  summary: 'not what it is loaded as',
  suffers: 'The browser gets the file and cannot use it: no styles, no script, a broken picture.',
  wrong: '<img src="images/pier.png">  where the file is an error page that was saved under that name',
  right: 'the picture itself under that name',
  concerns: {
    loading: ({ kind, holder }, found, site) =>
      !isAttribute(holder, 'embed', 'src') && isMisfit(kind, found, site.contentOf),
  },
  judge({ reference, target, found, site }) {
    if (target.in !== 'site' || found === null) return null;
    const problem = misfit(reference.kind, found, site.contentOf);
    if (problem === null) return null;
    return {
      message: problem,
      target: found,
      walk: walk(site.inventory, target.folder, target.segments),
      candidates: [],
    };
  },
};

type ContentOf = (path: string) => Content;

/** What was found out, by kind and path, for as long as files hold what they hold. */
const known = onceFor((_contentOf: ContentOf) => new Map<Kind, Map<string, boolean>>());

function isMisfit(kind: Kind, file: string, contentOf: ContentOf): boolean {
  const byKind = known(contentOf);
  let byFile = byKind.get(kind);
  if (byFile === undefined) {
    byFile = new Map();
    byKind.set(kind, byFile);
  }
  let isBad = byFile.get(file);
  if (isBad === undefined) {
    isBad = misfit(kind, file, contentOf) !== null;
    byFile.set(file, isBad);
  }
  return isBad;
}

/** Why a file cannot be loaded as this kind; null where it can. */
function misfit(kind: Kind, file: string, contentOf: ContentOf): string | null {
  const wanted = fits[kind];
  if (wanted === undefined) return null;
  const content = contentOf(file);
  if (!wanted.contents.includes(content))
    return `this is loaded as ${wanted.name}, and ${described[content]}`;
  const extension = extensionOf(file);
  if (wanted.extensions.test(extension)) return null;
  return `this is loaded as ${wanted.name}, and hosts serve .${extension} as something else`;
}
