/** The deck's way to the preview: news as it comes, and what is asked and done. */
import type { Done, Lack, PageAbout, SiteNews } from '../../messages.ts';

const meta = (name: string) =>
  document.querySelector<HTMLMetaElement>(`meta[name="cravel-${name}"]`)?.content ?? '';
const token = meta('token');

/** Milliseconds between two looks for a preview that has ended. */
const PAUSE = 1000;

/** Where the site is served: scheme, host and port. */
export const siteOrigin = meta('site');

/** Hears from the preview until the deck is closed; `isThere` says whether there is one. */
export function hear(take: (news: SiteNews) => void, isThere: (there: boolean) => void): void {
  let was = false;
  const socket = new WebSocket(`${location.origin.replace(/^http/, 'ws')}/news?token=${token}`);
  socket.onmessage = ({ data }) => {
    was = true;
    isThere(true);
    take(JSON.parse(String(data)) as SiteNews);
  };
  socket.onclose = () => {
    isThere(false);
    // Another preview at this address has another token.
    void untilThere().then(() => (was ? hear(take, isThere) : location.reload()));
  };
}

/** Waits for a preview at this address. */
async function untilThere(): Promise<void> {
  do await new Promise((done) => setTimeout(done, PAUSE));
  while ((await call('/', 'GET')) === null);
}

/** What is known of a page before it is opened. */
export function aboutPage(page: string): Promise<PageAbout | null> {
  return ask(`/about?page=${encodeURIComponent(page)}`);
}

/** What is known of an address where nothing is served. */
export function lackAt(target: string): Promise<Lack | null> {
  return ask(`/lack?target=${encodeURIComponent(target)}`);
}

/** The addresses of pages that load a file, by its site path. */
export async function pagesThatLoad(file: string): Promise<readonly string[]> {
  return (await ask<readonly string[]>(`/loading?file=${encodeURIComponent(file)}`)) ?? [];
}

async function ask<T>(path: string): Promise<T | null> {
  const answer = await call(path, 'GET');
  return answer?.ok ? ((await answer.json()) as T) : null;
}

export async function mend(keys: readonly string[]): Promise<Done> {
  return doneBy(await call('/mend', 'POST', { keys }));
}

export async function undo(): Promise<Done> {
  return doneBy(await call('/undo', 'POST', {}));
}

async function doneBy(answer: Response | null): Promise<Done> {
  if (answer === null) return { notes: ['The preview has ended: start it again.'], hasChanged: false };
  return answer.ok
    ? ((await answer.json()) as Done)
    : { notes: [(await answer.text()).trim()], hasChanged: false };
}

async function call(path: string, method: string, body?: object): Promise<Response | null> {
  try {
    return await fetch(path, {
      method,
      headers: { 'x-cravel-deck': token },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
  } catch {
    return null;
  }
}
