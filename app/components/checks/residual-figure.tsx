import { useRef } from "react";
import type { ResidualRows } from "../../../core";
import { FigureTools, type NumberTable } from "../figure/figure-tools";
import { ResidualPicture } from "./residual-picture";

/** The picture of residuals with its numbers, to take along. */
export function ResidualFigure({
  residuals,
  named,
}: {
  residuals: ResidualRows;
  named: ReadonlySet<number>;
}) {
  const picture = useRef<HTMLDivElement>(null);
  return (
    <div>
      <div ref={picture}>
        <ResidualPicture residuals={residuals} named={named} />
      </div>
      <FigureTools
        target={picture}
        name={`residuals of ${residuals.outcome}`}
        caption={`Studentised residuals of ${residuals.outcome} against fitted values, ${residuals.rows.length} rows; rows with the largest Cook's distances are named.`}
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
  leverage,
  cook,
}: ResidualRows): NumberTable {
  const order = rows.map((_, i) => i).sort((a, b) => (cook[b] ?? Infinity) - (cook[a] ?? Infinity));
  return {
    title: `Residuals of ${outcome}`,
    head: ["row", `fitted ${outcome}`, "studentised residual", "leverage", "Cook's distance"],
    rows: order.map((i) => [String(rows[i]), fitted[i]!, studentised[i]!, leverage[i]!, cook[i]!]),
  };
}
