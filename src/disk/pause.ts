/** Waits without letting anything else happen. */
const clock = new Int32Array(new SharedArrayBuffer(4));

export function pause(milliseconds: number): void {
  Atomics.wait(clock, 0, 0, milliseconds);
}
