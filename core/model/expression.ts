import { exp, ln } from "../numerics/elementary";
/**
 * A smooth function of the parameter vector, as a tree that can be evaluated, differentiated and
 * posted.
 */
export type Expression =
  | { op: "number"; value: number }
  | { op: "parameter"; index: number }
  | { op: "add" | "subtract" | "multiply" | "divide"; a: Expression; b: Expression }
  | { op: "abs" | "sqrt" | "exp" | "ln"; a: Expression };

export const number = (value: number): Expression => ({ op: "number", value });
export const parameter = (index: number): Expression => ({ op: "parameter", index });
export const add = (a: Expression, b: Expression): Expression => ({ op: "add", a, b });
export const subtract = (a: Expression, b: Expression): Expression => ({ op: "subtract", a, b });
export const multiply = (a: Expression, b: Expression): Expression => ({ op: "multiply", a, b });
export const divide = (a: Expression, b: Expression): Expression => ({ op: "divide", a, b });
export const sum = (terms: Expression[]): Expression => terms.reduce(add);
export const product = (factors: Expression[]): Expression => factors.reduce(multiply);

/** A function (vector, offset) -> value; compiled once, called for every replicate. */
export type Evaluator = (theta: Float64Array, offset: number) => number;

export function compileExpression(e: Expression): Evaluator {
  switch (e.op) {
    case "number":
      return () => e.value;
    case "parameter":
      return (theta, offset) => theta[offset + e.index]!;
    case "add":
    case "subtract":
    case "multiply":
    case "divide": {
      const a = compileExpression(e.a);
      const b = compileExpression(e.b);
      if (e.op === "add") return (t, o) => a(t, o) + b(t, o);
      if (e.op === "subtract") return (t, o) => a(t, o) - b(t, o);
      if (e.op === "multiply") return (t, o) => a(t, o) * b(t, o);
      return (t, o) => a(t, o) / b(t, o);
    }
    default: {
      const a = compileExpression(e.a);
      const f = { abs: Math.abs, sqrt: Math.sqrt, exp, ln }[e.op];
      return (t, o) => f(a(t, o));
    }
  }
}

/** Adds adjoint x gradient at (theta, offset) into `out`. */
export type GradientAdder = (
  theta: Float64Array,
  offset: number,
  adjoint: number,
  out: Float64Array,
) => void;

/**
 * The gradient by the chain rule from the root down (reverse-mode differentiation); compiled once,
 * called per replicate.
 */
export function compileGradient(e: Expression): GradientAdder {
  switch (e.op) {
    case "number":
      return () => undefined;
    case "parameter":
      return (_, __, adjoint, out) => void (out[e.index] = out[e.index]! + adjoint);
    case "add":
    case "subtract":
    case "multiply":
    case "divide":
      return binaryGradient(e);
    default: {
      const value = compileExpression(e.a);
      const push = compileGradient(e.a);
      const slope = {
        abs: Math.sign,
        sqrt: (v: number) => 0.5 / Math.sqrt(v),
        exp,
        ln: (v: number) => 1 / v,
      }[e.op];
      return (t, o, adjoint, out) => push(t, o, adjoint * slope(value(t, o)), out);
    }
  }
}

function binaryGradient({ op, a, b }: Extract<Expression, { b: Expression }>): GradientAdder {
  const pushA = compileGradient(a);
  const pushB = compileGradient(b);
  const [valueA, valueB] = [compileExpression(a), compileExpression(b)];
  return (t, o, adjoint, out) => {
    if (op === "add" || op === "subtract") {
      pushA(t, o, adjoint, out);
      pushB(t, o, op === "add" ? adjoint : -adjoint, out);
      return;
    }
    const v = valueB(t, o);
    pushA(t, o, op === "multiply" ? adjoint * v : adjoint / v, out);
    pushB(
      t,
      o,
      op === "multiply" ? adjoint * valueA(t, o) : (-adjoint * valueA(t, o)) / (v * v),
      out,
    );
  };
}

/** Gradient at `theta`, as long as it. */
export function gradient(e: Expression, theta: Float64Array): Float64Array {
  const out = new Float64Array(theta.length);
  compileGradient(e)(theta, 0, 1, out);
  return out;
}

/** Indices of the parameters an expression depends on. */
export function parametersOf(e: Expression): Set<number> {
  const found = new Set<number>();
  const walk = (node: Expression): void => {
    if (node.op === "parameter") found.add(node.index);
    if ("a" in node) walk(node.a);
    if ("b" in node) walk(node.b);
  };
  walk(e);
  return found;
}

/** Is an expression a linear function of its parameters in `variable`, all others being numbers? */
export function isLinear(e: Expression, variable: (index: number) => boolean): boolean {
  return degreeOf(e, variable) <= 1;
}

/** Degree as a polynomial; Infinity where it is none. */
function degreeOf(e: Expression, variable: (index: number) => boolean): number {
  switch (e.op) {
    case "number":
      return 0;
    case "parameter":
      return variable(e.index) ? 1 : 0;
    case "add":
    case "subtract":
      return Math.max(degreeOf(e.a, variable), degreeOf(e.b, variable));
    case "multiply":
      return degreeOf(e.a, variable) + degreeOf(e.b, variable);
    case "divide":
      return degreeOf(e.b, variable) === 0 ? degreeOf(e.a, variable) : Infinity;
    default:
      return degreeOf(e.a, variable) === 0 ? 0 : Infinity;
  }
}
