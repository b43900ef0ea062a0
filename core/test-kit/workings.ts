import { expect } from "vitest";
import type { Working } from "../working/types";

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

/** Half of the last place of a number on paper; whole numbers below a thousand are exact. */
function halfPlace(token: string): number {
  const [, decimals = "", exponent = "0"] = /^[\d,]+(?:\.(\d+))?(?:e(.*))?$/.exec(token)!;
  const places = Number(`1e${Number(exponent.replace("−", "-")) - decimals.length}`);
  const whole = decimals === "" && exponent === "0";
  return whole && Number(token.replaceAll(",", "")) < 1000 ? 0 : places / 2;
}

const NUMBER = /\d[\d,]*(?:\.\d+)?(?:e[+−-]?\d+)?/g;

/** What a formula comes to, and how far that may be off by the rounding of what is put in. */
function withRounding(text: string): [value: number, slack: number] {
  const value = workedOut(text);
  let slack = 0;
  for (const { 0: token, index } of text.matchAll(NUMBER)) {
    const half = halfPlace(token);
    if (half === 0) continue;
    const moved = (by: number): number =>
      workedOut(
        `${text.slice(0, index)}${Number(token.replaceAll(",", "").replace("−", "-")) + by}${text.slice(index + token.length)}`,
      );
    // Beyond the edge of a root there is nothing.
    const off = [moved(half), moved(-half)].map((v) => (Number.isNaN(v) ? 0 : Math.abs(v - value)));
    slack += Math.max(...off);
  }
  return [value, slack];
}

/** A formula of numbers alone, up to the equals sign, and the number behind it. */
const EQUATION =
  /(?<![\p{L}²])((?:exp\(|[√(−])*\d(?:exp\(|[\d,.²()√×+/−\s]|e[+−-]?\d)*) = (−?\d[\d,]*(?:\.\d+)?(?:e[+−-]?\d+)?)/gu;

/**
 * Works every formula of a line out that consists of numbers, and compares it with what stands
 * behind the equals sign, within what rounding explains.
 * @returns how many there were
 */
export function worksOut(numbers: string): number {
  let found = 0;
  for (const [all, left, right] of numbers.matchAll(EQUATION)) {
    if (!/[×+/−√²(]/.test(left!.replace(/^−/, ""))) continue;
    const [value, slack] = withRounding(left!.replace(/,\s/g, " "));
    const said = workedOut(right!);
    const [token] = right!.replace("−", "").match(NUMBER)!;
    const off = Math.abs(value - said);
    expect(off, `${all} (${value})`).toBeLessThanOrEqual(1.05 * slack + halfPlace(token) + 1e-9);
    found += 1;
  }
  return found;
}

/** Works every formula of a working out. @returns how many there were */
export function countWorked({ title, steps, rows }: Working): number {
  expect(title).not.toBe("");
  expect(rows).not.toMatch(/undefined|NaN/);
  return steps.reduce((sum, s) => {
    expect(`${s.what} ${s.formula} ${s.numbers}`).not.toMatch(/undefined|NaN|\[object/);
    return sum + worksOut(s.numbers);
  }, 0);
}

/** The numbers of one step, by what it finds. */
export const numbersOf = (working: Working, what: string): string =>
  working.steps.find((s) => s.what === what)!.numbers;
