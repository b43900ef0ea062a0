import Button from "@mui/material/Button";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import { useState } from "react";
import { useFetcher } from "react-router";
import { compareRuns, keptRun, plain, type KeptRun } from "../../../core";
import type { StudyContext } from "../../analysis/use-study";
import type { StoredRun } from "../../storage/database";
import { download, fileName } from "../download";
import { CloseIcon } from "../icons";
import { VerdictMark } from "../verdict";
import { Wide } from "../wide";
import { TextInput } from "../ui/text-input";
import { Select } from "../ui/select";
import { Labelled, ScreenHead } from "../ui/layout";

interface Props {
  context: StudyContext;
  runs: StoredRun[];
}

/** Runs kept under a name, and two of them side by side with what differs. */
export function KeptRuns({ context, runs }: Props) {
  const { analysis, definition, study } = context;
  const fetcher = useFetcher({ key: `runs ${study.id}` });
  const [name, setName] = useState("");
  const [chosen, setChosen] = useState<[string, string] | null>(null);
  const now =
    analysis.evidence && !analysis.problem ? keptRun(analysis.evidence, definition) : null;
  const settled = analysis.status === "done" && now !== null;
  const act = (body: object): void =>
    void fetcher.submit(JSON.stringify(body), {
      method: "post",
      action: `/study/${study.id}/compare`,
      encType: "application/json",
    });
  const byId = new Map<string, { name: string; run: KeptRun }>([
    ...(now ? [["now", { name: "as it stands now", run: now }] as const] : []),
    ...runs.map((r) => [r.id, r] as const),
  ]);
  const [first, second] = chosen ?? [runs[0]?.id ?? "now", "now"];
  const [a, b] = [byId.get(first), byId.get(second)];
  return (
    <section aria-labelledby="kept-runs" className="kept-runs">
      <h2 id="kept-runs">Runs kept</h2>
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
          className="input run-name"
          aria-label="Name of the run"
          placeholder="with covariates, all rows"
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Button type="submit" disabled={!settled}>
          Keep this run
        </Button>
        {!settled && <span className="quiet">when the resamples are done</span>}
      </ScreenHead>
      {runs.length === 0 && (
        <p className="quiet">
          A kept run stays as it is while the study changes, so that both can be put side by side.
        </p>
      )}
      <ul className="run-list">
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
      </ul>
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
    </section>
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
    <Labelled>
      <span>{label}</span>
      <Select value={value} onChange={(e) => choose(e.target.value)}>
        {[...all].map(([id, { name }]) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </Select>
    </Labelled>
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
  const { differences, verdicts, effects } = compareRuns(a.run, b.run);
  const shown = effects.filter((e) => all || e.changed);
  return (
    <>
      <p className="serif">
        {differences.length === 0
          ? "Nothing was done differently."
          : `Done differently: ${differences.join("; ")}.`}
      </p>
      <Wide label="Two runs side by side">
        <Table className="numbers robustness">
          <TableHead>
            <TableRow>
              <TableCell scope="col">sentence or effect</TableCell>
              <TableCell scope="col">{a.name}</TableCell>
              <TableCell scope="col">{b.name}</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {verdicts.map((v) => (
              <TableRow key={v.sentence}>
                <TableCell className="serif">{v.sentence}</TableCell>
                {v.verdicts.map((verdict, i) => (
                  <TableCell key={i} className={v.changed ? "differs" : undefined}>
                    {verdict ? <VerdictMark verdict={verdict} /> : "not stated"}
                  </TableCell>
                ))}
              </TableRow>
            ))}
            {shown.map((e) => (
              <TableRow key={e.id}>
                <TableCell>{e.label}</TableCell>
                {e.runs.map((r, i) => (
                  <TableCell key={i} className={e.changed ? "differs" : undefined}>
                    {r ? `${plain(r.estimate)} [${plain(r.lower)}, ${plain(r.upper)}]` : "–"}
                  </TableCell>
                ))}
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </Wide>
      <Button variant="text" onClick={() => setAll(!all)}>
        {all ? "Only effects that change" : `All ${effects.length} effects`}
      </Button>
    </>
  );
}
