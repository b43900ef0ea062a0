import type { Expression } from "./expression";

/** How tightly an operation binds: what binds less stands in brackets. */
const BINDS = { add: 1, subtract: 1, multiply: 2, divide: 2 } as const;
const SIGNS = { add: " + ", subtract: " − ", multiply: " × ", divide: " / " } as const;
const FUNCTIONS = { abs: "|", sqrt: "√", exp: "exp", ln: "ln" } as const;

/**
 * An expression as it is written on paper.
 * @param leaf what stands for a parameter, by its index; a negative number as such
 * @param write numbers of the expression itself
 */
export function expressionWords(
  e: Expression,
  leaf: (index: number) => string,
  write: (value: number) => string,
): string {
  const inBrackets = (text: string): string => `(${text})`;
  const signed = (text: string): string => (text.startsWith("−") ? inBrackets(text) : text);
  const words = (node: Expression, least: number, first: boolean): string => {
    switch (node.op) {
      case "number":
      case "parameter": {
        const text = node.op === "number" ? write(node.value) : leaf(node.index);
        // A negative number may begin a formula, but not follow a sign.
        return first ? text : signed(text);
      }
      case "add":
      case "subtract":
      case "multiply":
      case "divide": {
        const own = BINDS[node.op];
        // Nothing is lost by leaving out brackets around what is added or multiplied; around what
        // is taken off it would be.
        const strict = node.op === "subtract" || node.op === "divide";
        const text =
          words(node.a, own, first) + SIGNS[node.op] + words(node.b, strict ? own + 1 : own, false);
        return own < least ? inBrackets(text) : text;
      }
      default: {
        const inner = words(node.a, 0, true);
        return node.op === "abs" ? `|${inner}|` : `${FUNCTIONS[node.op]}(${inner})`;
      }
    }
  };
  return words(e, 0, true);
}
