import type { ChartConfiguration } from "chart.js";
import { plain, type ResidualRows } from "../../../core";
import { axisOf, plotConfig, type Colours } from "../figure/plot-config";
import type { Words } from "../figure/plot-marks";
import { padded } from "../../../formats/figures";

interface Dot {
  x: number;
  y: number;
  row: number;
}

type Domain = [number, number];

/** Names closer than these shares of the plot's sides would be written over each other. */
const NEAR = { across: 0.06, up: 0.055 };
/** So near to the right edge, as a share of the width, a name stands before its dot. */
const EDGE = 0.9;

/** Names that would be written over each other become one list of rows; none runs over the edge. */
export function rowNames(
  dots: readonly Dot[],
  across: Domain,
  up: Domain,
): Omit<Words, "colour">[] {
  const [width, height] = [across[1] - across[0], up[1] - up[0]];
  const names: (Dot & { rows: number[] })[] = [];
  for (const dot of dots) {
    const near = names.find(
      (n) =>
        Math.abs(n.x - dot.x) < NEAR.across * width && Math.abs(n.y - dot.y) < NEAR.up * height,
    );
    if (near) near.rows.push(dot.row);
    else names.push({ ...dot, rows: [dot.row] });
  }
  return names.map(({ x, y, rows }) => {
    const before = (x - across[0]) / width > EDGE;
    return {
      x,
      y,
      text: rows.join(", "),
      shift: [before ? -8 : 8, 0],
      align: before ? "right" : "left",
    };
  });
}

/** Studentised residuals against fitted values; rows with influence are larger and named. */
export const residualPlot =
  (residuals: ResidualRows, named: ReadonlySet<number>) =>
  (colours: Colours): ChartConfiguration =>
    scatter(
      dotsOf(residuals, residuals.fitted),
      { named, across: `fitted ${residuals.outcome}`, diagonal: false },
      colours,
    );

/**
 * Studentised residuals against the quantiles of a normal distribution; points on the line speak
 * for normality.
 */
export const quantilePlot =
  (residuals: ResidualRows, named: ReadonlySet<number>) =>
  (colours: Colours): ChartConfiguration =>
    scatter(
      dotsOf(residuals, residuals.normal),
      { named, across: "normal quantile", diagonal: true },
      colours,
    );

const dotsOf = ({ studentised, rows }: ResidualRows, across: readonly (number | null)[]): Dot[] =>
  studentised.flatMap((y, i) => {
    const x = across[i] ?? null;
    return y === null || x === null ? [] : [{ x, y, row: rows[i]! }];
  });

function scatter(
  dots: Dot[],
  { named, across, diagonal }: { named: ReadonlySet<number>; across: string; diagonal: boolean },
  colours: Colours,
): ChartConfiguration {
  const x = padded(dots.map((d) => d.x));
  const y = padded([...dots.map((d) => d.y), -3, 3], 0.03);
  const [some, others] = [
    dots.filter((d) => named.has(d.row)),
    dots.filter((d) => !named.has(d.row)),
  ];
  return plotConfig<"scatter">(
    {
      type: "scatter",
      data: {
        datasets: [
          { data: some, pointRadius: 4.5, backgroundColor: colours.rust, borderWidth: 0 },
          {
            data: others,
            pointRadius: 2.6,
            backgroundColor: `${colours.petrol}8c`,
            borderWidth: 0,
          },
        ],
      },
      options: {
        plugins: {
          tooltip: {
            callbacks: {
              label: ({ raw }) => {
                const { row, y: residual } = raw as Dot;
                return `row ${row}: residual ${plain(residual, 2)}`;
              },
            },
          },
        },
        scales: {
          x: axisOf(colours, { domain: x, name: across }),
          y: axisOf(colours, { domain: y, name: "studentised residual", wanted: 5 }),
        },
      },
    },
    {
      guides: diagonal
        ? [{ axis: "both", at: 0, colour: colours.quiet }]
        : [-2, 0, 2].map((at) => ({
            axis: "y",
            at,
            colour: at === 0 ? colours.quiet : colours.line,
            ...(at === 0 ? {} : { dash: [3, 3] as [number, number] }),
          })),
      words: rowNames(some, x, y).map((words) => ({
        ...words,
        colour: colours.rust,
      })),
    },
  );
}
