/** Holds back what asks the program to end, while something must not be left half done. */

import { setImmediate } from 'node:timers/promises';

/** Thrown where somebody asked the program to end, once it can. */
export class Interrupted extends Error {
  constructor(
    /** What a shell says of a program that a signal ended: 128 and the signal's number. */
    readonly exitCode: number,
  ) {
    super('interrupted');
  }
}

const signals = { SIGHUP: 1, SIGINT: 2, SIGTERM: 15 } as const;

/** Whether somebody asked for the end while work holds that back. */
export interface Asked {
  readonly isAsked: boolean;
  /** Told of it at once. */
  readonly signal: AbortSignal;
  /** For where the work may end as well: throws `Interrupted` where it was asked for. */
  endIfAsked(): void;
}

/** Runs `work` to its end; throws `Interrupted` then, where a signal came meanwhile. */
export async function whileHeldBack<T>(work: (asked: Asked) => Promise<T>): Promise<T> {
  let number: number | null = null;
  const ended = new AbortController();
  const held = Object.entries(signals).map(([name, own]) => {
    const hold = () => {
      number = own;
      ended.abort();
    };
    process.on(name, hold);
    return { name, hold };
  });
  const asked: Asked = {
    get isAsked() {
      return number !== null;
    },
    signal: ended.signal,
    endIfAsked() {
      if (number !== null) throw new Interrupted(128 + number);
    },
  };
  let result: T;
  try {
    result = await work(asked);
  } finally {
    // What came during work that lets nothing else happen is heard of in the next turns of the loop.
    await setImmediate();
    await setImmediate();
    for (const { name, hold } of held) process.off(name, hold);
  }
  asked.endIfAsked();
  return result;
}
