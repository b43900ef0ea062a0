import { expect } from "vitest";

/** A formula on paper, worked out by somebody who knows signs and brackets alone. */
export function workedOut(text: string): number {
  const js = text
    .replace(/(\d),(?=\d{3})/g, "$1")
    .replaceAll("−", "-")
    .replaceAll("×", "*")
    .replace(/√\(/g, "Math.sqrt(")
    .replace(/√([\d.]+)/g, "Math.sqrt($1)")
    .replace(/exp\(/g, "Math.exp(")
    .replace(/(\d(?:\.\d+)?)²/g, "($1*$1)")
    .replace(/(?<![\d.])([\d.]+)²/g, "($1*$1)");
  // The alphabet of the formulas, and nothing else.
  expect(js).toMatch(/^[-+*/().,\d\seE]|Math|sqrt|exp/);
  return new Function(`return ${js}`)() as number;
}
