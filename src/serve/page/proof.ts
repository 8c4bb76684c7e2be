/** All that is known of the page as it stands. */
import type { Proof } from '../messages.ts';
import { sticksOut } from './edges.ts';
import { fontEffects, imageEffects, styleEffects } from './effects.ts';
import type { Log } from './log.ts';

export function proofOf(log: Log): Proof {
  return {
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
  };
}
