/** A line on a terminal about work that takes longer than a second. */

import { setImmediate } from 'node:timers/promises';
import spinnerOf, { type Spinner } from 'yocto-spinner';
import { withCommas } from '../core/with-commas.ts';
import { count } from '../show/paint.ts';
import type { Output } from './output.ts';

export interface Progress {
  /** Awaited, so that timers can run. */
  tell(done: number, total: number): Promise<void> | void;
  end(): void;
}

export interface ProgressWords {
  readonly verb: string;
  readonly noun: string;
  readonly plural?: string;
  /** What goes on once all is done. */
  readonly afterwards?: string;
}

/** `reading 1,200 of 10,140 files`. Nothing is shown where notes are no terminal. */
export function showProgress(
  { stderr }: Output,
  { verb, noun, plural, afterwards }: ProgressWords,
): Progress {
  if (!stderr.isTTY) return { tell() {}, end() {} };
  const started = performance.now();
  let last = started;
  let spinner: Spinner | null = null;
  let isLast = false;
  return {
    async tell(done, total) {
      if (done === total && spinner !== null && afterwards !== undefined) {
        // What follows lets nothing else happen: a spinner would stand still, and hold back what asks for the end.
        spinner.stop();
        stderr.write(`  ${afterwards}`);
        isLast = true;
        return;
      }
      const now = performance.now();
      if (now - last < 100) return;
      last = now;
      if (now - started < 1000) return;
      spinner ??= spinnerOf({ stream: stderr }).start();
      spinner.text = `${verb} ${withCommas(done)} of ${count(total, noun, plural)}`;
      await setImmediate();
    },
    end() {
      spinner?.stop();
      if (isLast) stderr.write('\r\x1b[K');
      isLast = false;
    },
  };
}

/** Milliseconds between two turns of the loop, in which signals are heard. */
const TURN = 50;

/** Progress of work that lets nothing else happen by itself: now and then it does, and `endIfAsked` may throw. */
export function yielding(
  tell: Progress['tell'],
  endIfAsked: () => void,
): (done: number, total: number) => Promise<void> {
  let last = performance.now();
  return async (done, total) => {
    await tell(done, total);
    if (performance.now() - last < TURN) return;
    await setImmediate();
    endIfAsked();
    last = performance.now();
  };
}

/** Runs `work`; where it takes longer than a second, a terminal says what is going on. */
export async function whileShown<T>({ stderr }: Output, text: string, work: () => Promise<T>): Promise<T> {
  if (!stderr.isTTY) return work();
  let spinner: Spinner | null = null;
  const timer = globalThis.setTimeout(() => {
    spinner = spinnerOf({ stream: stderr, text }).start();
  }, 1000);
  try {
    return await work();
  } finally {
    clearTimeout(timer);
    (spinner as Spinner | null)?.stop();
  }
}
