/**
 * The known name nearest to what was typed, by the optimal-string-alignment distance (Damerau
 * 1964), or undefined when none is near: more than two in five letters would have to change.
 */
export function nearestName(typed: string, known: readonly string[]): string | undefined {
  const wanted = typed.toLowerCase();
  let best: string | undefined;
  let bestDistance = Infinity;
  for (const name of known) {
    const candidate = name.toLowerCase();
    let distance = editDistance(wanted, candidate);
    if (wanted.length >= 3 && candidate.startsWith(wanted)) distance = Math.min(distance, 1);
    if (distance < bestDistance) {
      bestDistance = distance;
      best = name;
    }
  }
  return bestDistance <= Math.max(1, Math.floor((2 * typed.length) / 5)) ? best : undefined;
}

function editDistance(a: string, b: string): number {
  let twoAgo: number[] = [];
  let previous = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const cost = a[i - 1] === b[j - 1] ? 0 : 1;
      let value = Math.min(previous[j]! + 1, row[j - 1]! + 1, previous[j - 1]! + cost);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        value = Math.min(value, twoAgo[j - 2]! + 1);
      row.push(value);
    }
    twoAgo = previous;
    previous = row;
  }
  return previous[b.length]!;
}
