import { useState } from "react";
import { useFetcher } from "react-router";
import { compareRuns, keptRun, plain, type KeptRun } from "../../../core";
import type { StudyContext } from "../../analysis/use-study";
import type { StoredRun } from "../../storage/database";
import { download, fileName } from "../download";
import { CloseIcon } from "../icons";
import { VerdictMark } from "../verdict";
import { Wide } from "../wide";

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
      <form
        className="screen-head"
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
        <input
          className="input run-name"
          aria-label="Name of the run"
          placeholder="with covariates, all rows"
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <button type="submit" className="button" disabled={!settled}>
          Keep this run
        </button>
        {!settled && <span className="quiet">when the resamples are done</span>}
      </form>
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
              <button
                type="button"
                className="button bare"
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
              </button>
            )}
            <button
              type="button"
              className="button bare"
              aria-label={`Remove the run ${r.name}`}
              onClick={() => act({ intent: "remove", id: r.id })}
            >
              <CloseIcon />
            </button>
          </li>
        ))}
      </ul>
      {runs.length > 0 && (
        <div className="screen-head">
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
        </div>
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
    <label className="field">
      <span>{label}</span>
      <select value={value} onChange={(e) => choose(e.target.value)}>
        {[...all].map(([id, { name }]) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
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
        <table className="numbers robustness">
          <thead>
            <tr>
              <th scope="col">sentence or effect</th>
              <th scope="col">{a.name}</th>
              <th scope="col">{b.name}</th>
            </tr>
          </thead>
          <tbody>
            {verdicts.map((v) => (
              <tr key={v.sentence}>
                <td className="serif">{v.sentence}</td>
                {v.verdicts.map((verdict, i) => (
                  <td key={i} className={v.changed ? "differs" : undefined}>
                    {verdict ? <VerdictMark verdict={verdict} /> : "not stated"}
                  </td>
                ))}
              </tr>
            ))}
            {shown.map((e) => (
              <tr key={e.id}>
                <td>{e.label}</td>
                {e.runs.map((r, i) => (
                  <td key={i} className={e.changed ? "differs" : undefined}>
                    {r ? `${plain(r.estimate)} [${plain(r.lower)}, ${plain(r.upper)}]` : "–"}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
      <button type="button" className="button bare" onClick={() => setAll(!all)}>
        {all ? "Only effects that change" : `All ${effects.length} effects`}
      </button>
    </>
  );
}
