import { Link } from "react-router";
import type { Measure } from "../../../core";
import { measureWords } from "./choices";
import { Line } from "./line";

/** A measure among the sentences, briefly; its place is the Measures screen. */
export function MeasureLine({ measure }: { measure: Measure }) {
  return (
    <Line minor name={`Measure ${measure.name.name}`} line={measure.line}>
      <p>
        <strong>{measure.name.name}</strong> is {measureWords(measure)}{" "}
        <Link
          to="../measures"
          className="quiet"
          aria-label={`Open the measure ${measure.name.name}`}
        >
          open
        </Link>
      </p>
    </Line>
  );
}
