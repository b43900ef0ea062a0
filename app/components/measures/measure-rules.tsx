import { useState } from "react";
import { WEIGHTINGS, type Measure, type Weighting } from "../../../core";
import { Select } from "../ui/select";
import { TextInput } from "../ui/text-input";
import { reliable, scaled, signed, VARIANCE } from "./edit-measures";

/** The items of a measure, to choose one of. */
const itemOptions = ({ items }: Measure) =>
  items.map(({ ref }) => (
    <option key={ref.name} value={ref.name}>
      {ref.name}
    </option>
  ));

interface Props {
  measure: Measure;
  change: (measure: Measure) => void;
}

/** What a factor takes its scale from; of a single item, how reliable it is known to be. */
export function ScalingRule({ measure, change }: Props) {
  const { items, scaledBy, reliability } = measure;
  const [text, setText] = useState(reliability === undefined ? "" : String(reliability));
  const [wrong, setWrong] = useState(false);
  if (items.length > 1)
    return (
      <label>
        its scale comes from{" "}
        <Select
          value={scaledBy === "variance" ? VARIANCE : (scaledBy?.name ?? "")}
          onChange={(e) => change(scaled(measure, e.target.value))}
        >
          <option value="">the settings</option>
          <option value={VARIANCE}>a variance of 1</option>
          {itemOptions(measure)}
        </Select>
      </label>
    );
  const keep = (): void => {
    const value = text.trim() === "" ? null : Number(text.trim().replace(",", "."));
    const fits = value === null || (value > 0 && value <= 1);
    setWrong(!fits);
    if (fits && value !== (reliability ?? null)) change(reliable(measure, value));
  };
  return (
    <label>
      known reliability of {items[0]?.ref.name}{" "}
      <TextInput
        className="tiny"
        inputMode="decimal"
        placeholder="1"
        aria-invalid={wrong}
        title="Above 0 and up to 1; empty: free of error"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => e.key === "Enter" && keep()}
      />
      {wrong && <span role="alert"> a reliability lies above 0 and up to 1</span>}
    </label>
  );
}

/** Between which answers the items run, so that they can be turned round. */
export function ScaleFields({ measure, change }: Props) {
  const [low, setLow] = useState(measure.scale ? String(measure.scale[0]) : "");
  const [high, setHigh] = useState(measure.scale ? String(measure.scale[1]) : "");
  const keep = (): void => {
    const [a, b] = [Number(low), Number(high)];
    const scale: [number, number] | null =
      low.trim() !== "" && high.trim() !== "" && a < b ? [a, b] : null;
    if (JSON.stringify(scale) !== JSON.stringify(measure.scale)) change({ ...measure, scale });
  };
  return (
    <span>
      answers run from{" "}
      <TextInput
        className="tiny"
        aria-label="Lowest answer of the items"
        inputMode="decimal"
        value={low}
        onChange={(e) => setLow(e.target.value)}
        onBlur={keep}
      />{" "}
      to{" "}
      <TextInput
        className="tiny"
        aria-label="Highest answer of the items"
        inputMode="decimal"
        value={high}
        onChange={(e) => setHigh(e.target.value)}
        onBlur={keep}
      />
    </span>
  );
}

const WEIGHTING_WORDS: Record<Weighting, string> = {
  correlation: "by correlation with what it is related to",
  regression: "by regression on its items",
  equal: "equally",
};

/** How a composite weights its items, and which of them tells the direction of its score. */
export function WeightingRule({ measure, change }: Props) {
  const { weighting, signedBy } = measure;
  return (
    <>
      <label>
        weighted{" "}
        <Select
          value={weighting ?? "correlation"}
          onChange={(e) => change({ ...measure, weighting: e.target.value as Weighting })}
        >
          {WEIGHTINGS.map((each) => (
            <option key={each} value={each}>
              {WEIGHTING_WORDS[each]}
            </option>
          ))}
        </Select>
      </label>
      <label>
        a higher score is more of{" "}
        <Select
          value={signedBy?.name ?? ""}
          onChange={(e) => change(signed(measure, e.target.value))}
        >
          <option value="">most of its items</option>
          {itemOptions(measure)}
        </Select>
      </label>
    </>
  );
}

const RULES = [100, 80, 60, 50];

/** How many items have to be answered for a score. */
export function AnsweredRule({ measure, change }: Props) {
  const value = measure.answered ?? 80;
  return (
    <label>
      a score needs{" "}
      <Select
        value={value}
        onChange={(e) =>
          change({
            ...measure,
            answered: Number(e.target.value) === 80 ? null : Number(e.target.value),
          })
        }
      >
        {[...new Set([...RULES, value])].map((percent) => (
          <option key={percent} value={percent}>
            {percent === 100 ? "every item" : `${percent} % of the items`}
          </option>
        ))}
      </Select>{" "}
      answered
    </label>
  );
}
