import { RandomStream } from "../../core/numerics/random";

/** One simulated situation: how its data come about, what is claimed, and what is true. */
export interface SimulationDesign {
  name: string;
  /** The claim under test is H1. */
  theory: string;
  sizes: number[];
  categorical?: string[];
  cluster?: string;
  /** Of the claimed quantity; null where it has no single value (joint tests). */
  truth: number | null;
  /** Is the claim false, so that every “supported” or “opposite” is an error? */
  isNull: boolean;
  /** Nominal share of “supported”, and of “opposite”, where the claim is false. */
  nominal: { supported: number; opposite: number };
  make: (n: number, random: RandomStream) => Record<string, (number | string)[]>;
}

const TWO_SIDED = { supported: 0.025, opposite: 0.025 };
const JOINT = { supported: 0.05, opposite: 0 };

const draws = (n: number, random: RandomStream): number[] =>
  Array.from({ length: n }, () => random.normal());

function mediation(a: number, b: number, direct = 0): SimulationDesign["make"] {
  return (n, random) => {
    const [x, e, u] = [draws(n, random), draws(n, random), draws(n, random)];
    const m = x.map((v, i) => a * v + e[i]!);
    return { x, m, y: m.map((v, i) => b * v + direct * x[i]! + u[i]!) };
  };
}

/** First-stage moderated mediation with a3 as the interaction. */
function moderated(a3: number): SimulationDesign["make"] {
  return (n, random) => {
    const [x, w, e, u] = [draws(n, random), draws(n, random), draws(n, random), draws(n, random)];
    const m = x.map((v, i) => 0.39 * v + 0.2 * w[i]! + a3 * v * w[i]! + e[i]!);
    return { x, w, m, y: m.map((v, i) => 0.39 * v + u[i]!) };
  };
}

/**
 * Groups of equal size; the mediator differs between them by `shift` times the group's number, the
 * outcome follows by b.
 */
function groups(count: number, shift: number, b: number): SimulationDesign["make"] {
  return (n, random) => {
    const g = Array.from({ length: n }, (_, i) => i % count);
    const [e, u] = [draws(n, random), draws(n, random)];
    const m = g.map((v, i) => shift * v + e[i]!);
    return { g: g.map((v) => `g${v}`), m, y: m.map((v, i) => b * v + u[i]!) };
  };
}

/**
 * Clusters of ten with random effects in predictor, mediator and outcome; no path into the
 * mediator.
 */
const clustered: SimulationDesign["make"] = (n, random) => {
  const size = 10;
  const effects = [0, 1, 2].map(() => draws(Math.ceil(n / size), random));
  const of = (which: number, i: number): number => effects[which]![Math.floor(i / size)]!;
  const [a, e, u] = [draws(n, random), draws(n, random), draws(n, random)];
  const x = a.map((v, i) => of(0, i) + v);
  const m = e.map((v, i) => of(1, i) + v);
  return {
    x,
    m,
    y: m.map((v, i) => 0.39 * v + of(2, i) + u[i]!),
    school: x.map((_, i) => `s${Math.floor(i / size)}`),
  };
};

/** A negative effect that a moderator does or does not bring towards zero. */
function buffer(b3: number): SimulationDesign["make"] {
  return (n, random) => {
    const [stress, support, e] = [draws(n, random), draws(n, random), draws(n, random)];
    return {
      stress,
      support,
      wellbeing: stress.map((v, i) => (-0.5 + b3 * support[i]!) * v + 0.2 * support[i]! + e[i]!),
    };
  };
}

/** Two mediators one after the other; the step between them may be nothing. */
function serial(a: number, between: number, b: number): SimulationDesign["make"] {
  return (n, random) => {
    const [x, e, f, u] = [draws(n, random), draws(n, random), draws(n, random), draws(n, random)];
    const m = x.map((v, i) => a * v + e[i]!);
    const k = m.map((v, i) => between * v + f[i]!);
    return { x, m, k, y: k.map((v, i) => b * v + u[i]!) };
  };
}

/** Items of blocks that have nothing to do with one another, each with so much of its own factor. */
function blocks(names: string[], loading: number): SimulationDesign["make"] {
  const rest = Math.sqrt(1 - loading * loading);
  return (n, random) =>
    Object.fromEntries(
      names.flatMap((name) => {
        const factor = draws(n, random);
        return [1, 2, 3].map((k) => [
          `${name}${k}`,
          draws(n, random).map((e, i) => loading * factor[i]! + rest * e),
        ]);
      }),
    );
}

const combines = (name: string): string =>
  `measure ${name.toUpperCase()} combines ${name}1, ${name}2, ${name}3`;

const SIZES = [50, 100, 400];
const MEDIATED = "H1: x raises y through m";
const INDEX = "H1: w strengthens x to y through m on x to m\nH2: x raises y through m";

export const DESIGNS: SimulationDesign[] = [
  {
    name: "mediation, a = b = 0",
    theory: MEDIATED,
    sizes: SIZES,
    truth: 0,
    isNull: true,
    nominal: TWO_SIDED,
    make: mediation(0, 0),
  },
  {
    name: "mediation, a = .39, b = 0",
    theory: MEDIATED,
    sizes: SIZES,
    truth: 0,
    isNull: true,
    nominal: TWO_SIDED,
    make: mediation(0.39, 0),
  },
  {
    name: "mediation, a = b = .39",
    theory: MEDIATED,
    sizes: SIZES,
    truth: 0.1521,
    isNull: false,
    nominal: TWO_SIDED,
    make: mediation(0.39, 0.39),
  },
  {
    name: "negative path, a = -.39, b = .39",
    theory: "H1: x lowers y through m",
    sizes: SIZES,
    truth: -0.1521,
    isNull: false,
    nominal: TWO_SIDED,
    make: mediation(-0.39, 0.39),
  },
  {
    name: "index of moderated mediation, a3 = 0",
    theory: INDEX,
    sizes: SIZES,
    truth: 0,
    isNull: true,
    nominal: TWO_SIDED,
    make: moderated(0),
  },
  {
    name: "index of moderated mediation, a3 = .3",
    theory: INDEX,
    sizes: SIZES,
    truth: 0.117,
    isNull: false,
    nominal: TWO_SIDED,
    make: moderated(0.3),
  },
  {
    name: "buffer on a negative path, b3 = 0",
    theory: "H1: support weakens stress to wellbeing",
    sizes: SIZES,
    truth: 0,
    isNull: true,
    nominal: TWO_SIDED,
    make: buffer(0),
  },
  {
    name: "buffer on a negative path, b3 = .3",
    theory: "H1: support weakens stress to wellbeing",
    sizes: SIZES,
    truth: 0.3,
    isNull: false,
    nominal: TWO_SIDED,
    make: buffer(0.3),
  },
  {
    name: "3 groups, no effect (indirect)",
    theory: "H1: g affects y through m",
    sizes: SIZES,
    categorical: ["g"],
    truth: null,
    isNull: true,
    nominal: JOINT,
    make: groups(3, 0, 0.39),
  },
  {
    name: "5 groups, no effect (indirect)",
    theory: "H1: g affects y through m",
    sizes: SIZES,
    categorical: ["g"],
    truth: null,
    isNull: true,
    nominal: JOINT,
    make: groups(5, 0, 0.39),
  },
  {
    name: "5 groups, no effect (on m)",
    theory: "H1: g affects m\nalso m to y",
    sizes: SIZES,
    categorical: ["g"],
    truth: null,
    isNull: true,
    nominal: JOINT,
    make: groups(5, 0, 0.39),
  },
  {
    name: "3 groups, difference of two",
    theory: 'H1: g ("g2" against "g0") raises y through m',
    sizes: SIZES,
    categorical: ["g"],
    truth: 0.3042,
    isNull: false,
    nominal: TWO_SIDED,
    make: groups(3, 0.39, 0.39),
  },
  {
    name: "clusters of 10, no effect (indirect)",
    theory: MEDIATED,
    sizes: [100, 400],
    categorical: ["school"],
    cluster: "school",
    truth: 0,
    isNull: true,
    nominal: TWO_SIDED,
    make: clustered,
  },
  {
    name: "clusters of 10, no effect (x on m)",
    theory: "H1: x raises m\nalso m to y",
    sizes: [100, 400],
    categorical: ["school"],
    cluster: "school",
    truth: 0,
    isNull: true,
    nominal: TWO_SIDED,
    make: clustered,
  },
  {
    name: "buffer on a negative path, b3 = .3, sign of the path stated",
    theory: "H1: support weakens stress to wellbeing\nH2: stress lowers wellbeing",
    sizes: SIZES,
    truth: 0.3,
    isNull: false,
    nominal: TWO_SIDED,
    make: buffer(0.3),
  },
  ...[0.39, 0.59].map((path): SimulationDesign => ({
    name: `serial, outer paths ${path}, none between the mediators`,
    theory: "H1: x raises y through m then k",
    sizes: SIZES,
    truth: 0,
    isNull: true,
    nominal: TWO_SIDED,
    make: serial(path, 0, path),
  })),
  ...[
    { items: "noise", loading: 0 },
    { items: "loading .7", loading: 0.7 },
  ].map(({ items, loading }): SimulationDesign => ({
    name: `composites of three items (${items}), no path`,
    theory: [combines("a"), combines("b"), "H1: A raises B"].join("\n"),
    sizes: SIZES,
    truth: 0,
    isNull: true,
    nominal: TWO_SIDED,
    make: blocks(["a", "b"], loading),
  })),
];

/**
 * The data of one simulated sample: they depend on the design, its size, the seed and the sample's
 * number alone.
 */
export const sampleOf = (
  design: SimulationDesign,
  n: number,
  seed: number,
  index: number,
): Record<string, (number | string)[]> =>
  design.make(n, new RandomStream(seed + 1000 * DESIGNS.indexOf(design) + n, index));
