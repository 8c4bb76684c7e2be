/**
 * A whole number as English writes it: 12,345. The runtime's own way of saying it costs a run 20 ms, since it makes all of
 * its tables for it.
 */
export function withCommas(amount: number): string {
  return String(amount).replace(/\B(?=(?:\d{3})+$)/g, ',');
}
