import { Link } from "react-router";
import type { Measure } from "../../../core";
import { Line } from "./line";

const FORMS = {
  averages: "the mean of",
  sums: "the sum of",
  reflects: "a common factor of",
  combines: "a composite of",
};

/** A measure among the sentences, briefly; its place is the Measures screen. */
export function MeasureLine({ measure }: { measure: Measure }) {
  const reversed = measure.items.filter((i) => i.reversed).length;
  return (
    <Line minor name={`Measure ${measure.name.name}`} line={measure.line}>
      <p>
        <strong>{measure.name.name}</strong> is {FORMS[measure.form]} {measure.items.length} items
        {reversed > 0 && `, ${reversed} reversed`}{" "}
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
