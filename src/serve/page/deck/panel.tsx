/** What stands beside the views: the pages, the files with their proof, the findings, the edges and what was said. */
import { useMemo, useState } from 'preact/hooks';
import { grades } from '../../../core/report.ts';
import type { Counts, PageAbout, PageLine, Proof, SiteNews } from '../../messages.ts';
import { pathIn } from '../addresses.ts';
import { Files } from './files.tsx';
import { Findings } from './findings.tsx';

const tabs = ['pages', 'files', 'findings', 'edges', 'said'] as const;
export type Tab = (typeof tabs)[number];

const names: Readonly<Record<Tab, string>> = {
  pages: 'Pages',
  files: 'Files',
  findings: 'Findings',
  edges: 'Edges',
  said: 'Said',
};

interface PanelProps {
  readonly news: SiteNews;
  readonly path: string | null;
  readonly about: PageAbout | null;
  readonly proofs: ReadonlyMap<number, Proof>;
  readonly main: number;
  readonly tab: Tab;
  choosesTab(tab: Tab): void;
  choosesPage(path: string): void;
  mends(keys: readonly string[]): void;
}

export function Panel({ news, path, about, proofs, main, tab, choosesTab, choosesPage, mends }: PanelProps) {
  const proof = proofs.get(main) ?? null;
  const edges = [...proofs]
    .filter(([, { sticksOut }]) => sticksOut.length > 0)
    .sort(([one], [other]) => one - other);
  const amounts: Readonly<Record<Tab, number>> = {
    pages: news.pages.length,
    files: about?.files.length ?? 0,
    findings: about?.findings.length ?? 0,
    edges: edges.length,
    said: proof?.said.length ?? 0,
  };
  const isWrong: Readonly<Record<Tab, boolean>> = {
    pages: false,
    files: false,
    findings: about?.findings.some(({ grade }) => grade !== 'untidy') ?? false,
    edges: edges.length > 0,
    said: proof?.said.some(({ kind }) => kind !== 'warning') ?? false,
  };
  const move = (event: KeyboardEvent) => {
    const step = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (step === 0) return;
    const next = tabs[(tabs.indexOf(tab) + step + tabs.length) % tabs.length] as Tab;
    choosesTab(next);
    document.getElementById(`tab-${next}`)?.focus();
  };
  return (
    <aside class="panel" aria-label="What is known of the page">
      <div class="tabs" role="tablist" onKeyDown={move}>
        {tabs.map((name) => (
          <button
            key={name}
            id={`tab-${name}`}
            type="button"
            role="tab"
            aria-selected={name === tab}
            aria-controls="panel"
            tabIndex={name === tab ? 0 : -1}
            onClick={() => choosesTab(name)}
          >
            {names[name]} <span class={isWrong[name] ? 'amount wrong' : 'amount'}>{amounts[name]}</span>
          </button>
        ))}
      </div>
      <div id="panel" role="tabpanel" aria-labelledby={`tab-${tab}`}>
        {tab === 'pages' && <Pages {...{ news, path, choosesPage }} />}
        {tab === 'files' && about !== null && <Files {...{ about, proof }} />}
        {tab === 'findings' && about !== null && <Findings {...{ about, mends }} />}
        {tab === 'edges' && <Edges edges={edges} />}
        {tab === 'said' && <SaidList proof={proof} />}
      </div>
    </aside>
  );
}

/** Pages in the list at most: who has more finds them by their names. */
const MOST_LISTED = 300;

function Pages({ news, path, choosesPage }: Pick<PanelProps, 'news' | 'path' | 'choosesPage'>) {
  const [words, setWords] = useState('');
  const found = useMemo(
    () => news.pages.filter((page) => page.path.toLowerCase().includes(words.toLowerCase())),
    [news, words],
  );
  return (
    <>
      <label class="find">
        Find a page
        <input
          id="find"
          type="search"
          value={words}
          onInput={(event) => setWords(event.currentTarget.value)}
        />
      </label>
      <ul class="pages">
        {found.slice(0, MOST_LISTED).map((page) => (
          <PageItem
            key={page.path}
            page={page}
            isCurrent={page.path === path}
            choose={() => choosesPage(page.path)}
          />
        ))}
      </ul>
      {found.length > MOST_LISTED && (
        <p class="soft">and {found.length - MOST_LISTED} more: type a part of the name</p>
      )}
      {news.elsewhere > 0 && (
        <p class="soft">{news.elsewhere} more findings are about no page alone: cravel check tells them.</p>
      )}
      {news.unread > 0 && (
        <p class="broken">{news.unread} files could not be read: cravel check names them.</p>
      )}
    </>
  );
}

function PageItem({ page, isCurrent, choose }: { page: PageLine; isCurrent: boolean; choose(): void }) {
  return (
    <li>
      <button type="button" aria-current={isCurrent ? 'page' : undefined} onClick={choose}>
        <span class="name">{page.path}</span>
        <Marks counts={page.counts} />
      </button>
    </li>
  );
}

function Marks({ counts }: { counts: Counts }) {
  return (
    <span class="marks">
      {grades
        .filter((grade) => counts[grade] > 0)
        .map((grade) => (
          <span key={grade} class={grade} title={`${counts[grade]} ${grade}`}>
            {counts[grade]}
            <span class="unseen"> {grade} </span>
          </span>
        ))}
    </span>
  );
}

function Edges({ edges }: { edges: readonly (readonly [number, Proof])[] }) {
  if (edges.length === 0) return <p>Nothing reaches over the edge at any of these widths.</p>;
  return (
    <>
      <p>At these widths the page scrolls sideways, for these elements:</p>
      {edges.map(([width, { sticksOut }]) => (
        <section key={width}>
          <h2>{width} px</h2>
          <ul class="plain">
            {sticksOut.map(({ element, by }) => (
              <li key={element}>
                <code>{element}</code> <span class="misplaced">{by} px over the edge</span>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </>
  );
}

const kindsOfSaid = {
  threw: 'exception',
  error: 'console error',
  warning: 'console warning',
  blocked: 'blocked',
  'not there': 'did not arrive',
} as const;

function SaidList({ proof }: { proof: Proof | null }) {
  if (proof === null) return <p class="soft">The page has not told anything yet.</p>;
  if (proof.said.length === 0) return <p>No exception, and nothing in the console.</p>;
  return (
    <ul class="plain">
      {proof.said.map(({ kind, text, address, line }, index) => (
        <li key={index}>
          <b class={kind === 'warning' ? 'fragile' : 'broken'}>{kindsOfSaid[kind]}</b> {text}
          {address !== null && (
            <div class="soft">
              {pathIn(address)}
              {line === null ? '' : ` ${line}`}
            </div>
          )}
        </li>
      ))}
    </ul>
  );
}
