import { coefficientLabel } from "../../model";
import type { ArrowRef, CompiledTheory, GroupPart, Measure } from "../../theory";
import { free, type Arrow } from "./arrows";
import type { LatentInteraction } from "./latent-moderated";
import type { StructureOptions } from "./options";
import type { ProductUnit } from "./product-units";
import { productItems, type ProductItem } from "./products";

/** A product of two variables of a theory, with what stands for it. */
export interface BuiltProduct {
  /** `advice:noise`, also the name of the latent product. */
  key: string;
  outcomes: string[];
  x: string;
  w: string;
  items: ProductItem[];
}

/** What of the data a model depends on. */
export interface ModelContext {
  options: StructureOptions;
  factors: Measure[];
  /** Code columns of categorical predictors by variable; other variables stand for themselves. */
  columnsOf: (variable: string) => string[];
  /** Names of the groups; one for all cases. */
  groups: string[];
  equal: ReadonlySet<GroupPart>;
  freed: ArrowRef[];
  /** Paths that differ between groups even where paths are held equal. */
  differs: (from: string, to: string) => boolean;
  /** Variance (divisor n) of a column, by group. */
  variance: (column: string, group: number) => number;
}

/** What a theory consists of as a model of covariances. */
export class Parts {
  readonly latent: string[];
  readonly observed: string[];
  readonly products: BuiltProduct[];
  readonly interactions: LatentInteraction[];
  readonly productItems: Set<string>;
  readonly items: Set<string>;
  private readonly explained: Set<string>;
  private readonly exogenous: string[];

  constructor(
    private readonly theory: CompiledTheory,
    private readonly context: ModelContext,
  ) {
    const { factors, options } = context;
    const names = factors.map((m) => m.name.name);
    const isLatent = (name: string): boolean => names.includes(name);
    const full = options.interactions === "full_information";
    const all = productsOf(theory, factors, context);
    const latentPair = ({ x, w }: BuiltProduct): boolean => isLatent(x) && isLatent(w);
    this.products = full ? all.filter((p) => !latentPair(p)) : all;
    this.interactions = full
      ? all
          .filter(latentPair)
          .flatMap(({ x, w, outcomes, key: label }) =>
            outcomes.map((to) => ({ x, w, to, label: coefficientLabel(to, label) })),
          )
      : [];
    this.latent = [
      ...names,
      ...this.products.filter((p) => p.items.length > 1 || latentPair(p)).map((p) => p.key),
    ];
    const measured = factors.flatMap((m) => m.items.map((item) => item.ref.name));
    const leaves = measured.filter((name) => !isLatent(name));
    this.productItems = new Set(this.products.flatMap((p) => p.items.map((item) => item.name)));
    this.items = new Set([
      ...measured,
      ...this.products
        .filter((p) => this.latent.includes(p.key))
        .flatMap((p) => p.items.map((i) => i.name)),
    ]);
    const nodes = nodesOf(theory).flatMap((name) =>
      isLatent(name) ? [name] : context.columnsOf(name),
    );
    const others = nodes.filter((name) => !isLatent(name) && !this.items.has(name));
    this.observed = [...new Set([...leaves, ...this.productItems, ...others])];
    this.explained = new Set(theory.equations.map((e) => e.outcome));
    const structural = [
      ...new Set([
        ...names,
        ...nodes,
        ...this.products.map((p) => (this.latent.includes(p.key) ? p.key : p.items[0]!.name)),
      ]),
    ];
    this.exogenous = structural.filter(
      (name) => !this.explained.has(name) && !this.items.has(name),
    );
  }

  /** All arrows but intercepts that depend on groups, unconstrained. */
  arrows(): Arrow[] {
    const { theory, latent, observed } = this;
    const loadings = [
      ...this.context.factors.flatMap((m) =>
        this.loadings(
          m.name.name,
          m.items.map((i) => i.ref.name),
          m,
        ),
      ),
      ...this.products
        .filter((p) => latent.includes(p.key))
        .flatMap((p) =>
          this.loadings(
            p.key,
            p.items.map((i) => i.name),
            null,
          ),
        ),
    ];
    const paths = theory.equations.flatMap(
      ({ outcome, predictors, moderators, covariates, products }) => [
        ...[...new Set([...predictors, ...moderators, ...covariates])].flatMap((name) =>
          this.isGroup(name) ? [] : this.nodesFor(name).map((from) => this.path(from, outcome)),
        ),
        ...products.flatMap((names) => {
          const product = this.products.find((p) => p.key === productKey(names));
          if (!product) return [];
          const from = latent.includes(product.key) ? product.key : product.items[0]!.name;
          return [this.path(from, outcome, coefficientLabel(outcome, product.key))];
        }),
      ],
    );
    const variances = [...observed, ...latent].map((name) => this.variance(name));
    const covariances = this.exogenous.flatMap((to, i) =>
      this.exogenous.slice(0, i).map((from) => free({ kind: "covariance", from, to })),
    );
    // Where a component of a product is explained by something, what is left of it may go with the
    // product.
    const withParts = this.products.flatMap((p) =>
      [p.x, p.w].flatMap((part) =>
        this.explained.has(part) && latent.includes(p.key)
          ? [free({ kind: "covariance", from: part, to: p.key })]
          : [],
      ),
    );
    const shared = this.products.flatMap((p) =>
      sharingResiduals(p, this.context.options.interactions),
    );
    return [...loadings, ...paths, ...variances, ...covariances, ...withParts, ...shared];
  }

  /** By which items of its factors each product factor is scaled. */
  units(): ProductUnit[] {
    const factors = new Set(this.context.factors.map((m) => m.name.name));
    return this.products
      .filter((p) => this.latent.includes(p.key))
      .map(({ key, x, w, items: [first] }) => ({
        product: key,
        loadings: [
          { factor: x, item: first!.x },
          { factor: w, item: first!.w },
        ].filter(({ factor }) => factors.has(factor)),
      }));
  }

  isGroup(name: string): boolean {
    return this.context.groups.length > 1 && this.theory.groups?.by.name === name;
  }

  nodesFor(name: string): string[] {
    return this.latent.includes(name) ? [name] : this.context.columnsOf(name);
  }

  /** Which part of a model an arrow belongs to, as groups name them. */
  partOf({ kind, from, to }: Arrow): GroupPart {
    if (kind === "path") return this.items.has(to) ? "loadings" : "paths";
    if (kind === "intercept") return "intercepts";
    return this.items.has(to) && this.items.has(from) ? "residuals" : "variances";
  }

  private path(from: string, to: string, label = coefficientLabel(to, from)): Arrow {
    return { kind: "path", from, to, label, value: 0 };
  }

  private loadings(factor: string, items: string[], measure: Measure | null): Arrow[] {
    const marker = this.markerOf(items, measure);
    return items.map((to) => {
      const arrow = { kind: "path", from: factor, to } as const;
      return to === marker ? { ...arrow, label: null, value: 1 } : free(arrow);
    });
  }

  private markerOf(items: string[], measure: Measure | null): string | null {
    const scaled = measure?.scaledBy;
    if (scaled !== undefined) return scaled === "variance" ? null : scaled.name;
    // A single item has no loading to estimate.
    const byVariance =
      measure !== null && items.length > 1 && this.context.options.scaling === "variance";
    return byVariance ? null : items[0]!;
  }

  private variance(name: string): Arrow {
    const arrow = { kind: "covariance", from: name, to: name } as const;
    const alone = this.context.factors.find(
      (m) => m.items.length === 1 && m.items[0]!.ref.name === name,
    );
    const single = this.products.find((p) => p.items.length === 1 && p.items[0]!.name === name);
    // With nothing beside it nothing can tell error from factor: a single item's error is what its
    // reliability says.
    if (alone || (single && this.latent.includes(single.key)))
      return { ...arrow, label: null, value: NaN };
    const measure = this.context.factors.find((m) => m.name.name === name);
    return measure &&
      this.markerOf(
        measure.items.map((i) => i.ref.name),
        measure,
      ) === null
      ? { ...arrow, label: null, value: 1 }
      : free(arrow);
  }
}

/**
 * Residual covariances of products that share an item, where all products are used. What all of
 * them share, as the one column that an observed moderator is, tells none of them from the others.
 */
function sharingResiduals(
  { items }: BuiltProduct,
  rule: StructureOptions["interactions"],
): Arrow[] {
  if (!rule.startsWith("all_")) return [];
  const several = (side: "x" | "w"): boolean =>
    items.some((item) => item[side] !== items[0]![side]);
  const [x, w] = [several("x"), several("w")];
  return items.flatMap((to, i) =>
    items
      .slice(0, i)
      .filter((from) => (x && from.x === to.x) || (w && from.w === to.w))
      .map((from) => free({ kind: "covariance", from: from.name, to: to.name })),
  );
}

export const productKey = (names: readonly string[]): string => names.join(":");

function productsOf(
  theory: CompiledTheory,
  factors: readonly Measure[],
  { options, groups }: ModelContext,
): BuiltProduct[] {
  const found = new Map<string, BuiltProduct>();
  for (const { outcome, products } of theory.equations)
    for (const names of products) {
      const [x, w] = names as [string, string];
      if (groups.length > 1 && names.includes(theory.groups?.by.name ?? "")) continue;
      const known = found.get(productKey(names));
      if (known) {
        known.outcomes.push(outcome);
        continue;
      }
      const itemsOf = (name: string): string[] =>
        factors.find((m) => m.name.name === name)?.items.map((i) => i.ref.name) ?? [name];
      found.set(productKey(names), {
        key: productKey(names),
        outcomes: [outcome],
        x,
        w,
        items: productItems(itemsOf(x), itemsOf(w), options.interactions),
      });
    }
  return [...found.values()];
}

/** Every variable of the equations, in their order. */
export const nodesOf = ({ equations, groups }: CompiledTheory): string[] =>
  [
    ...new Set(
      equations.flatMap((e) => [e.outcome, ...e.predictors, ...e.moderators, ...e.covariates]),
    ),
  ].filter((name) => name !== groups?.by.name);
