/** Looks for places in lists of rising numbers. */

/** The index of the last of the rising `values` that is not greater than `wanted`; 0 where all are. */
export function lastNotAfter(values: ArrayLike<number>, wanted: number): number {
  let low = 0;
  let high = values.length;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((values[middle] as number) <= wanted) low = middle;
    else high = middle;
  }
  return low;
}

/** The index of the first of the rising `values` that is not below `wanted`; their number where all are. */
export function firstNotBelow(values: ArrayLike<number>, wanted: number): number {
  let low = 0;
  let high = values.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((values[middle] as number) < wanted) low = middle + 1;
    else high = middle;
  }
  return low;
}
