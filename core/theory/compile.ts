import { StudyProblem } from "../problems";
import { findCycle, topologicalOrder, type Path } from "./graph";
import { moderatedSteps, nodesOf, productsOf, type ModeratedStep } from "./moderated-steps";
import type {
  MeasureForm,
  Compare,
  Contrast,
  Control,
  Covary,
  Define,
  Groups,
  Free,
  Hold,
  Hypothesis,
  LeftOut,
  Moderation,
  ResponseModel,
  Statement,
} from "./syntax";

/** A path of the model and the lines of the theory that ask for it. */
export interface ModelPath extends Path {
  lines: number[];
}

/** One regression: an outcome on its predictors and covariates (an intercept is always in). */
export interface EquationSpec {
  outcome: string;
  predictors: string[];
  /** Moderators of the steps into the outcome that are not predictors themselves. */
  moderators: string[];
  covariates: string[];
  /** Products of predictors and moderators, the names of their components; lower orders first. */
  products: string[][];
}

/** The union of the sentences: the path model, and what each sentence claims. */
export interface CompiledTheory {
  paths: ModelPath[];
  /** In an order in which every equation stands after those of its predictors. */
  equations: EquationSpec[];
  roles: {
    predictors: string[];
    mediators: string[];
    outcomes: string[];
    moderators: string[];
    covariates: string[];
  };
  moderated: ModeratedStep[];
  hypotheses: Hypothesis[];
  moderations: Moderation[];
  contrasts: Contrast[];
  definitions: Define[];
  /** Covariances that are drawn or held, constraints, groups: for engines that know of them. */
  covariances: Covary[];
  holds: Hold[];
  frees: Free[];
  groups: Groups | null;
  /** How responses are modelled, which values are compared and held, as far as that is said. */
  models: ResponseModel[];
  compared: Compare[];
  controlled: Control[];
}

/**
 * Turns statements into equations.
 * @param leftOut what could not be read, for the refusal where nothing else is left
 * @throws StudyProblem `nothing_to_estimate` without any path, `cyclic_model` with the cycle spelled out, `notation` for a
 *   path from a variable to itself or an adjustment of a variable that nothing explains
 */
export function compileTheory(
  statements: readonly Statement[],
  leftOut: readonly LeftOut[] = [],
): CompiledTheory {
  const paths = collectPaths(statements);
  // Factors alone are a theory of their items; composites are weighted by the paths between them.
  const made = (form: MeasureForm): boolean =>
    statements.some((s) => s.kind === "measure" && s.form === form);
  if (paths.length === 0 && (!made("reflects") || made("combines"))) {
    throw new StudyProblem("nothing_stated", { leftOut });
  }
  const covariates = collectCovariates(statements, paths);
  const groups = statements.find((s) => s.kind === "groups") ?? null;
  const moderated = overGroups(moderatedSteps(statements).steps, paths, groups);
  const cycle = findCycle([
    ...paths,
    ...[...covariates].flatMap(([to, names]) => names.map((from) => ({ from, to }))),
    ...moderated.flatMap(({ to, moderators }) => moderators.map((from) => ({ from, to }))),
  ]);
  if (cycle) {
    throw new StudyProblem("circle", { nodes: cycle }, { variables: [...new Set(cycle)] });
  }
  const names = [...new Set(paths.flatMap((p) => [p.from, p.to]))];
  const order = topologicalOrder(names, paths);
  const equations = order
    .filter((name) => paths.some((p) => p.to === name))
    .map((outcome) => {
      const predictors = paths.filter((p) => p.to === outcome).map((p) => p.from);
      const acting = moderated.filter((s) => s.to === outcome).flatMap((s) => s.moderators);
      const moderators = [...new Set(acting)].filter((m) => !predictors.includes(m));
      const others = (covariates.get(outcome) ?? []).filter(
        (c) => !predictors.includes(c) && !moderators.includes(c),
      );
      return {
        outcome,
        predictors,
        moderators,
        covariates: others,
        products: productsOf(moderated, outcome),
      };
    });
  return {
    paths,
    equations,
    roles: {
      predictors: order.filter((n) => !paths.some((p) => p.to === n)),
      mediators: order.filter(
        (n) => paths.some((p) => p.to === n) && paths.some((p) => p.from === n),
      ),
      outcomes: order.filter((n) => !paths.some((p) => p.from === n)),
      moderators: [...new Set(moderated.flatMap((s) => s.moderators))],
      covariates: [...new Set(equations.flatMap((e) => e.covariates))],
    },
    moderated,
    hypotheses: statements.filter((s) => s.kind === "hypothesis"),
    moderations: statements.filter((s) => s.kind === "moderation"),
    contrasts: statements.filter((s) => s.kind === "contrast"),
    definitions: statements.filter((s) => s.kind === "define"),
    covariances: statements.filter((s) => s.kind === "covary"),
    holds: statements.filter((s) => s.kind === "hold"),
    frees: statements.filter((s) => s.kind === "free"),
    groups,
    models: statements.filter((s) => s.kind === "model"),
    compared: statements.filter((s) => s.kind === "compare"),
    controlled: statements.filter((s) => s.kind === "control"),
  };
}

/**
 * Unless paths are held equal, every path may differ between groups: each is moderated by the
 * column that tells them.
 */
function overGroups(
  steps: ModeratedStep[],
  paths: readonly Path[],
  groups: Groups | null,
): ModeratedStep[] {
  if (!groups || groups.equal.includes("paths")) return steps;
  const by = groups.by.name;
  const more = paths.filter(
    ({ from, to }) =>
      from !== by &&
      !steps.some((s) => s.from === from && s.to === to && s.moderators.includes(by)),
  );
  return [...steps, ...more.map(({ from, to }) => ({ from, to, moderators: [by] }))];
}

function collectPaths(statements: readonly Statement[]): ModelPath[] {
  const paths: ModelPath[] = [];
  const add = (from: string, to: string, line: number): void => {
    if (from === to) {
      throw new StudyProblem("effect_on_itself", { line, name: from }, { line, variables: [from] });
    }
    const known = paths.find((p) => p.from === from && p.to === to);
    if (!known) paths.push({ from, to, lines: [line] });
    else if (!known.lines.includes(line)) known.lines.push(line);
  };
  for (const statement of statements) {
    if (statement.kind === "also")
      for (const s of statement.steps) add(s.from.name, s.to.name, statement.line);
    if (statement.kind === "moderation") {
      const nodes = nodesOf(statement);
      refuseTwice(nodes, statement.line);
      for (let i = 1; i < nodes.length; i++) add(nodes[i - 1]!, nodes[i]!, statement.line);
      if (nodes.length > 2 && !statement.only) add(nodes[0]!, nodes.at(-1)!, statement.line);
    }
    if (statement.kind !== "hypothesis") continue;
    const { from, to, chains, only, line } = statement;
    if (!only) add(from.name, to.name, line);
    for (const chain of chains) {
      const nodes = [from.name, ...chain.map((r) => r.name), to.name];
      refuseTwice(nodes, line);
      for (let i = 1; i < nodes.length; i++) add(nodes[i - 1]!, nodes[i]!, line);
    }
  }
  return paths;
}

function refuseTwice(nodes: string[], line: number): void {
  if (new Set(nodes).size === nodes.length) return;
  throw new StudyProblem("twice_on_a_route", { line, nodes }, { line, variables: nodes });
}

function collectCovariates(
  statements: readonly Statement[],
  paths: readonly Path[],
): Map<string, string[]> {
  const covariates = new Map<string, string[]>();
  for (const statement of statements) {
    if (statement.kind !== "adjust") continue;
    for (const outcome of statement.outcomes) {
      if (!paths.some((p) => p.to === outcome.name)) {
        throw new StudyProblem(
          "adjusted_unexplained",
          { line: statement.line, name: outcome.name },
          { line: statement.line, variables: [outcome.name] },
        );
      }
      const list = covariates.get(outcome.name) ?? [];
      for (const { name } of statement.covariates) {
        if (name === outcome.name) {
          throw new StudyProblem(
            "adjusted_for_itself",
            { line: statement.line, name },
            {
              line: statement.line,
              variables: [name],
            },
          );
        }
        if (!list.includes(name)) list.push(name);
      }
      covariates.set(outcome.name, list);
    }
  }
  return covariates;
}
