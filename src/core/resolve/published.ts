/** The address that a site is published at, and what that makes of its references. */
import { resolve, stoppingAtRoot, type Target } from './resolve.ts';

/** The address that a site is published at. */
export interface Published {
  /** Scheme and host, `https://gullhaven.example`. */
  readonly origin: string;
  /** The folder there, from `/` to `/`. */
  readonly folder: string;
}

/** Reads `published-at`; null where it is no http(s) address. */
export function publishedAt(address: string | undefined): Published | null {
  const [, origin, path] = /^(https?:\/\/[^/?#]+)(\/[^?#]*)?$/i.exec(address?.trim() ?? '') ?? [];
  if (origin === undefined) return null;
  const folder = (path ?? '/').replace(/[^/]*$/, '');
  return { origin: origin.toLowerCase(), folder };
}

/** Like {@link resolve}, with the site where it is published: addresses of its own host are the site's. */
export function resolveIn(address: string, base: string | null, published: Published | null): Target {
  if (published === null) return resolve(address, base);
  const text = address.trim();
  const host = published.origin.replace(/^https?:/, '');
  const own = text.replace(/^https?:/i, '');
  if (/^\/\//.test(own)) {
    if (!own.toLowerCase().startsWith(host) || !/^(?:$|[/?#])/.test(own.slice(host.length)))
      return { in: 'elsewhere' };
    const path = own.slice(host.length);
    // A host without a path is its root (URL 4.4, path start state).
    return fromHostRoot(path.startsWith('/') ? path : `/${path}`, published);
  }
  if (/^[/\\]/.test(text)) return fromHostRoot(text, published);
  const target = resolve(address, base);
  return target.in === 'beyond' ? onHost(target, address, published) : target;
}

/** What leads out of the site may lead back into it by way of the folder that it is published in. */
function onHost(target: Target & { in: 'beyond' }, address: string, { folder }: Published): Target {
  const asked = stoppingAtRoot(folder.slice(1) + target.folder, target.segments);
  if (!`/${asked}`.startsWith(folder)) return { ...target, asked, stopped: null };
  const path = asked.slice(folder.length - 1);
  if (folder === '/') return { ...target, asked, stopped: path };
  const [, query = '', fragment] = /^[^?#]*(\?[^#]*)?(?:#(.*))?$/s.exec(address.trim()) ?? [];
  return { in: 'site', path, folder: '', segments: path.split('/'), query, fragment: fragment ?? null };
}

/** A path from the host's root: below the published folder it is the site's. */
function fromHostRoot(path: string, { folder }: Published): Target {
  if (!path.startsWith(folder)) return { in: 'elsewhere' };
  return resolve(`/${path.slice(folder.length)}`, '');
}
