import atanh from "@stdlib/math-base-special-atanh";
import ln from "@stdlib/math-base-special-ln";
import log1p from "@stdlib/math-base-special-log1p";
import log10 from "@stdlib/math-base-special-log10";
import log2 from "@stdlib/math-base-special-log2";
import pow from "@stdlib/math-base-special-pow";
import tanh from "@stdlib/math-base-special-tanh";
import { exp } from "./exponential";

/**
 * Elementary functions whose last digit is the same in every browser and in Node. The standard
 * leaves the rounding of `Math.exp`, `Math.log`, powers and their kin to each engine, and engines
 * differ; sums, products, quotients, `Math.sqrt` and squares are exact by the standard and stay as
 * they are.
 */
export { atanh, exp, ln, log1p, log10, log2, pow, tanh };

/** x x x, rounded as two products. */
export const cube = (x: number): number => x * x * x;
