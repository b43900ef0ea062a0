/** Ranks from 1; tied values share the mean of their ranks. NaN stays NaN. */
export function midRanks(values: Float64Array): Float64Array {
  const order = Array.from(values.keys())
    .filter((i) => !Number.isNaN(values[i]!))
    .sort((a, b) => values[a]! - values[b]!);
  const ranks = new Float64Array(values.length).fill(NaN);
  for (let from = 0; from < order.length;) {
    let to = from;
    while (to + 1 < order.length && values[order[to + 1]!] === values[order[from]!]) to += 1;
    for (let k = from; k <= to; k++) ranks[order[k]!] = (from + to) / 2 + 1;
    from = to + 1;
  }
  return ranks;
}
