import { modelName } from "./response-lines";
import { RESERVED } from "./reader";
import type {
  ArrowRef,
  Compare,
  Control,
  Free,
  Hold,
  Formula,
  Hypothesis,
  Measure,
  Moderation,
  NameRef,
  ResponseModel,
  Statement,
} from "./syntax";
import { writtenVerb } from "./verbs";

/** A name as the notation writes it: quoted where it is not one plain word. */
export function writeName(name: string): string {
  const plain =
    /^[\p{L}\p{N}_.]+$/u.test(name) &&
    !/^[\d.]/.test(name) &&
    !/\.$/.test(name) &&
    !RESERVED.has(name);
  return plain ? name : `"${name.replace(/"/g, '""')}"`;
}

/** A variable with the levels that are compared, where they are. */
export const writeCompared = ({ name, compared }: NameRef): string =>
  compared
    ? `${writeName(name)} (${quoted(compared.upper)} against ${quoted(compared.lower)})`
    : writeName(name);

const quoted = (level: string): string => `"${level.replace(/"/g, '""')}"`;

const list = (refs: NameRef[]): string => refs.map((r) => writeName(r.name)).join(", ");

/** The canonical line of a statement; reading it again gives the same statement. */
export function writeStatement(statement: Statement): string {
  switch (statement.kind) {
    case "hypothesis": {
      const { from, verb, plural, to, chains, only } = statement;
      const through = chains
        .map((chain) => chain.map((r) => writeName(r.name)).join(" then "))
        .join(" and ");
      const tail = chains.length > 0 ? `${only ? " only" : ""} through ${through}` : "";
      return `${writeName(statement.label)}: ${writeCompared(from)} ${writtenVerb(verb, plural)} ${writeName(to.name)}${tail}`;
    }
    case "moderation": {
      const { label, moderators, verb, plural, from, to, chain, only, steps } = statement;
      const who = moderators.map(writeCompared).join(" with ");
      const through =
        chain.length > 0
          ? `${only ? " only" : ""} through ${chain.map((r) => writeName(r.name)).join(" then ")}`
          : "";
      const on =
        steps.length > 0
          ? ` on ${steps.map((s) => `${writeName(s.from.name)} to ${writeName(s.to.name)}`).join(" and ")}`
          : "";
      return `${writeName(label)}: ${who} ${writtenVerb(verb, plural)} ${writeCompared(from)} to ${writeName(to.name)}${through}${on}`;
    }
    case "also":
      return `also ${statement.steps.map((s) => `${writeName(s.from.name)} to ${writeName(s.to.name)}`).join(", ")}`;
    case "adjust":
      return `adjust ${list(statement.outcomes)} for ${list(statement.covariates)}`;
    case "contrast":
      return `contrast ${writeName(statement.first.name)} with ${writeName(statement.second.name)}`;
    case "define":
      return `define ${writeName(statement.name.name)} as ${writeFormula(statement.formula)}`;
    case "measure": {
      const { name, form, items, scale, answered } = statement;
      const listed = items
        .map((item) => `${item.reversed ? "reversed " : ""}${writeName(item.ref.name)}`)
        .join(", ");
      const limits = scale ? ` on ${scale[0]} to ${scale[1]}` : "";
      const rule = answered === null ? "" : ` with ${answered} % answered`;
      return `measure ${writeName(name.name)} ${form} ${listed}${limits}${compositeWords(statement)}${scalingWords(statement)}${rule}`;
    }
    case "covary":
      return `covary ${statement.pairs.map(({ a, b, value }) => `${writeName(a.name)} with ${writeName(b.name)}${value === null ? "" : ` at ${value}`}`).join(", ")}`;
    case "free":
    case "hold":
      return writeArrows(statement);
    case "model":
    case "compare":
    case "control":
      return writeResponseLine(statement);
    case "groups": {
      const { by, equal, free } = statement;
      const held = equal.length > 0 ? ` with ${equal.join(" and ")} equal` : "";
      const but = free.length > 0 ? ` but ${free.map(writeArrow).join(" and ")} free` : "";
      return `groups by ${writeName(by.name)}${held}${but}`;
    }
  }
}

/**
 * What a claim says, for people: without its label, and names as they are. It is not read again.
 */
export const claimWords = (claim: Hypothesis | Moderation): string =>
  writeStatement(claim)
    .replace(/^(?:"(?:[^"]|"")*"|[^:"]*): /, "")
    .replace(/"((?:[^"]|"")*)"/g, (_, name: string) => name.replace(/""/g, '"'));

function writeArrows(statement: Hold | Free): string {
  const words = statement.arrows.map(writeArrow);
  if (statement.kind === "free") return `free ${words.join(", ")}`;
  return statement.value === null
    ? `hold ${words.join(" equal to ")}`
    : `hold ${words.join(", ")} at ${statement.value}`;
}

function writeResponseLine(statement: ResponseModel | Compare | Control): string {
  const of = writeName(statement.of.name);
  switch (statement.kind) {
    case "model": {
      const { family, exposure } = statement;
      return `model ${of} as ${modelName(family)}${exposure ? ` with exposure ${writeName(exposure.name)}` : ""}`;
    }
    case "compare":
      return `compare ${of} at ${statement.values.join(" with ")}`;
    case "control":
      return `control ${of} at ${statement.values.join(", ")}`;
  }
}

function compositeWords({ weighting, signedBy }: Measure): string {
  const weights =
    weighting === undefined
      ? ""
      : weighting === "equal"
        ? " weighted equally"
        : ` weighted by ${weighting}`;
  return `${weights}${signedBy ? ` signed by ${writeName(signedBy.name)}` : ""}`;
}

function scalingWords({ reliability, scaledBy }: Measure): string {
  if (reliability !== undefined) return ` with reliability ${reliability}`;
  if (scaledBy === undefined) return "";
  return scaledBy === "variance" ? " with variance 1" : ` scaled by ${writeName(scaledBy.name)}`;
}

/** “hours to friends”, “conf1 with conf2”, “variance of conf1”, “intercept of conf2”. */
export function writeArrow(arrow: ArrowRef): string {
  if ("of" in arrow) return `${arrow.kind} of ${writeName(arrow.of.name)}`;
  return `${writeName(arrow.from.name)} ${arrow.kind === "path" ? "to" : "with"} ${writeName(arrow.to.name)}`;
}

function writeFormula(formula: Formula): string {
  switch (formula.kind) {
    case "number":
      return String(formula.value);
    case "label":
      return writeName(formula.ref.name);
    case "negative":
      return `-${bracketed(formula.of)}`;
    case "call":
      return `${formula.name}(${writeFormula(formula.of)})`;
    case "effect": {
      const chain = formula.chain.map((r) => writeName(r.name)).join(" then ");
      return `${formula.which} ${writeName(formula.from.name)} to ${writeName(formula.to.name)}${chain ? ` through ${chain}` : ""}`;
    }
    case "binary":
      return `${bracketed(formula.left)} ${formula.operator} ${bracketed(formula.right)}`;
  }
}

const bracketed = (formula: Formula): string =>
  formula.kind === "binary" ? `(${writeFormula(formula)})` : writeFormula(formula);
