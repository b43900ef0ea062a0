import Button from "@mui/material/Button";
import ButtonBase from "@mui/material/ButtonBase";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import { useState } from "react";
import {
  errorsName,
  INTERVAL_WORDS,
  intervalName,
  percent,
  plain,
  pClause,
  pValue,
  referenceName,
  unitWords,
  type ClaimTest,
  type EffectEvidence,
  type Evidence,
  type HypothesisEvidence,
} from "../../../core";
import { IntervalBar, type Scale } from "../interval-bar";
import { Pairwise } from "./pairwise";
import { ZeroCrossing } from "./zero-crossing";
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
  const { claim } = hypothesis;
  return (
    <article className={open ? "entry open" : "entry"}>
      <h2>
        <ButtonBase aria-expanded={open} onClick={toggle}>
          <span className="entry-label">{hypothesis.label}</span>
          <span className="entry-sentence">{hypothesis.sentence}</span>
          <span className="entry-quantity quiet">
            {hypothesis.quantity}{" "}
            {claim && claim.estimate !== null && <strong>{plain(claim.estimate)}</strong>}
          </span>
          <span className="entry-bar">
            {claim && (
              <IntervalBar
                interval={claim}
                scale={scale}
                width={130}
                unsettled={hypothesis.verdict === "unsettled"}
              />
            )}
          </span>
          <VerdictMark verdict={hypothesis.verdict} />
        </ButtonBase>
      </h2>
      {open && (
        <div className="entry-body">
          <p>{hypothesis.reason}</p>
          {hypothesis.pattern && <p>{hypothesis.pattern.words}</p>}
          {hypothesis.moderators.length > 0 && (
            <ZeroCrossing hypothesis={hypothesis} evidence={evidence} />
          )}
          <EffectRows
            claim={single ? claim : null}
            effects={[
              ...effects,
              ...hypothesis.components
                .map((id) => evidence.effects.find((e) => e.id === id)!)
                .filter(Boolean),
            ]}
            claimed={effects.length}
            evidence={evidence}
          />
          <Pairwise hypothesis={hypothesis} evidence={evidence} />
          <TotalCheck hypothesis={hypothesis} evidence={evidence} />
          {single && only && <Methods effect={only} evidence={evidence} />}
          <Quote text={hypothesis.report} />
        </div>
      )}
    </article>
  );
}

/** Estimate, SE, interval and p in one row: the claim first, then its parts. */
function EffectRows({
  effects,
  claimed,
  claim,
  evidence,
}: {
  effects: EffectEvidence[];
  claimed: number;
  /** The one claimed effect's own test, which may have one tail. */
  claim: ClaimTest | null;
  evidence: Evidence;
}) {
  const oneTailed = claim?.tail === "one";
  return (
    <Table>
      <caption className="visually-hidden">
        The claimed effect and its parts, {unitWords(evidence.settings)}
      </caption>
      <TableHead>
        <TableRow>
          <TableCell scope="col">effect ({unitWords(evidence.settings)})</TableCell>
          <TableCell scope="col">estimate</TableCell>
          <TableCell scope="col">SE</TableCell>
          <TableCell scope="col">{percent(evidence.settings.level)} % CI</TableCell>
          <TableCell scope="col">p, two-tailed</TableCell>
          <TableCell scope="col">rests on</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {oneTailed && (
          <TableRow>
            <TableCell>claimed, one-tailed: {effects[0]!.label}</TableCell>
            <TableCell>{plain(claim.estimate)}</TableCell>
            <TableCell>{plain(claim.se)}</TableCell>
            <TableCell>
              {claim.lower !== null ? `above ${plain(claim.lower)}` : `below ${plain(claim.upper)}`}
            </TableCell>
            <TableCell>{pValue(claim.p, claim.pIsBound)} (one-tailed)</TableCell>
            <TableCell>{referenceName(claim)}</TableCell>
          </TableRow>
        )}
        {effects.map((e, i) => (
          <TableRow key={`${e.id} ${i}`}>
            <TableCell className={i >= claimed ? "part" : undefined}>
              {i >= claimed && <span className="quiet">{e.kind === "direct" ? "path " : ""}</span>}
              {e.label}
            </TableCell>
            {e.shown ? (
              <>
                <TableCell>{plain(e.estimate)}</TableCell>
                <TableCell>{plain(e.shown.se)}</TableCell>
                <TableCell>
                  {plain(e.shown.lower)}, {plain(e.shown.upper)}
                </TableCell>
                <TableCell>{pValue(e.shown.p, e.shown.pIsBound)}</TableCell>
                <TableCell>{referenceName(e.shown)}</TableCell>
              </>
            ) : (
              <TableCell colSpan={5} className="quiet">
                {e.withheld}
              </TableCell>
            )}
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}

/** The classical check: the effect without the mediators is the direct plus everything indirect. */
function TotalCheck({
  hypothesis,
  evidence,
}: {
  hypothesis: HypothesisEvidence;
  evidence: Evidence;
}) {
  const find = (id: string): EffectEvidence | undefined =>
    evidence.effects.find((e) => e.id === id);
  const total = find(`total ${hypothesis.from} > ${hypothesis.to}`);
  const direct = find(`direct ${hypothesis.from} > ${hypothesis.to}`);
  const indirect =
    find(`total indirect ${hypothesis.from} > ${hypothesis.to}`) ??
    evidence.effects.find(
      (e) => e.kind === "specific_indirect" && e.from === hypothesis.from && e.to === hypothesis.to,
    );
  if (hypothesis.chains.length === 0 || !total || !direct || !indirect) return null;
  const test = total.reduced?.tests[evidence.errors];
  return (
    <p className="quiet">
      Total {plain(total.estimate, 4)} = direct {plain(direct.estimate, 4)} + indirect{" "}
      {plain(indirect.estimate, 4)}.{" "}
      {test
        ? `${hypothesis.from} alone, without the mediators (same covariates): ${plain(total.estimate)}, SE ${plain(test.se)}, t = ${plain(test.t, 2)}, ${pClause(test.p)}.`
        : "Not every equation holds the same predictors and covariates, so the total is the sum of the paths, not the slope of one regression."}
    </p>
  );
}

const BOOTSTRAPS = [
  ["bca", "bca"],
  ["bc", "bc"],
  ["percentile", "percentile"],
  ["bootstrapT", "bootstrap_t"],
  ["basic", "basic"],
  ["normal", "normal"],
] as const;

/** Every interval method for the one effect, with the Monte Carlo error of each limit. */
function Methods({ effect, evidence }: { effect: EffectEvidence; evidence: Evidence }) {
  const { settings } = evidence;
  const delta = effect.delta[settings.crossEquations][evidence.errors];
  const boot = effect.bootstrap;
  const twoPath = effect.twoPath;
  const rows: [string, number | null | undefined, number | null | undefined, string, string][] = [];
  if (boot) {
    for (const [key, name] of BOOTSTRAPS) {
      const i = boot[key];
      if (!i && key === "bootstrapT") continue;
      rows.push([
        INTERVAL_WORDS[name]!,
        i?.lower,
        i?.upper,
        i ? pValue(i.pTwoSided, i.pIsBound) : "not available",
        i ? `± ${plain(Math.max(i.mcseLower, i.mcseUpper), 4)}` : "",
      ]);
    }
  }
  const drawn = effect.monteCarlo;
  if (drawn)
    rows.push([
      "Monte Carlo",
      drawn.lower,
      drawn.upper,
      pValue(drawn.pTwoSided, drawn.pIsBound),
      `± ${plain(Math.max(drawn.mcseLower, drawn.mcseUpper), 4)}`,
    ]);
  const errors = errorsName(evidence.errors);
  // A single coefficient has its t test; z is for products and functions across equations.
  if (effect.shown?.reference === "t")
    rows.push([
      `${intervalName(effect.shown)}, ${errors}`,
      effect.shown.lower,
      effect.shown.upper,
      pValue(effect.shown.p),
      "",
    ]);
  else if (delta && effect.twoPath)
    rows.push([`delta method (z), ${errors}`, delta.lower, delta.upper, pValue(delta.p), ""]);
  const joint = effect.jointSignificance?.[evidence.errors];
  return (
    <details className="methods">
      <summary>Other interval methods and tests</summary>
      <Table>
        <caption className="visually-hidden">Interval methods</caption>
        <TableHead>
          <TableRow>
            <TableCell scope="col">method</TableCell>
            <TableCell scope="col">lower</TableCell>
            <TableCell scope="col">upper</TableCell>
            <TableCell scope="col">p</TableCell>
            <TableCell scope="col">another seed moves an end by</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map(([name, lower, upper, p, mcse]) => (
            <TableRow key={name}>
              <TableCell>{name}</TableCell>
              <TableCell>{plain(lower, 4)}</TableCell>
              <TableCell>{plain(upper, 4)}</TableCell>
              <TableCell>{p}</TableCell>
              <TableCell>{mcse}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {twoPath && settings.cluster === null && (
        <p className="quiet">
          Sobel z = {plain(twoPath.sobel.z, 2)} (p {pValue(twoPath.sobel.p)}), Aroian z ={" "}
          {plain(twoPath.aroian.z, 2)}, Goodman z = {plain(twoPath.goodman?.z, 2)}; classical
          errors.
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
      <Button
        onClick={() => {
          void navigator.clipboard.writeText(text).then(() => {
            setCopied(true);
            setTimeout(() => setCopied(false), 1500);
          });
        }}
      >
        {copied ? "Copied" : "Copy"}
      </Button>
    </blockquote>
  );
}
