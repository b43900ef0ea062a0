import { useMemo, useRef, useState } from "react";
import type { ResidualRows } from "../../../core";
import { FigureTools, type NumberTable } from "../figure/figure-tools";
import { Plot } from "../figure/plot";
import { Segments } from "../ui/segments";
import { quantilePlot, residualPlot } from "./residual-plots";

type View = "fitted" | "normal";

/** The pictures of residuals with their numbers, to take along. */
export function ResidualFigure({
  residuals,
  named,
}: {
  residuals: ResidualRows;
  named: ReadonlySet<number>;
}) {
  const picture = useRef<HTMLDivElement>(null);
  const [view, setView] = useState<View>("fitted");
  const { outcome, rows } = residuals;
  const key = [...named].join();
  const make = useMemo(
    () => (view === "fitted" ? residualPlot : quantilePlot)(residuals, named),
    // The set is made anew with every drawing; its rows are what counts.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [view, residuals, key],
  );
  const words = view === "fitted" ? "fitted values" : "the quantiles of a normal distribution";
  return (
    <div>
      <Segments
        label={`Residuals of ${outcome} against`}
        value={view}
        choices={[
          ["fitted", "against fitted values"],
          ["normal", "normal quantiles"],
        ]}
        choose={setView}
      />
      <div ref={picture}>
        <Plot label={`Residuals of ${outcome} against ${words}`} height={260} make={make} />
      </div>
      <FigureTools
        target={picture}
        name={`residuals of ${outcome}`}
        caption={`Studentised residuals of ${outcome} against ${words}, ${rows.length} rows; rows with the largest Cook's distances are named.`}
        numbers={() => [residualTable(residuals)]}
      />
    </div>
  );
}

/** Every row, the most influential first. */
export function residualTable({
  outcome,
  rows,
  fitted,
  studentised,
  normal,
  leverage,
  cook,
}: ResidualRows): NumberTable {
  const order = rows.map((_, i) => i).sort((a, b) => (cook[b] ?? Infinity) - (cook[a] ?? Infinity));
  return {
    title: `Residuals of ${outcome}`,
    head: [
      "row",
      `fitted ${outcome}`,
      "studentised residual",
      "normal quantile",
      "leverage",
      "Cook's distance",
    ],
    rows: order.map((i) => [
      String(rows[i]),
      fitted[i]!,
      studentised[i]!,
      normal[i]!,
      leverage[i]!,
      cook[i]!,
    ]),
  };
}
