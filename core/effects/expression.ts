/** A smooth function of the parameter vector, as a tree that can be evaluated, differentiated and posted. */
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
      const f = { abs: Math.abs, sqrt: Math.sqrt, exp: Math.exp, ln: Math.log }[e.op];
      return (t, o) => f(a(t, o));
    }
  }
}

/** Gradient at `theta`, by the chain rule from the root down (reverse-mode differentiation). */
export function gradient(e: Expression, theta: Float64Array): Float64Array {
  const out = new Float64Array(theta.length);
  const value = (node: Expression): number => compileExpression(node)(theta, 0);
  const push = (node: Expression, adjoint: number): void => {
    switch (node.op) {
      case "number":
        return;
      case "parameter":
        out[node.index] = out[node.index]! + adjoint;
        return;
      case "add":
        push(node.a, adjoint);
        push(node.b, adjoint);
        return;
      case "subtract":
        push(node.a, adjoint);
        push(node.b, -adjoint);
        return;
      case "multiply":
        push(node.a, adjoint * value(node.b));
        push(node.b, adjoint * value(node.a));
        return;
      case "divide": {
        const b = value(node.b);
        push(node.a, adjoint / b);
        push(node.b, (-adjoint * value(node.a)) / (b * b));
        return;
      }
      case "abs":
        push(node.a, adjoint * Math.sign(value(node.a)));
        return;
      case "sqrt":
        push(node.a, adjoint / (2 * Math.sqrt(value(node.a))));
        return;
      case "exp":
        push(node.a, adjoint * Math.exp(value(node.a)));
        return;
      case "ln":
        push(node.a, adjoint / value(node.a));
    }
  };
  push(e, 1);
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
