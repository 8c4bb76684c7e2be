/** The deck: the page under work at several widths, and beside it what arrived, what took effect and what is found. */
import { render } from 'preact';
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'preact/hooks';
import { grades } from '../../../core/report.ts';
import type { FrameNews, Lack, PageAbout, Proof, SiteNews } from '../../messages.ts';
import { WIDTHS } from '../../widths.ts';
import { unescaped } from '../addresses.ts';
import { LackShown } from './lack.tsx';
import { aboutPage, hear, lackAt, mend, siteOrigin, undo } from './link.ts';
import { Panel, type Tab } from './panel.tsx';
import { Views } from './views.tsx';

/** A deck that is itself as narrow as a phone (CSS pixels). */
const NARROW = 720;

function Deck() {
  const [news, setNews] = useState<SiteNews | null>(null);
  const [isThere, setThere] = useState(true);
  const [path, setPath] = useState<string | null>(null);
  const [about, setAbout] = useState<PageAbout | null>(null);
  const [own, setOwn] = useState<number | null>(null);
  const [main, setMain] = useState(innerWidth < NARROW ? 390 : 1280);
  const [isDark, setDark] = useState(matchMedia('(prefers-color-scheme: dark)').matches);
  const [isTogether, setTogether] = useState(true);
  const [tab, setTab] = useState<Tab>('pages');
  const [lack, setLack] = useState<Lack | null>(null);
  const [notes, setNotes] = useState<readonly string[]>([]);
  const [proofs, setProofs] = useState<ReadonlyMap<number, Proof>>(new Map());
  const [searches, setSearches] = useState(0);
  const frames = useRef(new Map<number, HTMLIFrameElement>());
  const reported = useRef(new Map<number, string>());
  const widths = useMemo(
    () => [...new Set([...WIDTHS, ...(own === null ? [] : [own])])].sort((a, b) => a - b),
    [own],
  );
  const line = news?.pages.find((page) => page.path === path) ?? null;

  useEffect(() => hear(setNews, setThere), []);
  useEffect(() => {
    if (news === null || line !== null) return;
    const first = news.pages.find((page) => page.path === 'index.html') ?? news.pages[0];
    setPath(first?.path ?? null);
  }, [news, line]);
  useEffect(() => {
    if (path !== null) void aboutPage(path).then(setAbout);
  }, [path, news?.look]);
  // A view may have gone where nothing is served.
  const at = proofs.get(main)?.path ?? null;
  const isPage = at === null || pageAt(at, news) !== undefined;
  useEffect(() => {
    if (at === null || isPage) setLack(null);
    else void lackAt(at).then(setLack);
  }, [at, isPage, news?.look]);
  useEffect(() => {
    document.title = `${path ?? 'Deck'} · ${news?.name ?? ''}`;
  }, [path, news?.name]);

  useEffect(() => {
    const take = ({ origin, source, data }: MessageEvent) => {
      if (origin !== siteOrigin) return;
      const [width] = [...frames.current].find(([, frame]) => frame.contentWindow === source) ?? [];
      if (width === undefined) return;
      const told = data as FrameNews;
      if (told.cravel === 'rules') return;
      if (told.cravel === 'scrolled') {
        if (isTogether)
          for (const [other, frame] of frames.current)
            if (other !== width)
              frame.contentWindow?.postMessage({ cravel: 'scroll', at: told.at }, siteOrigin);
        return;
      }
      setProofs((before) => new Map(before).set(width, told.proof));
      // A link in one of the views leads all of them on; a page that is about to go only says again where it was.
      const hasGoneOn = reported.current.get(width) !== told.proof.path;
      reported.current.set(width, told.proof.path);
      const page = pageAt(told.proof.path, news);
      if (hasGoneOn && width === main && page !== undefined) setPath(page.path);
    };
    addEventListener('message', take);
    return () => removeEventListener('message', take);
  }, [news, main, isTogether]);

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const { target, key, ctrlKey, metaKey, altKey } = event;
      if (
        ctrlKey ||
        metaKey ||
        altKey ||
        (target instanceof Element && target.matches('input, select, textarea'))
      )
        return;
      const width = widths[Number(key) - 1];
      if (width !== undefined) setMain(width);
      else if (key === 'd') setDark((dark) => !dark);
      else if (key === 't') setTogether((together) => !together);
      else if (key === '/') {
        event.preventDefault();
        setTab('pages');
        setSearches((before) => before + 1);
      }
    };
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, [widths]);

  // What is typed right after the slash is for the field.
  useLayoutEffect(() => {
    if (searches > 0) document.querySelector<HTMLInputElement>('#find')?.focus();
  }, [searches]);

  const act = useCallback(async (work: Promise<{ readonly notes: readonly string[] }>) => {
    setNotes(['…']);
    setNotes((await work).notes);
  }, []);

  if (news === null) return <p class="wait">Looking at the site…</p>;
  return (
    <>
      <header>
        <h1>
          <span class="soft">{news.name}</span> ▸ <b>{path ?? 'no page'}</b>
        </h1>
        <ul class="grades" aria-label="Findings in the whole site">
          {grades.map((grade) => (
            <li key={grade} class={news.counts[grade] > 0 ? grade : 'none'}>
              <b>{news.counts[grade]}</b> {grade}
            </li>
          ))}
        </ul>
        <div class="tools">
          <button type="button" aria-pressed={isDark} onClick={() => setDark(!isDark)} title="d">
            {isDark ? 'Dark' : 'Light'}
          </button>
          <button type="button" aria-pressed={isTogether} onClick={() => setTogether(!isTogether)} title="t">
            Scroll together
          </button>
          {line !== null && (
            <a href={siteOrigin + line.address} target="_blank" rel="noopener">
              Open alone
            </a>
          )}
          <button
            type="button"
            disabled={news.last === null}
            onClick={() => act(undo())}
            title={news.last ?? 'Nothing to take back'}
          >
            Take back
          </button>
        </div>
      </header>
      <div class="told" role="status">
        {!isThere && <p class="broken">The preview has ended. Start it again, and this goes on.</p>}
        {news.trouble !== null && <p class="broken">{news.trouble}</p>}
        {lack !== null && <LackShown lack={lack} />}
        {notes.map((note) => (
          <p key={note}>{note}</p>
        ))}
      </div>
      <div class="deck">
        <Views
          address={line === null ? null : siteOrigin + line.address}
          at={line?.address ?? null}
          {...{ widths, main, isDark, proofs, own, frames: frames.current }}
          choose={setMain}
          choosesOwn={(width) => {
            setOwn(width);
            if (width !== null) setMain(width);
          }}
        />
        <Panel
          {...{ news, path, about, proofs, main, tab }}
          choosesTab={setTab}
          choosesPage={setPath}
          mends={(keys) => act(mend(keys))}
        />
      </div>
    </>
  );
}

/** The page that is served at a path of the site's host. */
function pageAt(path: string, news: SiteNews | null) {
  const own = unescaped(path);
  const folder = own.replace(/index\.html$/, '');
  return news?.pages.find(({ address }) => [own, folder].includes(unescaped(address)));
}

render(<Deck />, document.body);
