/** Places of rising values on the screen, less those too near the one before to be told apart. */
export function apart(
  values: readonly number[],
  x: (value: number) => number,
  least: number,
  from = -Infinity,
  to = Infinity,
): number[] {
  const places: number[] = [];
  for (let i = firstFrom(values, x, from); i < values.length; i++) {
    const px = x(values[i]!);
    if (px > to) break;
    if (!places.length || px - places.at(-1)! >= least) places.push(px);
  }
  return places;
}

/** Index of the first value whose place is not before `from`. */
function firstFrom(values: readonly number[], x: (value: number) => number, from: number): number {
  let low = 0;
  let high = values.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (x(values[middle]!) < from) low = middle + 1;
    else high = middle;
  }
  return low;
}
