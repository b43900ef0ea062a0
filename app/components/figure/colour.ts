/** Red, green and blue of “#1f2a30” or “#fff”. */
function channels(hex: string): number[] {
  const digits = hex.trim().replace("#", "");
  const full = digits.length === 3 ? [...digits].map((d) => d + d).join("") : digits;
  return [0, 2, 4].map((at) => parseInt(full.slice(at, at + 2), 16));
}

/**
 * A colour between two others, as any program reads it: transparency would let seams of
 * neighbouring areas show.
 */
export function mixed(from: string, to: string, share: number): string {
  const [a, b] = [channels(from), channels(to)];
  return `rgb(${a.map((v, i) => Math.round(v + (b[i]! - v) * share)).join(",")})`;
}
