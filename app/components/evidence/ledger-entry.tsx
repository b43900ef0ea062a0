import { useState } from "react";
import {
  INTERVAL_WORDS,
  percent,
  plain,
  pClause,
  pValue,
  unitWords,
  type EffectEvidence,
  type Evidence,
  type HypothesisEvidence,
} from "../../../core";
import { IntervalBar, type Scale } from "../interval-bar";
import { VerdictMark } from "../verdict";

interface Props {
  hypothesis: HypothesisEvidence;
  evidence: Evidence;
  scale: Scale;
  open: boolean;
  toggle: () => void;
}

/** One hypothesis: sentence, quantity, interval to scale, verdict; opened, its reason, parts and the sentence for the paper. */
export function LedgerEntry({ hypothesis, evidence, scale, open, toggle }: Props) {
  const effects = hypothesis.effects
    .map((id) => evidence.effects.find((e) => e.id === id))
    .filter((e): e is EffectEvidence => e !== undefined);
  const [only] = effects;
  const single = effects.length === 1;
  return (
    <article className={open ? "entry open" : "entry"}>
      <h2>
        <button type="button" aria-expanded={open} onClick={toggle}>
          <span className="entry-label">{hypothesis.label}</span>
          <span className="entry-sentence">{hypothesis.sentence}</span>
          <span className="entry-quantity quiet">
            {hypothesis.quantity} {single && only && <strong>{plain(only.estimate)}</strong>}
          </span>
          <span className="entry-bar">
            {single && only && <IntervalBar effect={only} scale={scale} width={130} unsettled={hypothesis.verdict === "unsettled"} />}
          </span>
          <VerdictMark verdict={hypothesis.verdict} />
        </button>
      </h2>
      {open && (
        <div className="entry-body">
          <p>{hypothesis.reason}</p>
          {hypothesis.pattern && <p>{hypothesis.pattern.words}</p>}
          <EffectRows
            effects={[...effects, ...hypothesis.components.map((id) => evidence.effects.find((e) => e.id === id)!).filter(Boolean)]}
            claimed={effects.length}
            evidence={evidence}
          />
          <TotalCheck hypothesis={hypothesis} evidence={evidence} />
          {single && only && <Methods effect={only} evidence={evidence} />}
          <Quote text={hypothesis.report} />
        </div>
      )}
    </article>
  );
}

/** Estimate, SE, interval and p in one row: the claim first, then its parts. */
function EffectRows({ effects, claimed, evidence }: { effects: EffectEvidence[]; claimed: number; evidence: Evidence }) {
  return (
    <table className="numbers">
      <caption className="visually-hidden">The claimed effect and its parts, {unitWords(evidence.settings)}</caption>
      <thead>
        <tr>
          <th scope="col">effect ({unitWords(evidence.settings)})</th>
          <th scope="col">estimate</th>
          <th scope="col">SE</th>
          <th scope="col">{percent(effects[0]?.shown.level ?? evidence.settings.level)} % CI</th>
          <th scope="col">p</th>
        </tr>
      </thead>
      <tbody>
        {effects.map((e, i) => (
          <tr key={`${e.id} ${i}`}>
            <td className={i >= claimed ? "part" : undefined}>
              {i >= claimed && <span className="quiet">{e.kind === "direct" ? "path " : ""}</span>}
              {e.label}
            </td>
            <td>{plain(e.estimate)}</td>
            <td>{plain(e.shown.se)}</td>
            <td>
              {plain(e.shown.lower)}, {plain(e.shown.upper)}
            </td>
            <td>{pValue(e.shown.p, e.shown.pIsBound)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The classical check: the effect without the mediators is the direct plus everything indirect. */
function TotalCheck({ hypothesis, evidence }: { hypothesis: HypothesisEvidence; evidence: Evidence }) {
  const find = (id: string): EffectEvidence | undefined => evidence.effects.find((e) => e.id === id);
  const total = find(`total ${hypothesis.from} > ${hypothesis.to}`);
  const direct = find(`direct ${hypothesis.from} > ${hypothesis.to}`);
  const indirect =
    find(`total indirect ${hypothesis.from} > ${hypothesis.to}`) ??
    evidence.effects.find((e) => e.kind === "specific_indirect" && e.from === hypothesis.from && e.to === hypothesis.to);
  if (hypothesis.chains.length === 0 || !total || !direct || !indirect) return null;
  const test = total.reduced?.tests[evidence.settings.errors];
  return (
    <p className="quiet">
      Total {plain(total.estimate, 4)} = direct {plain(direct.estimate, 4)} + indirect {plain(indirect.estimate, 4)}.{" "}
      {test
        ? `${hypothesis.from} alone, without the mediators (same covariates): ${plain(total.estimate)}, SE ${plain(test.se)}, t = ${plain(test.t, 2)}, ${pClause(test.p)}.`
        : "Not every equation holds the same predictors and covariates, so the total is the sum of the paths, not the slope of one regression."}
    </p>
  );
}

/** Every interval method for the one effect, with the Monte Carlo error of each limit. */
function Methods({ effect, evidence }: { effect: EffectEvidence; evidence: Evidence }) {
  const { settings } = evidence;
  const delta = effect.delta[settings.crossEquations][settings.errors];
  const boot = effect.bootstrap;
  const twoPath = effect.twoPath;
  const rows: [string, number | null | undefined, number | null | undefined, string, string][] = [];
  if (boot) {
    for (const key of ["bca", "bc", "percentile"] as const) {
      const i = boot[key];
      rows.push([
        INTERVAL_WORDS[key]!,
        i?.lower,
        i?.upper,
        i ? pValue(i.pTwoSided, i.pIsBound) : "not available",
        i ? `± ${plain(Math.max(i.mcseLower, i.mcseUpper), 4)}` : "",
      ]);
    }
  }
  for (const key of ["bootstrapT", "basic", "normal"] as const) {
    const limits = boot?.[key];
    if (limits) rows.push([INTERVAL_WORDS[key === "bootstrapT" ? "bootstrap_t" : key]!, limits.lower, limits.upper, "", ""]);
  }
  if (effect.monteCarlo) rows.push(["Monte Carlo", effect.monteCarlo.lower, effect.monteCarlo.upper, "", ""]);
  if (delta) rows.push([`delta method, ${settings.errors}`, delta.lower, delta.upper, pValue(delta.p), ""]);
  const joint = effect.jointSignificance?.[settings.errors];
  return (
    <details className="methods">
      <summary>Other interval methods and tests</summary>
      <table className="numbers">
        <caption className="visually-hidden">Interval methods</caption>
        <thead>
          <tr>
            <th scope="col">method</th>
            <th scope="col">lower</th>
            <th scope="col">upper</th>
            <th scope="col">p</th>
            <th scope="col">another seed moves an end by</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, lower, upper, p, mcse]) => (
            <tr key={name}>
              <td>{name}</td>
              <td>{plain(lower, 4)}</td>
              <td>{plain(upper, 4)}</td>
              <td>{p}</td>
              <td>{mcse}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {twoPath && (
        <p className="quiet">
          Sobel z = {plain(twoPath.sobel.z, 2)} (p {pValue(twoPath.sobel.p)}), Aroian z = {plain(twoPath.aroian.z, 2)}, Goodman z ={" "}
          {plain(twoPath.goodman?.z, 2)}; classical errors.
        </p>
      )}
      {joint && (
        <p className="quiet">
          Joint significance of the steps: largest p {pValue(joint.p)},{" "}
          {joint.significant ? "every step differs from zero" : "not every step differs from zero"}.
        </p>
      )}
    </details>
  );
}

function Quote({ text }: { text: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <blockquote className="quote serif">
      {text}{" "}
      <button
        type="button"
        className="button"
        onClick={() => {
          void navigator.clipboard.writeText(text).then(() => {
            setCopied(true);
            setTimeout(() => setCopied(false), 1500);
          });
        }}
      >
        {copied ? "Copied" : "Copy"}
      </button>
    </blockquote>
  );
}
