/** The script in pages that `look` opens: keeps what happens from the first script on, until it is asked for. */
import { sticksOut } from './edges.ts';
import { Log } from './log.ts';
import { proofOf } from './proof.ts';

/** No name of the window: pages list those. */
const KEY = Symbol.for('cravel.look');

if (window.top === window) {
  const log = new Log();
  Object.defineProperty(window, KEY, { value: { proof: () => proofOf(log), edges: sticksOut } });
}
