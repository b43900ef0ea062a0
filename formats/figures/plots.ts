import { textWidth } from "./fitted";
import {
  effectAt,
  linkName,
  minus,
  plain,
  predictAt,
  responseOf,
  type EffectEvidence,
  type Evidence,
  type ModerationEvidence,
  type RegionEvidence,
} from "../../core";
import { drawAxes } from "./axes";
import { labelledTicks, linear, padded } from "./scale";
import { figureFile, Pen, POINTS_PER_MM, type DrawnFigure, type FigureStyle } from "./svg";

/** Lines that are told apart without colours. */
const DASHES = ["", "5 2.5", "1.5 1.8", "7 2 1.5 2", "3 1.5"];
/** Height of a plot as a share of its width. */
const RATIO = 0.72;
const STEPS = 60;
const BAND = "#d9d9d9";

const sizeOf = ({ widthMm }: FigureStyle, top: number) => {
  const width = widthMm * POINTS_PER_MM;
  return { width, height: width * RATIO + top, top };
};

const decimals =
  ({ decimal }: FigureStyle) =>
  (text: string): string =>
    decimal === "," ? text.replace(".", ",") : text;

/**
 * Predicted outcome along the predictor at values of the moderators; null where it has no scale to
 * be drawn on.
 */
export function slopesFigure(
  moderation: ModerationEvidence,
  title: string,
  style: FigureStyle,
): DrawnFigure | null {
  const { model, focal, focalVariable, focalLabel, outcome } = moderation;
  const write = decimals(style);
  const curves = moderation.lines.flatMap(({ points }) => {
    const ends = points.map((p) => p.at[focal] ?? p.at[focalVariable]);
    const held = heldOf(moderation, points[0]?.at ?? {});
    const [from, to] = [ends[0], ends.at(-1)];
    if (typeof from !== "number" || typeof to !== "number" || !held || from === to) return [];
    // A straight line needs its ends alone.
    const steps = model.link === "identity" ? 1 : STEPS;
    const drawn = Array.from({ length: steps + 1 }, (_, i): [number, number] => {
      const x = from + ((to - from) * i) / steps;
      const { estimate } = predictAt(model, new Map([...held, [focal, x]]));
      return [x, responseOf(model, estimate)];
    });
    return [{ words: write(placeWords(moderation, points[0]!.at)), drawn }];
  });
  if (curves.length === 0) return null;
  const pen = new Pen(style.fontPt);
  const f = style.fontPt;
  const size = sizeOf(style, f * (1.5 + 1.4 * curves.length));
  const all = curves.flatMap((c) => c.drawn);
  const frame = drawAxes(
    pen,
    size,
    {
      x: padded(
        all.map(([x]) => x),
        0.02,
      ),
      y: padded(
        all.map(([, y]) => y),
        0.12,
      ),
    },
    {
      x: focalLabel,
      y:
        model.link === "identity"
          ? outcome
          : model.link === "log"
            ? `expected ${outcome}`
            : `probability of ${outcome}`,
      write,
    },
  );
  curves.forEach(({ words, drawn }, i) => {
    const dash = DASHES[i % DASHES.length]!;
    pen.polyline(
      drawn.map(([x, y]) => [frame.x(x), frame.y(y)] as const),
      1.1,
      dash,
    );
    const y = f * (1.1 + 1.4 * i);
    pen.line(frame.left, y - f * 0.3, frame.left + 3.4 * f, y - f * 0.3, 1.1, dash);
    pen.text(frame.left + 4 * f, y, words, {
      most: frame.right - frame.left - 4 * f,
    });
  });
  return figureFile(pen.body, size.height, title, style);
}

const PROBE_WORDS: Record<string, string> = {
  "mean-sd": "mean − SD",
  mean: "mean",
  "mean+sd": "mean + SD",
};

/** Where a line is drawn: “support 2.40 (mean − SD)”, “group weekly cafe”. */
const placeWords = (
  { moderators }: ModerationEvidence,
  at: Record<string, number | string>,
): string =>
  moderators
    .map(({ name, probes }) => {
      const value = at[name];
      if (typeof value !== "number") return `${name} ${value ?? ""}`;
      const label = probes.find((p) => p.value === value)?.label ?? "";
      const words = PROBE_WORDS[label] ?? (/^[\d.−-]*$/.test(label) ? "" : label);
      return `${name} ${plain(value, 2)}${words === "" ? "" : ` (${words})`}`;
    })
    .join(", ");

/**
 * Column values of moderators at a place of a line; null where a level cannot be found among the
 * probes.
 */
function heldOf(
  { moderators, model }: ModerationEvidence,
  at: Record<string, number | string>,
): [string, number][] | null {
  const held: [string, number][] = [];
  for (const { name, columns, probes } of moderators) {
    const value = at[name];
    if (typeof value === "number" && columns.length === 1) {
      held.push([columns[0]!, value]);
      continue;
    }
    const probe = probes.find((p) => p.label === value || p.value === value);
    if (!probe) return null;
    for (const key of columns) {
      const column = model.columns.find((c) => c.key === key);
      if (!column || probe.centred[key] === undefined) return null;
      held.push([key, probe.centred[key] + column.centre]);
    }
  }
  return held;
}

/** A slope along its moderator with its band, shaded where the band excludes zero. */
export function regionFigure(
  moderation: ModerationEvidence,
  set: number,
  evidence: Evidence,
  title: string,
  style: FigureStyle,
): DrawnFigure | null {
  const found = moderation.johnsonNeyman[set];
  const jn = found?.tests[evidence.errors]?.pointwise;
  const own = moderation.moderators.find((m) => m.name === found?.over);
  if (!found || !jn || own?.columns.length !== 1) return null;
  const held = heldOf(
    { ...moderation, moderators: moderation.moderators.filter((m) => m !== own) },
    found.fixed,
  );
  if (!held) return null;
  const [min, max] = jn.range;
  const grid = Array.from({ length: STEPS + 1 }, (_, i) => min + ((max - min) * i) / STEPS);
  const read = grid.map((w) =>
    effectAt(moderation.model, moderation.focal, new Map([...held, [own.columns[0]!, w]])),
  );
  const link = linkName(moderation.model.link);
  return bandFigure(
    {
      grid,
      estimate: read.map((r) => r.estimate),
      lower: read.map((r) => (r.se === null ? null : r.estimate - jn.critical * r.se)),
      upper: read.map((r) => (r.se === null ? null : r.estimate + jn.critical * r.se)),
      shaded: jn.regions.filter((r) => r.significant).map((r) => [r.from, r.to]),
      edges: jn.rootsInRange,
    },
    {
      x: found.over,
      y: `slope of ${moderation.focalLabel} on ${moderation.outcome}${link ? ` (${link})` : ""}`,
    },
    title,
    style,
  );
}

/** A conditional indirect effect along its moderator with its bootstrap band. */
export function indirectFigure(
  region: RegionEvidence,
  evidence: Evidence,
  title: string,
  style: FigureStyle,
): DrawnFigure | null {
  const { interval } = evidence.settings;
  const band = region.bands?.[interval === "bc" || interval === "percentile" ? interval : "bca"];
  if (!band) return null;
  return bandFigure(
    {
      grid: region.grid,
      estimate: region.estimate,
      lower: band.lower,
      upper: band.upper,
      shaded: [],
      edges: band.boundaries,
    },
    { x: region.over, y: `indirect effect of ${region.from}` },
    title,
    style,
  );
}

interface Curve {
  grid: readonly number[];
  estimate: readonly number[];
  lower: readonly (number | null)[];
  upper: readonly (number | null)[];
  shaded: readonly (readonly number[])[];
  /** Values at which a limit crosses zero. */
  edges: readonly number[];
}

function bandFigure(
  curve: Curve,
  words: { x: string; y: string },
  title: string,
  style: FigureStyle,
): DrawnFigure {
  const pen = new Pen(style.fontPt);
  const f = style.fontPt;
  const size = sizeOf(style, f * 2);
  const known = [...curve.estimate, ...curve.lower, ...curve.upper, 0].filter((v) => v !== null);
  const write = decimals(style);
  const domain = { x: padded(curve.grid, 0.01), y: padded(known, 0.08) };
  // The band lies beneath the axes.
  const under = new Pen(f);
  const frame = drawAxes(pen, size, domain, { ...words, write });
  for (const [from, to] of curve.shaded)
    under.rect(frame.x(from!), frame.top, frame.x(to!) - frame.x(from!), frame.bottom - frame.top, {
      fill: "#f0f0f0",
      edge: 0,
    });
  const at = (values: readonly (number | null)[]): [number, number][] =>
    values.flatMap((v, i) =>
      v === null ? [] : [[frame.x(curve.grid[i]!), frame.y(v)] as [number, number]],
    );
  const [lower, upper] = [at(curve.lower), at(curve.upper)];
  under.area([...lower, ...[...upper].reverse()], BAND);
  pen.polyline(lower, 0.5);
  pen.polyline(upper, 0.5);
  pen.polyline(at(curve.estimate), 1.2);
  pen.line(frame.left, frame.y(0), frame.right, frame.y(0), 0.6, "2 2");
  for (const edge of curve.edges) {
    pen.line(frame.x(edge), frame.top, frame.x(edge), frame.bottom, 0.6, "4 2");
    pen.text(frame.x(edge), frame.top - f * 0.4, write(minus(edge.toFixed(2))), {
      anchor: "middle",
    });
  }
  return figureFile(under.body + pen.body, size.height, title, style);
}

/**
 * Estimates as marks and intervals as lines, one row each, names before them and numbers behind.
 */
export function forestFigure(
  effects: readonly EffectEvidence[],
  numbers: (effect: EffectEvidence) => string,
  title: string,
  style: FigureStyle,
): DrawnFigure | null {
  const shown = effects.filter((e) => e.shown?.lower != null && e.shown.upper != null);
  if (shown.length === 0) return null;
  const pen = new Pen(style.fontPt);
  const f = style.fontPt;
  const width = style.widthMm * POINTS_PER_MM;
  const texts = shown.map(numbers);
  const right = width - Math.max(...texts.map((t) => textWidth(t, f))) - f;
  const names = Math.max(...shown.map((e) => textWidth(e.label, f)));
  // Names stand over their rows where they would leave no room to the picture.
  const over = names > width * 0.42;
  const left = over ? f : names + 1.5 * f;
  const step = over ? 3 * f : 2 * f;
  const bottom = f + shown.length * step;
  const domain = padded([...shown.flatMap((e) => [e.shown!.lower!, e.shown!.upper!]), 0], 0.05);
  const x = linear(domain, [left, right - f]);
  pen.line(x(0), f * 0.5, x(0), bottom, 0.6, "2 2");
  shown.forEach((e, i) => {
    const y = f + i * step + (over ? 2.1 * f : f);
    pen.text(over ? left : 0.5 * f, over ? y - f : y + f * 0.33, e.label, {
      most: over ? width - 2 * f : names,
      halo: over,
    });
    const { lower, upper } = e.shown!;
    pen.line(x(lower!), y, x(upper!), y, 0.9);
    for (const end of [lower!, upper!]) pen.line(x(end), y - f * 0.3, x(end), y + f * 0.3, 0.9);
    const clear = lower! > 0 || upper! < 0;
    pen.circle(x(e.estimate!), y, f * 0.32, clear ? "#000" : "#fff");
    pen.text(right, y + f * 0.33, texts[i]!);
  });
  pen.line(left, bottom, right - f, bottom);
  const room = Math.max(2, Math.floor((right - left) / (4.5 * f)));
  for (const [value, text] of labelledTicks(domain, room)) {
    pen.line(x(value), bottom, x(value), bottom + f * 0.35);
    pen.text(x(value), bottom + f * 1.45, decimals(style)(text), { anchor: "middle" });
  }
  return figureFile(pen.body, bottom + 2.2 * f, title, style);
}
