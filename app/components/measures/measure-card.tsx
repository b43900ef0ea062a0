import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { styled } from "@mui/material/styles";
import { useState, type DragEvent } from "react";
import { alphaWorking, type Measure, type MeasureEvidence, type MeasureForm } from "../../../core";
import { CloseIcon } from "../icons";
import { Slot } from "../theory/slot";
import { formed, turnItem, withItem, withoutItem } from "./edit-measures";
import { InterItem, ItemTable, FactorItems } from "./item-table";
import { AnsweredRule, ScaleFields, ScalingRule, WeightingRule } from "./measure-rules";
import { ReliabilitySummary } from "./reliability-summary";
import { WorkingView } from "../ui/working-view";
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
  /**
   * What its items are: answers, columns of which only means and covariances are known, or factors
   * themselves.
   */
  items: "answers" | "moments" | "factors";
  /** Items have means that are known. */
  means: boolean;
  /** Lowest and highest answer to the items so far. */
  observed: [number, number] | null;
  change: (measure: Measure) => void;
  rename: (name: string) => void;
  /** What the items say, where that is known. */
  wordings: ReadonlyMap<string, string>;
  remove: () => void;
  /** Looks for factors among its items; null where there are no answers. */
  explore: (() => void) | null;
}

/**
 * One measure: its items, how it is made of them, and how reliable it is. Items can be dropped on
 * it.
 */
export function MeasureCard({
  measure,
  evidence,
  level,
  pool,
  items,
  means,
  wordings,
  observed,
  change,
  rename,
  remove,
  explore,
}: Props) {
  const [over, setOver] = useState(false);
  const working = evidence ? alphaWorking(evidence) : null;
  const isScore = measure.form === "averages" || measure.form === "sums";
  const warnings =
    evidence?.reliability.value?.warnings.filter((w) => w.code !== "negative_item_total") ?? [];
  const against = evidence?.reliability.value?.warnings.find(
    (w) => w.code === "negative_item_total",
  );
  const takeOut = (item: string): void =>
    measure.items.length > 1 ? change(withoutItem(measure, item)) : remove();
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
          onChange={(e) => change(formed(measure, e.target.value as MeasureForm))}
        >
          {FORMS.filter(([form]) => items === "answers" || form === "reflects").map(
            ([form, words]) => (
              <option key={form} value={form}>
                {words}
              </option>
            ),
          )}
        </Select>
        <Spacer />
        {explore && measure.items.length >= 3 && (
          <Button variant="text" onClick={explore}>
            Do these belong together?
          </Button>
        )}
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
      {items === "factors" ? (
        <FactorItems measure={measure} remove={takeOut} />
      ) : (
        <ItemTable
          measure={measure}
          evidence={evidence}
          {...{ means, wordings }}
          turn={(item) => change(turnItem(measure, item, observed))}
          remove={takeOut}
        />
      )}
      <Rules {...{ measure, pool, items, change }} />
      {evidence && <InterItem evidence={evidence} />}
      {!isScore && <p className="quiet">{FORMS.find(([form]) => form === measure.form)?.[2]}</p>}
    </Card>
  );
}

/** What may be added, and how the measure is made of what there is. */
function Rules({
  measure,
  pool,
  items,
  change,
}: Pick<Props, "measure" | "pool" | "items" | "change">) {
  const { form } = measure;
  return (
    <Foot>
      <Slot
        label="Item"
        placeholder="another item …"
        value={null}
        options={pool.filter((name) => !measure.items.some((i) => i.ref.name === name))}
        choose={(item) => change(withItem(measure, item))}
      />
      {items === "answers" && (
        <ScaleFields key={JSON.stringify(measure.scale)} measure={measure} change={change} />
      )}
      {(form === "averages" || form === "sums") && (
        <AnsweredRule measure={measure} change={change} />
      )}
      {form === "combines" && <WeightingRule measure={measure} change={change} />}
      {form === "reflects" && (
        <ScalingRule key={measure.reliability ?? ""} measure={measure} change={change} />
      )}
    </Foot>
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
