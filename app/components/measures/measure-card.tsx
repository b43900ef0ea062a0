import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { styled } from "@mui/material/styles";
import { useState, type DragEvent } from "react";
import {
  alphaWorking,
  WEIGHTINGS,
  type Measure,
  type MeasureEvidence,
  type MeasureForm,
  type Weighting,
} from "../../../core";
import { CloseIcon } from "../icons";
import { Slot } from "../theory/slot";
import { signed, turnItem, withItem, withoutItem } from "./edit-measures";
import { InterItem, ItemTable } from "./item-table";
import { ReliabilitySummary } from "./reliability-summary";
import { WorkingView } from "../working/working-view";
import { IconAction } from "../ui/icon-button";
import { Select } from "../ui/select";
import { TextInput } from "../ui/text-input";
import { Note, ScreenHead, Spacer } from "../ui/layout";

export const ITEM_TYPE = "application/x-hebel-item";

const FORMS: [MeasureForm, string, string][] = [
  ["averages", "mean of its items", "a scale score in the units of the items"],
  ["sums", "sum of its items", "a scale score; a few missing answers count as the case's mean"],
  [
    "reflects",
    "common factor",
    "a latent variable, estimated together with the paths of the theory by maximum likelihood",
  ],
  [
    "combines",
    "composite",
    "made of its items: their weights are estimated together with the paths of the theory by partial least squares",
  ],
];

interface Props {
  measure: Measure;
  evidence: MeasureEvidence | undefined;
  level: number;
  /** Columns that may become items. */
  pool: string[];
  /** Lowest and highest answer to the items so far. */
  observed: [number, number] | null;
  change: (measure: Measure) => void;
  rename: (name: string) => void;
  remove: () => void;
}

/** One measure: its items, how it is made of them, and how reliable it is. Items can be dropped on it. */
export function MeasureCard({
  measure,
  evidence,
  level,
  pool,
  observed,
  change,
  rename,
  remove,
}: Props) {
  const [over, setOver] = useState(false);
  const working = evidence ? alphaWorking(evidence) : null;
  const isScore = measure.form === "averages" || measure.form === "sums";
  const warnings =
    evidence?.reliability.value?.warnings.filter((w) => w.code !== "negative_item_total") ?? [];
  const against = evidence?.reliability.value?.warnings.find(
    (w) => w.code === "negative_item_total",
  );
  const drop = (event: DragEvent): void => {
    setOver(false);
    const item = event.dataTransfer.getData(ITEM_TYPE);
    if (item) change(withItem(measure, item));
  };
  return (
    <Card
      className={over ? "over" : ""}
      aria-label={`Measure ${measure.name.name}`}
      onDragOver={(e) => {
        if (!e.dataTransfer.types.includes(ITEM_TYPE)) return;
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={(e) => {
        if (!e.currentTarget.contains(e.relatedTarget as Node)) setOver(false);
      }}
      onDrop={drop}
    >
      <ScreenHead as="div">
        <MeasureName key={measure.name.name} name={measure.name.name} rename={rename} />
        <Select
          aria-label={`How ${measure.name.name} is made`}
          value={measure.form}
          title={FORMS.find(([form]) => form === measure.form)?.[2]}
          onChange={(e) => change({ ...measure, form: e.target.value as MeasureForm })}
        >
          {FORMS.map(([form, words]) => (
            <option key={form} value={form}>
              {words}
            </option>
          ))}
        </Select>
        <Spacer />
        <IconAction name={`Remove the measure ${measure.name.name}`} onClick={remove}>
          <CloseIcon />
        </IconAction>
      </ScreenHead>
      {evidence &&
        observed !== null &&
        (measure.weighting === "regression" && measure.form === "combines" ? (
          <p className="quiet">
            Its items make it up, so they need not go together: alpha and omega say nothing of it.
            Whether each adds something stands on Checks, by its weight.
          </p>
        ) : (
          <>
            <ReliabilitySummary evidence={evidence} level={level} />
            {working && <WorkingView working={working} />}
          </>
        ))}
      {against && (
        <Note>
          <p>{against.message}</p>
          {against.about.map((item) => (
            <Button key={item} onClick={() => change(turnItem(measure, item, observed))}>
              {measure.items.find((i) => i.ref.name === item)?.reversed
                ? `Take the reversal of ${item} back`
                : `Reverse ${item}`}
            </Button>
          ))}
        </Note>
      )}
      {warnings.map((w) => (
        <Note key={w.code}>{w.message}</Note>
      ))}
      <ItemTable
        measure={measure}
        evidence={evidence}
        turn={(item) => change(turnItem(measure, item, observed))}
        remove={(item) =>
          measure.items.length > 1 ? change(withoutItem(measure, item)) : remove()
        }
      />
      <Foot>
        <Slot
          label="Item"
          placeholder="another item …"
          value={null}
          options={pool.filter((name) => !measure.items.some((i) => i.ref.name === name))}
          choose={(item) => change(withItem(measure, item))}
        />
        <ScaleFields key={JSON.stringify(measure.scale)} measure={measure} change={change} />
        {isScore && <AnsweredRule measure={measure} change={change} />}
        {measure.form === "combines" && <WeightingRule measure={measure} change={change} />}
      </Foot>
      {evidence && <InterItem evidence={evidence} />}
      {!isScore && <p className="quiet">{FORMS.find(([form]) => form === measure.form)?.[2]}</p>}
    </Card>
  );
}

const Card = styled("section")({
  display: "grid",
  gridTemplateColumns: "minmax(0, 1fr)",
  gap: 10,
  borderTop: "1px solid var(--ink)",
  paddingTop: 12,
  "&.over": {
    backgroundColor: "var(--petrol-wash)",
    outline: "2px dashed var(--petrol)",
    outlineOffset: 6,
  },
});

const Foot = styled("div")({
  display: "flex",
  flexWrap: "wrap",
  alignItems: "center",
  gap: "8px 26px",
  fontSize: 14,
  color: "var(--quiet)",
  "& .tiny": { width: 56, "& input": { textAlign: "right" } },
});

function MeasureName({ name, rename }: { name: string; rename: (name: string) => void }) {
  const [text, setText] = useState(name);
  const keep = (): void => {
    const wanted = text.trim().replaceAll('"', "");
    if (wanted !== "" && wanted !== name) rename(wanted);
    else setText(name);
  };
  return (
    <Box
      sx={{
        "& .MuiInputBase-root": { fontFamily: "var(--serif)", fontSize: "1.2rem", fontWeight: 600 },
        "& input": { p: "2px 0", borderBottom: "1px dotted var(--line)", fieldSizing: "content" },
      }}
    >
      <TextInput
        bare
        aria-label="Name of the measure"
        value={text}
        size={Math.max(6, text.length)}
        onChange={(e) => setText(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => e.key === "Enter" && keep()}
      />
    </Box>
  );
}

function ScaleFields({
  measure,
  change,
}: {
  measure: Measure;
  change: (measure: Measure) => void;
}) {
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
function WeightingRule({
  measure,
  change,
}: {
  measure: Measure;
  change: (measure: Measure) => void;
}) {
  const { items, weighting, signedBy } = measure;
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
          {items.map(({ ref }) => (
            <option key={ref.name} value={ref.name}>
              {ref.name}
            </option>
          ))}
        </Select>
      </label>
    </>
  );
}

const RULES = [100, 80, 60, 50];

function AnsweredRule({
  measure,
  change,
}: {
  measure: Measure;
  change: (measure: Measure) => void;
}) {
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
