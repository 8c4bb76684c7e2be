/** any-depth: an error page, which hosts show at any address, with addresses that start from where it lies. */
import { encodePath, escapeTail } from '../../mend/address.ts';
import type { Reference } from '../../read/reading.ts';
import { locate } from '../../resolve/locate.ts';
import { resolveIn } from '../../resolve/published.ts';
import { isErrorPage } from '../../site/asked-for.ts';
import type { PageRule, Settlement } from '../rule.ts';

/** Starts from the root of a host, or from a scheme (URL 4.4). */
const ROOTED = /^\s*(?:[/\\]|[a-z][a-z0-9+.-]*:)/i;

export const anyDepth: PageRule = {
  name: 'any-depth',
  grade: 'fragile',
  summary: 'an error page with addresses that hold at one depth only',
  suffers:
    'Hosts show the page at whatever address was asked for: below a folder it stands without its styles and pictures, and its links lead nowhere.',
  wrong: '<link rel="stylesheet" href="css/main.css">  in 404.html',
  right: '<link rel="stylesheet" href="/css/main.css">, or <base href="/"> in the head',
  cause: 'rule',
  next: {
    shown: 'published-at in cravel.yaml, then cravel mend',
    after: () => 'published-at in cravel.yaml, then cravel mend',
  },
  judgePage({ file, reading, site }) {
    if (!isErrorPage(file) || (reading.base !== null && ROOTED.test(reading.base))) return [];
    return reading.references.flatMap((reference) => {
      const { kind, holder, written, offset, length } = reference;
      const address = written.trim();
      if (address === '' || address.startsWith('#') || ROOTED.test(address)) return [];
      const target = reading.base === null ? resolveIn(address, file, site.published) : null;
      const found = target?.in === 'site' ? locate(site.inventory, target.path) : null;
      // What leads nowhere at all is told as that.
      if (target?.in !== 'site' || found === null || found === file) return [];
      const settlements: Settlement[] =
        site.published === null ? [] : [settlement(reference, site.published.folder + target.path, address)];
      const message = `hosts show this page at any address: at piers/ this leads to piers/${target.path}`;
      return { offset, length, holder, kind, written, target: target.path, message, settlements };
    });
  },
};

function settlement(reference: Reference, path: string, address: string): Settlement {
  const tail = /[?#].*/s.exec(address)?.[0] ?? '';
  const text = encodePath(path) + escapeTail(tail, reference);
  const { offset, length } = reference;
  return {
    sure: true,
    title: "start from the host's root",
    edit: { start: offset, end: offset + length, text },
  };
}
