/** Opens pages one after the other in a frame that nobody sees, and asks each what a stylesheet does there. */
import type { FrameNews, FrameOrder } from '../../messages.ts';
import { siteOrigin } from './link.ts';

/** Milliseconds that one page may take. */
const PATIENCE = 15_000;

export interface Probing {
  /** Selectors that match nothing on any of the pages that were opened. */
  readonly idle: readonly string[];
  readonly done: number;
  readonly total: number;
  /** Pages that did not tell anything. */
  readonly silent: number;
}

/** `tell` hears of it after each page, and answers whether to go on. */
export async function probe(
  address: string,
  pages: readonly string[],
  tell: (so: Probing) => boolean,
): Promise<void> {
  const frame = document.createElement('iframe');
  frame.name = 'cravel-probe';
  frame.className = 'probe';
  frame.tabIndex = -1;
  frame.setAttribute('sandbox', 'allow-scripts allow-same-origin');
  document.body.append(frame);
  const idle = new Set<string>();
  const used = new Set<string>();
  let silent = 0;
  try {
    for (const [index, page] of pages.entries()) {
      const rules = await rulesOn(frame, siteOrigin + page, address);
      if (rules === null) silent++;
      for (const { selector, isMatching } of rules ?? []) (isMatching ? used : idle).add(selector);
      const left = [...idle].filter((selector) => !used.has(selector));
      if (!tell({ idle: left, done: index + 1, total: pages.length, silent })) return;
    }
  } finally {
    frame.remove();
  }
}

type Rules = Extract<FrameNews, { cravel: 'rules' }>['rules'];

/** Null where the page does not answer. */
function rulesOn(frame: HTMLIFrameElement, page: string, address: string): Promise<Rules | null> {
  return new Promise((done) => {
    const end = (rules: Rules | null) => {
      removeEventListener('message', take);
      clearTimeout(timer);
      done(rules);
    };
    const take = ({ origin, source, data }: MessageEvent) => {
      if (origin !== siteOrigin || source !== frame.contentWindow) return;
      const told = data as FrameNews;
      if (told.cravel === 'proof')
        frame.contentWindow?.postMessage({ cravel: 'rules', address } satisfies FrameOrder, siteOrigin);
      if (told.cravel === 'rules') end(told.rules);
    };
    const timer = setTimeout(() => end(null), PATIENCE);
    addEventListener('message', take);
    frame.src = page;
  });
}
