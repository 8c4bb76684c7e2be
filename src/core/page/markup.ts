/** The element that loads what is wired, in the manner of its page. */
import { relativePath } from '../mend/address.ts';
import { isOnAnotherHost } from '../order/order.ts';
import { mediaType } from '../site/formats.ts';
import { folderOf, nameOf } from '../site/inventory.ts';
import type { Wiring } from './loaders.ts';
import type { Attribute, Manner } from './manner.ts';

export function markupFor(
  { kind, path, integrity }: Wiring,
  base: string,
  { element }: Manner,
  isDeferred: boolean,
): string {
  const address = isOnAnotherHost(path) ? path : relativePath(folderOf(base), path);
  const type = mediaType(path.replace(/[?#].*$/, ''));
  const typed: readonly Attribute[] = /^(?:image|font)\//.test(type) ? [['type', type]] : [];
  const held: readonly Attribute[] =
    integrity === undefined
      ? []
      : [
          ['integrity', integrity],
          ['crossorigin', 'anonymous'],
        ];
  const link = (rel: string, ...more: readonly Attribute[]) =>
    element('link', [['rel', rel], ['href', address], ...more], false);
  switch (kind) {
    case 'stylesheet':
      return link('stylesheet', ...held);
    case 'script':
      return element(
        'script',
        [['src', address], ...held, ...(isDeferred ? [['defer', null] as const] : [])],
        true,
      );
    case 'module':
      return element('script', [['type', 'module'], ['src', address], ...held], true);
    case 'icon':
      return link(/^apple-touch-icon/i.test(nameOf(path)) ? 'apple-touch-icon' : 'icon', ...typed);
    case 'manifest':
      return link('manifest');
    default:
      // Fonts are fetched without credentials, preloaded ones too (CSS Fonts 4, 4.9.2).
      return link('preload', ['as', 'font'], ...typed, ['crossorigin', null]);
  }
}
