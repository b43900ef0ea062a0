import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import {
  compareRuns,
  keptRun,
  pClause,
  differenceWorking,
  runEffectWorking,
  plain,
  type KeptRun,
  VERDICT_WORDS,
} from "../../../core";
import { useAnalysis } from "../../analysis/use-analysis";
import { useTell } from "../../analysis/use-tell";
import type { StudyContext } from "../../analysis/use-study";
import type { StoredRun } from "../../storage/database";
import { download, fileName } from "../download";
import { CloseIcon } from "../icons";
import { CautionMark } from "../cautions";
import { VerdictMark } from "../verdict";
import { WorkingView } from "../ui/working-view";
import { TextInput } from "../ui/text-input";
import { Choice } from "../ui/field";
import { ScreenHead } from "../ui/layout";
import { NumberTable } from "../ui/number-table";

interface Props {
  context: StudyContext;
  runs: StoredRun[];
}

/** Runs kept under a name, and two of them side by side with what differs. */
export function KeptRuns({ context, runs }: Props) {
  const { definition, study } = context;
  const analysis = useAnalysis(context.analysis);
  const tell = useTell(context, "runs", "/compare");
  const [name, setName] = useState("");
  const [chosen, setChosen] = useState<[string, string] | null>(null);
  const now =
    analysis.evidence && !analysis.problem ? keptRun(analysis.evidence, definition) : null;
  const settled = analysis.status === "done" && now !== null;
  const act = (body: object): void => void tell(body);
  const byId = new Map<string, { name: string; run: KeptRun }>([
    ...(now ? [["now", { name: "as it stands now", run: now }] as const] : []),
    ...runs.map((r) => [r.id, r] as const),
  ]);
  const [first, second] = chosen ?? [runs[0]?.id ?? "now", "now"];
  const [a, b] = [byId.get(first), byId.get(second)];
  return (
    <Box
      component="section"
      aria-labelledby="kept-runs"
      sx={{
        borderTop: "1px solid var(--ink)",
        pt: 1.5,
        display: "grid",
        gap: 1.25,
        gridTemplateColumns: "minmax(0, 1fr)",
      }}
    >
      <Typography variant="h2" id="kept-runs">
        Runs kept
      </Typography>
      <ScreenHead
        as="form"
        onSubmit={(e) => {
          e.preventDefault();
          if (!settled) return;
          act({
            intent: "keep",
            name: name.trim() || `run ${runs.length + 1}`,
            run: now,
            evidence: analysis.evidence,
          });
          setName("");
        }}
      >
        <TextInput
          aria-label="Name of the run"
          placeholder="with covariates, all rows"
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Button type="submit" disabled={!settled}>
          Keep this run
        </Button>
        {!settled && <span className="quiet">when the bootstrap is done</span>}
      </ScreenHead>
      {runs.length === 0 && (
        <p className="quiet">
          A kept run stays as it is while the study changes, so that both can be put side by side.
        </p>
      )}
      <Box
        component="ul"
        sx={{ listStyle: "none", m: 0, p: 0, display: "flex", flexWrap: "wrap", gap: "8px 18px" }}
      >
        {runs.map((r) => (
          <li key={r.id}>
            {r.name} <span className="quiet">{r.run.n} rows</span>
            {r.evidence && (
              <Button
                variant="text"
                aria-label={`Evidence of the run ${r.name} as JSON`}
                onClick={() =>
                  download(
                    fileName(`${study.definition.title} ${r.name}`, ".evidence.json"),
                    JSON.stringify(r.evidence, null, 2),
                    "application/json",
                  )
                }
              >
                Evidence as JSON
              </Button>
            )}
            <Button
              variant="text"
              aria-label={`Remove the run ${r.name}`}
              onClick={() => act({ intent: "remove", id: r.id })}
            >
              <CloseIcon />
            </Button>
          </li>
        ))}
      </Box>
      {runs.length > 0 && (
        <ScreenHead as="div">
          <RunChoice
            label="First run"
            value={first}
            all={byId}
            choose={(id) => setChosen([id, second])}
          />
          <RunChoice
            label="Second run"
            value={second}
            all={byId}
            choose={(id) => setChosen([first, id])}
          />
        </ScreenHead>
      )}
      {a && b && first !== second && <SideBySide a={a} b={b} />}
    </Box>
  );
}

/** Fit before and after, with the test of what one of the two holds fixed. */
function FitBesides({
  names,
  fit: { runs, difference, tighter },
}: {
  names: [string, string];
  fit: NonNullable<ReturnType<typeof compareRuns>["fit"]>;
}) {
  const rows: [string, (run: (typeof runs)[number]) => number | null][] = [
    ["χ²", (r) => r.chi2],
    ["degrees of freedom", (r) => r.df],
    ["CFI", (r) => r.cfi],
    ["RMSEA", (r) => r.rmsea],
    ["SRMR", (r) => r.srmr],
    ["AIC", (r) => r.aic],
    ["BIC", (r) => r.bic],
  ];
  const scaled = difference?.scaled;
  const [tight, loose] = tighter === 1 ? [runs[1], runs[0]] : runs;
  return (
    <>
      <NumberTable
        title={`Fit of ${names[0]} and ${names[1]}`}
        columns={["fit", ...names]}
        rows={rows.map(([name, of]) => ({
          key: name,
          cells: [
            name,
            ...runs.map((run) => {
              const value = of(run);
              return value !== null && name === "degrees of freedom"
                ? { shown: String(value), value }
                : value;
            }),
          ],
        }))}
        note={
          difference && tighter !== null
            ? `If “${names[tighter]}” is a special case of the other: Δχ²(${difference.df}) = ${plain(difference.chi2, 2)}, ${pClause(difference.p)}${scaled ? `; scaled ${plain(scaled.chi2, 2)}, ${pClause(scaled.p)}` : ""}.${difference.reversed ? " It fits better than the other, so it is none, or one of the two is a local optimum." : ""}${difference.negativeScaling ? " The scaled difference does not exist (its scaling factor is negative)." : ""}`
            : "The two are not compared by a test: they have the same degrees of freedom, or other cases, variables or estimators."
        }
      />
      {difference && (
        <WorkingView
          working={differenceWorking(
            `${names[0]} and ${names[1]}`,
            difference,
            { tight, loose },
            tight.n,
          )}
          summary="Show the working of the difference"
        />
      )}
    </>
  );
}

function RunChoice({
  label,
  value,
  all,
  choose,
}: {
  label: string;
  value: string;
  all: Map<string, { name: string }>;
  choose: (id: string) => void;
}) {
  return (
    <Choice
      label={label}
      value={value}
      options={[...all].map(([id, { name }]) => ({ value: id, words: name }))}
      onChange={choose}
      sx={{ width: 260 }}
    />
  );
}

function SideBySide({
  a,
  b,
}: {
  a: { name: string; run: KeptRun };
  b: { name: string; run: KeptRun };
}) {
  const [all, setAll] = useState(false);
  const { differences, verdicts, effects, fit } = compareRuns(a.run, b.run);
  const shown = effects.filter((e) => all || e.changed);
  return (
    <>
      <p className="serif">
        {differences.length === 0
          ? "Nothing was done differently."
          : `Done differently: ${differences.join("; ")}.`}
      </p>
      {fit && <FitBesides names={[a.name, b.name]} fit={fit} />}
      <NumberTable
        title={`${a.name} and ${b.name}`}
        columns={["sentence or effect", a.name, b.name]}
        rows={[
          ...verdicts.map((v) => ({
            key: v.sentence,
            marked: v.changed,
            cells: [
              { shown: <span className="serif">{v.sentence}</span>, value: v.sentence },
              ...v.verdicts.map((verdict, k) =>
                verdict
                  ? {
                      shown: (
                        <>
                          <VerdictMark verdict={verdict} />{" "}
                          <CautionMark
                            hypothesis={{ label: v.labels[k]!, cautions: v.cautions[k]! }}
                          />
                        </>
                      ),
                      value: VERDICT_WORDS[verdict],
                    }
                  : "not stated",
              ),
            ],
          })),
          ...shown.map((e) => ({
            key: e.id,
            marked: e.changed,
            working: () => runEffectWorking(e, [a.name, b.name]),
            cells: [
              e.label,
              ...e.runs.map((r) =>
                r ? `${plain(r.estimate)} [${plain(r.lower)}, ${plain(r.upper)}]` : null,
              ),
            ],
          })),
        ]}
      />
      <Button variant="text" onClick={() => setAll(!all)}>
        {all ? "Only effects that change" : `All ${effects.length} effects`}
      </Button>
    </>
  );
}
