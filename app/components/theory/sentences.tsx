import { useState } from "react";
import type { Adjust, Complaint, EffectEvidence, Evidence, Hypothesis, HypothesisEvidence, Statement, Verb } from "../../../core";
import { plain, writeName } from "../../../core";
import { CloseIcon, PlusIcon } from "../icons";
import { IntervalBar, scaleOf, type Scale } from "../interval-bar";
import { VerdictMark } from "../verdict";
import { appendLine, newHypothesis, nextLabel, ref, replaceLine, rewrite } from "./edit-text";
import { MeasureLine, ModerationLine } from "./moderation-line";
import { Slot } from "./slot";

export interface SentenceProps {
  text: string;
  statements: Statement[];
  complaints: Complaint[];
  variables: string[];
  evidence: Evidence | null;
  change: (text: string) => void;
  focus: (hypothesis: HypothesisEvidence | null) => void;
}

/** The theory as sentences with slots, in the order of the text. */
export function Sentences(props: SentenceProps) {
  const { text, statements, complaints } = props;
  const lines = text.split("\n");
  const claimed = props.evidence?.effects.filter((e) => props.evidence!.hypotheses.some((h) => h.effects.includes(e.id))) ?? [];
  const scale = scaleOf(claimed);
  return (
    <div className="sentences">
      {lines.map((content, i) => {
        const line = i + 1;
        const statement = statements.find((s) => s.line === line);
        const faults = complaints.filter((c) => c.line === line);
        if (content.trim() === "") return null;
        const key = `${line}`;
        if (statement?.kind === "hypothesis" && faults.length === 0)
          return <HypothesisLine key={key} {...props} statement={statement} scale={scale} />;
        if (statement?.kind === "moderation" && faults.length === 0)
          return <ModerationLine key={key} {...props} statement={statement} scale={scale} />;
        if (statement?.kind === "measure" && faults.length === 0) return <MeasureLine key={key} measure={statement} />;
        if (statement?.kind === "adjust") return <AdjustLine key={key} {...props} statement={statement} />;
        return <RawLine key={key} content={content} faults={faults} change={(next) => props.change(replaceLine(text, line, next))} />;
      })}
      <NewHypothesis {...props} />
      <AddRow {...props} />
    </div>
  );
}

function HypothesisLine({
  text,
  statement,
  variables,
  evidence,
  change,
  focus,
  scale,
}: SentenceProps & { statement: Hypothesis; scale: Scale }) {
  const found = evidence?.hypotheses.find((h) => h.line === statement.line);
  const set = (patch: Partial<Hypothesis>): void => change(rewrite(text, { ...statement, ...patch }));
  const setChain = (c: number, m: number, name: string | null): void => {
    const chains = statement.chains.map((chain, i) =>
      i !== c ? chain : name === null ? chain.filter((_, j) => j !== m) : chain.map((r, j) => (j === m ? ref(name) : r)),
    );
    set({ chains: chains.filter((chain) => chain.length > 0), ...(chains.every((chain) => chain.length === 0) ? { only: false } : {}) });
  };
  const free = variables.filter(
    (v) => v !== statement.from.name && v !== statement.to.name && !statement.chains.flat().some((r) => r.name === v),
  );
  return (
    <section
      className="sentence"
      aria-label={`Hypothesis ${statement.label}`}
      onMouseEnter={() => focus(found ?? null)}
      onMouseLeave={() => focus(null)}
    >
      <span className="sentence-label serif">{statement.label}</span>
      <div>
        <p className="sentence-text serif">
          <Slot
            label="Who or what"
            placeholder="who or what"
            value={statement.from.name}
            options={variables}
            choose={(name) => set({ from: ref(name) })}
          />{" "}
          <VerbChoice verb={statement.verb} choose={(verb) => set({ verb })} />{" "}
          <Slot
            label="What is affected"
            placeholder="what"
            value={statement.to.name}
            options={variables}
            choose={(name) => set({ to: ref(name) })}
          />
          {statement.chains.map((chain, c) => (
            <span key={c}>
              {" "}
              {c === 0 ? (statement.only ? "only through" : "through") : "and"}{" "}
              {chain.map((mediator, m) => (
                <span key={m}>
                  {m > 0 && ", then "}
                  <Slot
                    label="Mediator"
                    placeholder="mediator"
                    value={mediator.name}
                    options={[mediator.name, ...free]}
                    choose={(name) => setChain(c, m, name)}
                    remove={() => setChain(c, m, null)}
                  />
                </span>
              ))}
            </span>
          ))}{" "}
          <AddMediator hypothesis={statement} free={free} set={set} />
        </p>
        <Reading found={found} evidence={evidence} scale={scale} />
      </div>
      <button
        type="button"
        className="button bare sentence-remove"
        aria-label={`Remove ${statement.label}`}
        onClick={() => change(replaceLine(text, statement.line, null))}
      >
        <CloseIcon />
      </button>
    </section>
  );
}

function VerbChoice({ verb, choose }: { verb: Verb; choose: (verb: Verb) => void }) {
  return (
    <select className="verb" aria-label="Direction" value={verb} onChange={(e) => choose(e.target.value as Verb)}>
      <option>raises</option>
      <option>lowers</option>
      <option>affects</option>
    </select>
  );
}

function AddMediator({ hypothesis, free, set }: { hypothesis: Hypothesis; free: string[]; set: (patch: Partial<Hypothesis>) => void }) {
  const { chains } = hypothesis;
  if (chains.length === 0)
    return <Slot label="Mediator" placeholder="through …" value={null} options={free} choose={(name) => set({ chains: [[ref(name)]] })} />;
  const last = chains.length - 1;
  return (
    <span className="sentence-more">
      <Slot
        label="Next mediator in series"
        placeholder="then …"
        value={null}
        options={free}
        choose={(name) => set({ chains: chains.map((c, i) => (i === last ? [...c, ref(name)] : c)) })}
      />{" "}
      <Slot
        label="Another mediator beside it"
        placeholder="and …"
        value={null}
        options={free}
        choose={(name) => set({ chains: [...chains, [ref(name)]] })}
      />
    </span>
  );
}

export function Reading({ found, evidence, scale }: { found: HypothesisEvidence | undefined; evidence: Evidence | null; scale: Scale }) {
  if (!found || !evidence) return <p className="reading quiet">not estimated yet</p>;
  const effects = found.effects.map((id) => evidence.effects.find((e) => e.id === id)).filter((e): e is EffectEvidence => e !== undefined);
  return (
    <div className="reading" title={found.reason}>
      <VerdictMark verdict={found.verdict} />
      {effects.length === 1 ? (
        <IntervalBar effect={effects[0]!} scale={scale} width={104} unsettled={found.verdict === "unsettled"} />
      ) : (
        <span />
      )}
      <span className="quiet">
        {effects.length === 1 ? `${briefly(found.quantity)} ${plain(effects[0]!.estimate)}` : briefly(found.quantity)}
      </span>
    </div>
  );
}

/** “indirect effect” as “indirect”: beside a sentence there is little room. */
const briefly = (quantity: string): string => quantity.replace(/ effects?$/, "").replace("index of moderated mediation", "index");

function AdjustLine({ text, statement, variables, change }: SentenceProps & { statement: Adjust }) {
  const set = (patch: Partial<Adjust>): void => {
    const next = { ...statement, ...patch };
    const empty = next.outcomes.length === 0 || next.covariates.length === 0;
    change(empty ? replaceLine(text, statement.line, null) : rewrite(text, next));
  };
  const listed = (key: "outcomes" | "covariates", label: string) => (
    <>
      {statement[key].map((r, i) => (
        <span key={r.name}>
          {i > 0 && ", "}
          <Slot
            label={label}
            placeholder="…"
            value={r.name}
            options={variables}
            choose={(name) => set({ [key]: statement[key].map((other, j) => (j === i ? ref(name) : other)) })}
            remove={() => set({ [key]: statement[key].filter((_, j) => j !== i) })}
          />
        </span>
      ))}{" "}
      <Slot
        label={label}
        placeholder="+"
        value={null}
        options={variables.filter((v) => !statement[key].some((r) => r.name === v))}
        choose={(name) => set({ [key]: [...statement[key], ref(name)] })}
      />
    </>
  );
  return (
    <section className="sentence minor" aria-label="Adjustment">
      <span />
      <p>
        adjusting {listed("outcomes", "Adjusted variable")} for {listed("covariates", "Covariate")}
      </p>
      <button
        type="button"
        className="button bare sentence-remove"
        aria-label="Remove the adjustment"
        onClick={() => change(replaceLine(text, statement.line, null))}
      >
        <CloseIcon />
      </button>
    </section>
  );
}

/** Any other line, as text; faults stand beneath it with a way to mend them. */
function RawLine({ content, faults, change }: { content: string; faults: Complaint[]; change: (line: string | null) => void }) {
  return (
    <section className={faults.length > 0 ? "sentence minor faulty" : "sentence minor"} aria-label={content}>
      <span />
      <div>
        <input
          className="raw-line"
          aria-label="Sentence as text"
          aria-invalid={faults.length > 0}
          value={content}
          onChange={(e) => change(e.target.value)}
        />
        {faults.map((fault) => (
          <Fault key={fault.message} fault={fault} content={content} change={change} />
        ))}
      </div>
      <button type="button" className="button bare sentence-remove" aria-label="Remove this line" onClick={() => change(null)}>
        <CloseIcon />
      </button>
    </section>
  );
}

export function Fault({ fault, content, change }: { fault: Complaint; content: string; change: (line: string) => void }) {
  const mended = fault.suggestion
    ? content.slice(0, fault.column - 1) + fault.suggestion + content.slice(fault.column - 1 + fault.length)
    : null;
  return (
    <p className="fault">
      ◆ Line {fault.line}, column {fault.column}: {fault.message}{" "}
      {mended !== null && (
        <button type="button" className="button" onClick={() => change(mended)}>
          Write “{fault.suggestion}”
        </button>
      )}
    </p>
  );
}

function NewHypothesis({ text, statements, variables, change }: SentenceProps) {
  const [from, setFrom] = useState<string | null>(null);
  return (
    <section className="sentence new" aria-label="New hypothesis">
      <span className="sentence-label serif">{nextLabel(statements)}</span>
      <p className="sentence-text serif">
        <Slot label="Who or what" placeholder="who or what" value={from} options={variables} choose={setFrom} /> raises{" "}
        <Slot
          label="What is affected"
          placeholder="what?"
          value={null}
          options={variables.filter((v) => v !== from)}
          choose={(to) => {
            if (!from) return;
            change(appendLine(text, newHypothesis(statements, from, to)));
            setFrom(null);
          }}
        />
      </p>
    </section>
  );
}

function AddRow({ text, statements, variables, evidence, change }: SentenceProps) {
  const explained = evidence ? [...evidence.roles.mediators, ...evidence.roles.outcomes] : [];
  const unused = variables.filter((v) => !statements.some((s) => JSON.stringify(s).includes(JSON.stringify(v))));
  const labels = statements.flatMap((s) => (s.kind === "hypothesis" ? [s.label] : []));
  const step = evidence?.paths.find((p) => p.moderators.length === 0) ?? evidence?.paths[0];
  const moderator = step && (unused.find((v) => v !== step.from && v !== step.to) ?? null);
  const add = (line: string) => () => change(appendLine(text, line));
  return (
    <p className="add-row">
      {explained.length > 0 && unused.length > 0 && (
        <button
          type="button"
          className="button bare"
          onClick={add(`adjust ${explained.map(writeName).join(", ")} for ${writeName(unused[0]!)}`)}
        >
          <PlusIcon /> covariates
        </button>
      )}
      {step && moderator && (
        <button
          type="button"
          className="button bare"
          onClick={add(`${nextLabel(statements)}: ${writeName(moderator)} alters ${writeName(step.from)} to ${writeName(step.to)}`)}
        >
          <PlusIcon /> moderator
        </button>
      )}
      {labels.length > 1 && (
        <button type="button" className="button bare" onClick={add(`contrast ${labels[0]} with ${labels[1]}`)}>
          <PlusIcon /> contrast
        </button>
      )}
      {labels.length > 0 && (
        <button type="button" className="button bare" onClick={add(`define quantity as ${labels.slice(0, 2).join(" / ")}`)}>
          <PlusIcon /> own quantity
        </button>
      )}
    </p>
  );
}
