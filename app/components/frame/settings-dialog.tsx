import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Grid from "@mui/material/Grid";
import { useState, type ReactNode } from "react";
import {
  DEFAULT_SETTINGS,
  engineOf,
  engines,
  INTERVALS,
  INTERVAL_WORDS,
  MAX_REPLICATIONS,
  thousands,
  type Engine,
  type ErrorKind,
  type IntervalKind,
  type Dataset,
  type OptionSpec,
  type Settings,
} from "../../../core";
import type { AnalysisState } from "../../analysis/analysis";
import {
  chooseFewerWhileTrying,
  SAMPLES_WHILE_TRYING,
  useFewerWhileTrying,
} from "../../analysis/trying";
import { useAnalysis } from "../../analysis/use-analysis";
import type { StudyContext } from "../../analysis/use-study";
import { Dialog } from "../ui/dialog";
import { Check } from "../ui/check";
import { CENTRING_WORDS, ERROR_HELP, ERROR_WORDS, INTERVAL_HELP } from "./settings-words";
import { Choice as Field, Entry, type Option } from "../ui/field";

/** Of this browser, not of the study: its numbers are those of all samples. */
function FewerWhileTrying({ context }: { context: StudyContext }) {
  const fewer = useFewerWhileTrying();
  return (
    <Grid size={{ xs: 12, sm: 6 }}>
      <Check
        label={`At most ${thousands(SAMPLES_WHILE_TRYING)} samples while I try`}
        checked={fewer}
        onChange={(next) => {
          chooseFewerWhileTrying(next);
          if (!next) context.analysis.resume();
        }}
      />
      <Box sx={{ fontSize: 13, color: "var(--quiet)" }}>
        The report draws all of them. A choice of this browser, not of the study.
      </Box>
    </Grid>
  );
}

/** Settings of the analysis; every change counts at once. */
export function SettingsDialog({ context, close }: { context: StudyContext; close: () => void }) {
  const { definition, edit, dataset } = context;
  const { settings } = definition;
  const set = (change: Partial<Settings>): void =>
    edit({ settings: { ...settings, ...change } }, `settings ${Object.keys(change).join()}`);
  const names = groupingColumns(dataset);
  const { engine, used, withheld } = useEngine(context);
  return (
    <Dialog
      title="Analysis settings"
      close={close}
      actions={
        <>
          <Button
            variant="text"
            sx={{ mr: "auto" }}
            onClick={() => edit({ settings: { ...DEFAULT_SETTINGS } }, "settings all")}
          >
            Back to the defaults
          </Button>
          <Button variant="contained" onClick={close}>
            Close
          </Button>
        </>
      }
    >
      <Grid container spacing={2}>
        <Choice
          label="Estimated by"
          value={settings.engine}
          options={engines().map(({ id, label }) => [id, label])}
          help={
            engine.id === settings.engine
              ? "Latent variables need an engine that estimates them from their items, composites another; among those that do, this is the choice."
              : `What is chosen here does not know everything that this theory says (measures made of their items, models of responses, lines that hold arrows, covary or groups), so ${engine.label} estimates it.`
          }
          onChange={(id) => set({ engine: id, options: id === engine.id ? settings.options : {} })}
        />
        {engine.options.map((option) => (
          <EngineOption
            key={option.name}
            option={option}
            settings={settings}
            columns={names}
            set={set}
          />
        ))}
        <Choice
          label="Interval"
          value={settings.interval}
          options={INTERVALS.map((i) => ({
            value: i,
            words: `${INTERVAL_WORDS[i]!}${i in withheld ? " (not offered here)" : ""}`,
            disabled: i in withheld,
          }))}
          help={withheld[settings.interval] ?? INTERVAL_HELP[settings.interval]}
          onChange={(interval) => set({ interval: interval as IntervalKind })}
        />
        <Choice
          label="Standard errors"
          value={used.errors}
          options={engine.errors.map((c) => [c, ERROR_WORDS[c] ?? c])}
          help={
            settings.cluster === null
              ? ERROR_HELP[used.errors]
              : "With a cluster column every standard error is cluster-robust (CR2), whatever is chosen here."
          }
          onChange={(errors) => set({ errors: errors as ErrorKind })}
        />
        <NumberField
          label="Bootstrap samples"
          value={settings.replications}
          min={0}
          max={MAX_REPLICATIONS}
          help="5,000 to 10,000 is usual; more narrows the Monte Carlo error."
          onValue={(replications) => set({ replications })}
        />
        <FewerWhileTrying context={context} />
        <NumberField
          label="Seed"
          value={settings.seed}
          min={0}
          max={Number.MAX_SAFE_INTEGER}
          help="The same seed gives the same digits, anywhere."
          onValue={(seed) => set({ seed })}
        />
        <Choice
          label="Confidence level"
          value={String(settings.level)}
          options={[
            ["0.9", "90 %"],
            ["0.95", "95 %"],
            ["0.99", "99 %"],
            ["0.999", "99.9 %"],
          ]}
          onChange={(level) => set({ level: Number(level) })}
        />
        <Deciding settings={settings} set={set} />
        <Grouping settings={settings} names={names} set={set} />
      </Grid>
    </Dialog>
  );
}

/** The engine that estimates the theory as it stands, and the settings as it reads them. */
function useEngine({ definition, analysis }: StudyContext): {
  engine: Engine;
  used: Settings;
  /** Intervals that are not offered for this model, with the reasons. */
  withheld: Partial<Record<IntervalKind, string>>;
} {
  const evidence = useAnalysis(analysis, evidenceOf);
  const { settings } = definition;
  const engine =
    engines().find(({ id }) => id === evidence?.estimator.id) ?? engineOf(settings.engine);
  const fits = engine.errors.includes(settings.errors);
  const errors = fits ? settings.errors : ((evidence?.errors as ErrorKind) ?? engine.errors[0]!);
  return {
    engine,
    used: { ...settings, errors },
    withheld: evidence?.withheldIntervals ?? {},
  };
}

const evidenceOf = ({ evidence }: AnalysisState) => evidence;

/** A choice that one engine offers. */
function EngineOption({
  option,
  settings,
  columns,
  set,
}: {
  option: OptionSpec;
  columns: string[];
  settings: Settings;
  set: (change: Partial<Settings>) => void;
}) {
  const value = settings.options[option.name] ?? option.initial;
  const put = (next: string | number): void =>
    set({ options: { ...settings.options, [option.name]: next } });
  if (option.column)
    return (
      <Choice
        label={option.label}
        value={String(value)}
        options={[["", "–"], ...columns.map((c) => [c, c] as [string, string])]}
        help={option.help}
        onChange={put}
      />
    );
  return option.choices ? (
    <Choice
      label={option.label}
      value={String(value)}
      options={Object.entries(option.choices)}
      help={option.help}
      onChange={put}
    />
  ) : (
    <NumberField
      label={option.label}
      value={Number(value)}
      min={-Infinity}
      max={Infinity}
      help={option.help}
      onValue={put}
    />
  );
}

/** How a verdict is reached: one tail or two, and whether the number of hypotheses counts. */
function Deciding({ settings, set }: Pick<GroupingProps, "settings" | "set">) {
  return (
    <>
      <Choice
        label="Tails"
        value={settings.tail}
        options={[
          ["two", "two-tailed"],
          ["one", "one-tailed, in the stated direction"],
        ]}
        help={
          settings.tail === "one"
            ? "Directional sentences are tested by one bound at the confidence level, and can only be supported or not; “affects” and “alters” stay two-tailed, as does everything that is no hypothesis."
            : undefined
        }
        onChange={(tail) => set({ tail: tail as Settings["tail"] })}
      />
      <Choice
        label="Several hypotheses"
        value={settings.several}
        options={[
          ["none", "each at its own level"],
          ["holm", "corrected for their number (Holm)"],
        ]}
        help="Evidence says in any case which verdicts the correction would change."
        onChange={(several) => set({ several: several as Settings["several"] })}
      />
    </>
  );
}

/**
 * Columns that can name groups: names, codes and identifiers; of numbers, whole ones that repeat.
 */
function groupingColumns({ table, variables }: Dataset): string[] {
  const level = new Map(variables.map((v) => [v.name, v.level]));
  return table.columns
    .filter(
      ({ name, dictionary }) =>
        level.get(name) !== "continuous" ||
        (dictionary.length <= table.rows / 2 &&
          dictionary.every((text) => /^\s*-?\d*\s*$/.test(text))),
    )
    .map((c) => c.name);
}

interface GroupingProps {
  settings: Settings;
  names: string[];
  set: (change: Partial<Settings>) => void;
}

/** Whom a resample draws, and what equations share. */
function Grouping({ settings, names, set }: GroupingProps) {
  return (
    <>
      <Choice
        label="Resample within levels of (strata)"
        value={settings.strata ?? ""}
        options={[["", "– (no strata)"], ...names.map((n) => [n, n] as [string, string])]}
        help="Stratified: every resample keeps the size of each group."
        onChange={(v) => set({ strata: v || null, ...(v ? { cluster: null } : {}) })}
      />
      <Choice
        label="Resample whole clusters of"
        value={settings.cluster ?? ""}
        options={[["", "– (single cases)"], ...names.map((n) => [n, n] as [string, string])]}
        help="For cases nested in teams or schools. Standard errors are then cluster-robust (CR2), and whole clusters are resampled."
        onChange={(v) => set({ cluster: v || null, ...(v ? { strata: null } : {}) })}
      />
      <Choice
        label="Between equations"
        value={settings.crossEquations}
        options={[
          ["joint", "estimated covariance"],
          ["zero", "taken as zero"],
        ]}
        help="Used by the delta method, bootstrap-t and Monte Carlo intervals."
        onChange={(v) => set({ crossEquations: v as Settings["crossEquations"] })}
      />
      <Choice
        label="Variables in interaction terms"
        value={settings.centring}
        options={[
          ["none", "as they are"],
          ["mean", "mean-centred"],
          ["products", "mean-centred in the product only"],
          ["standardised", "standardised variables"],
        ]}
        help={CENTRING_WORDS[settings.centring]}
        onChange={(v) => set({ centring: v as Settings["centring"] })}
      />
    </>
  );
}

interface ChoiceProps {
  label: string;
  value: string;
  options: readonly (Option | readonly [string, string])[];
  help?: string | undefined;
  onChange: (value: string) => void;
}

const Half = ({ children }: { children: ReactNode }) => (
  <Grid size={{ xs: 12, sm: 6 }}>{children}</Grid>
);

const Choice = (props: ChoiceProps) => (
  <Half>
    <Field {...props} />
  </Half>
);

interface NumberFieldProps {
  label: string;
  value: number;
  min: number;
  max: number;
  help: string;
  onValue: (value: number) => void;
}

/** A whole number; what is typed stays as typed, and counts once it is valid. */
function NumberField({ label, value, min, max, help, onValue }: NumberFieldProps) {
  const [text, setText] = useState<string | null>(null);
  const shown = text ?? String(value);
  const digits = shown.replace(/[ ,]/g, "");
  const parsed = /^\d+$/.test(digits) ? Number(digits) : NaN;
  const valid = parsed >= min && parsed <= max;
  return (
    <Half>
      <Entry
        label={label}
        help={help}
        problem={valid ? null : `A whole number from ${min} to ${max}.`}
        value={shown}
        inputProps={{ inputMode: "numeric" }}
        onChange={(entered) => {
          setText(entered);
          const now = Number(entered.replace(/[ ,]/g, ""));
          if (Number.isInteger(now) && entered.trim() !== "" && now >= min && now <= max)
            onValue(now);
        }}
        onBlur={() => valid && setText(null)}
      />
    </Half>
  );
}
