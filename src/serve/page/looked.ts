/** The script in pages that `look` opens: keeps what happens from the first script on, until it is asked for. */
import type { Proof } from '../messages.ts';
import { sticksOut } from './edges.ts';
import { fontEffects, imageEffects, styleEffects } from './effects.ts';
import { Log } from './log.ts';

/** No name of the window: pages list those. */
const KEY = Symbol.for('cravel.look');

if (window.top === window) {
  const log = new Log();
  const look = (): Proof => ({
    path: location.pathname,
    title: document.title,
    width: innerWidth,
    loaded: log.arrivals(),
    scripts: log.scripts(),
    said: log.said(),
    styles: styleEffects(),
    images: imageEffects(),
    fonts: fontEffects(),
    sticksOut: sticksOut(),
  });
  Object.defineProperty(window, KEY, { value: look });
}
