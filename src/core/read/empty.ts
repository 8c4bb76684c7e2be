/** The reading of a file that says nothing. */
import type { Reading } from './reading.ts';

const none: ReadonlySet<string> = new Set();

export function emptyReading(encoding: string): Reading {
  return {
    encoding,
    references: [],
    hints: [],
    folders: [],
    prefixes: [],
    faults: [],
    anchors: none,
    firstAnchors: new Map(),
    lastAnchor: 0,
    base: null,
    page: null,
  };
}
