/** What commands that go on do where somebody asks the program to end. */

const SIGNALS = ['SIGINT', 'SIGTERM', 'SIGHUP'] as const;

/** Calls `end` in place of ending at once, until the function that it gives is called. */
export function onEnd(end: () => void): () => void {
  for (const signal of SIGNALS) process.on(signal, end);
  return () => {
    for (const signal of SIGNALS) process.off(signal, end);
  };
}
