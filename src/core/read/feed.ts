/** Reads the XML files that list a site's pages and pictures: sitemaps, Atom and RSS feeds, browserconfig. */
import { emptyReading } from './empty.ts';
import { holderOf } from './holder.ts';
import type { Kind, Reading, Reference } from './reading.ts';
import type { Source } from './source.ts';
import { type PlacedValue, referenceFrom, tellXml } from './xml.ts';

/** Elements whose text, and attributes whose value, is an address: `name` or `name@attribute`. */
type Addresses = Readonly<Record<string, Kind>>;

/** By root element. */
const formats: Readonly<Record<string, { readonly holder: string; readonly addresses: Addresses }>> = {
  urlset: {
    holder: 'sitemap',
    addresses: {
      loc: 'page',
      'image:loc': 'image',
      'video:thumbnail_loc': 'image',
      'video:content_loc': 'media',
      'xhtml:link@href': 'page',
    },
  },
  sitemapindex: { holder: 'sitemap', addresses: { loc: 'data' } },
  feed: {
    holder: 'feed',
    addresses: { 'link@href': 'page', 'content@src': 'data', icon: 'icon', logo: 'image' },
  },
  rss: {
    holder: 'feed',
    addresses: {
      link: 'page',
      url: 'image',
      comments: 'page',
      'enclosure@url': 'media',
      'atom:link@href': 'page',
      'media:content@url': 'media',
      'media:thumbnail@url': 'image',
      'itunes:image@href': 'image',
    },
  },
  browserconfig: {
    holder: 'browserconfig',
    addresses: {
      'square70x70logo@src': 'image',
      'square150x150logo@src': 'image',
      'square310x310logo@src': 'image',
      'wide310x150logo@src': 'image',
      'TileImage@src': 'image',
      'badge@src': 'data',
      'notification-uri@src': 'data',
    },
  },
};

/** Reads an XML file by its root element; one of another kind says nothing. Never throws. */
export function readFeedSource(source: Source, encoding: string): Reading {
  const references: Reference[] = [];
  let root: string | null = null;
  const add = (key: string, value: PlacedValue) => {
    // A file may call its elements as it likes: constructor, too.
    const format = root !== null && Object.hasOwn(formats, root) ? formats[root] : undefined;
    const kind = format && Object.hasOwn(format.addresses, key) ? format.addresses[key] : undefined;
    if (format === undefined || kind === undefined || value.value.trim() === '') return;
    references.push(referenceFrom(value, holderOf('xml', format.holder, key.replace('@', ' ')), kind));
  };
  tellXml(source, {
    open(name, attributes) {
      root ??= name;
      for (const [attribute, value] of attributes) add(`${name}@${attribute}`, value);
    },
    text: (name, value) => add(name, value),
    instruction() {},
  });
  return { ...emptyReading(encoding), references };
}
