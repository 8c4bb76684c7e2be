/** The script that the preview adds to pages on their way out: swaps and reloads what changes, and tells the deck what took effect. */
import { type FrameNews, type FrameOrder, OWN, type PageNews } from '../messages.ts';
import { rulesAt } from './effects.ts';
import { Log } from './log.ts';
import { proofOf } from './proof.ts';
import { Renewal } from './renewal.ts';

/** Filled in by the server. */
const DECK = 'CRAVEL_DECK';
/** Milliseconds in which what happens is told as one. */
const PAUSE = 200;
/** Milliseconds after the page came in which late fonts, images and scripts are looked at again. */
const LATER = [600, 2500];

document.currentScript?.remove();
// Frames of the deck have such names; frames of the site's own do not.
const inDeck = window.name.startsWith('cravel-') && window.parent !== window;
const log = new Log();
const renewal = new Renewal(log, () => report());

listen();
if (inDeck) {
  addEventListener('message', follow);
  addEventListener('scroll', tellScroll, { passive: true });
  log.onNews = () => report();
  addEventListener('load', () => {
    report();
    for (const wait of LATER) setTimeout(report, wait);
  });
  addEventListener('resize', () => report());
}

/** Hears from the preview for as long as the page is open. */
function listen(): void {
  const socket = new WebSocket(`${location.origin.replace(/^http/, 'ws')}${OWN}/news`);
  socket.onmessage = ({ data }) => renewal.take(JSON.parse(String(data)) as PageNews);
  socket.onclose = () => setTimeout(listen, 1000);
}

let isWaiting = false;

function report(): void {
  if (!inDeck || isWaiting) return;
  isWaiting = true;
  setTimeout(() => {
    isWaiting = false;
    tell({ cravel: 'proof', proof: proofOf(log) });
  }, PAUSE);
}

function tell(news: FrameNews): void {
  window.parent.postMessage(news, DECK);
}

let isLed = false;

function follow({ origin, source, data }: MessageEvent): void {
  if (origin !== DECK || source !== window.parent) return;
  const order = data as FrameOrder;
  if (order.cravel === 'rules')
    tell({ cravel: 'rules', address: order.address, rules: rulesAt(order.address) });
  if (order.cravel !== 'scroll') return;
  isLed = true;
  scrollTo({ top: order.at * roomToScroll(), behavior: 'instant' });
}

function tellScroll(): void {
  if (isLed) {
    isLed = false;
    return;
  }
  const room = roomToScroll();
  if (room > 0) tell({ cravel: 'scrolled', at: scrollY / room });
}

function roomToScroll(): number {
  return document.documentElement.scrollHeight - innerHeight;
}
