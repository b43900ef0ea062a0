import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import ButtonBase from "@mui/material/ButtonBase";
import { styled } from "@mui/material/styles";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import {
  effectWorking,
  equationsOf,
  percent,
  plain,
  pClause,
  pValue,
  referenceName,
  onScale,
  unitWords,
  type ClaimTest,
  type EffectEvidence,
  type Evidence,
  type HypothesisEvidence,
} from "../../../core";
import { IntervalBar, type Scale } from "../interval-bar";
import { NumberTable, type Cell, type TableRowSpec } from "../ui/number-table";
import { Methods } from "./methods";
import { Pairwise } from "./pairwise";
import { Steps } from "./steps";
import { ZeroCrossing } from "./zero-crossing";
import { CautionMark, Cautions } from "../cautions";
import { VerdictMark } from "../verdict";
import { WorkingView } from "../ui/working-view";
import { limitsPair } from "../structure/cells";
import { copyText } from "../ui/clipboard";
import { useTaking } from "../ui/numbers-of-before";

interface Props {
  hypothesis: HypothesisEvidence;
  evidence: Evidence;
  scale: Scale;
  open: boolean;
  toggle: () => void;
}

const Entry = styled("article")({ borderBottom: "1px solid var(--line)" });

const Head = styled(ButtonBase)({
  width: "100%",
  display: "grid",
  gridTemplateColumns: "40px minmax(0, 1fr) 150px 134px 146px",
  gap: 6,
  alignItems: "center",
  justifyItems: "start",
  textAlign: "left",
  padding: "13px 0",
  font: "inherit",
  "&:hover .sentence": { color: "var(--petrol)" },
  "& strong": { color: "var(--ink)" },
  "@media (max-width: 1100px)": {
    gridTemplateColumns: "36px minmax(0, 1fr) 140px 128px",
    "& .bar": { display: "none" },
  },
  "@media (max-width: 640px)": {
    gridTemplateColumns: "32px minmax(0, 1fr)",
    "& > :nth-of-type(n + 3)": { gridColumn: 2 },
  },
});

const Body = styled("div")({
  display: "grid",
  gridTemplateColumns: "minmax(0, 1fr)",
  gap: 10,
  padding: "0 0 16px 46px",
  "& > p": { maxWidth: "75ch" },
  "@media (max-width: 640px)": { paddingLeft: 0 },
});

/**
 * One hypothesis: sentence, quantity, interval to scale, verdict; opened, its reason, parts and the
 * sentence for the paper.
 */
export function LedgerEntry({ hypothesis, evidence, scale, open, toggle }: Props) {
  const effects = hypothesis.effects
    .map((id) => evidence.effects.find((e) => e.id === id))
    .filter((e): e is EffectEvidence => e !== undefined);
  const [only] = effects;
  const single = effects.length === 1;
  const { claim } = hypothesis;
  return (
    <Entry>
      <Typography variant="h2" sx={{ fontSize: "1.2rem" }}>
        <Head aria-expanded={open} onClick={toggle}>
          <span className="quiet">{hypothesis.label}</span>
          <Box component="span" className="sentence" sx={{ fontSize: "1.08rem" }}>
            {hypothesis.sentence}
          </Box>
          <Box component="span" className="quiet" sx={{ font: "400 14px var(--sans)" }}>
            {hypothesis.quantity}{" "}
            {claim && claim.estimate !== null && <strong>{plain(claim.estimate)}</strong>}
          </Box>
          <span className="bar">
            {claim && (
              <IntervalBar
                interval={claim}
                scale={scale}
                width={130}
                unsettled={hypothesis.verdict === "unsettled"}
              />
            )}
          </span>
          <Box component="span" sx={{ fontFamily: "var(--sans)" }}>
            <VerdictMark verdict={hypothesis.verdict} />
            <Box component="span" sx={{ display: "block" }}>
              <CautionMark hypothesis={hypothesis} />
            </Box>
          </Box>
        </Head>
      </Typography>
      {open && (
        <Body>
          <p>{hypothesis.reason}</p>
          <Cautions hypothesis={hypothesis} />
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
          {hypothesis.size && <p>{hypothesis.size}</p>}
          <Pairwise hypothesis={hypothesis} evidence={evidence} />
          <TotalCheck hypothesis={hypothesis} evidence={evidence} />
          <Steps hypothesis={hypothesis} evidence={evidence} />
          {single && only && <Methods effect={only} evidence={evidence} />}
          {single && only && <WorkingView working={effectWorking(only, evidence)} />}
          <Quote text={hypothesis.report} />
        </Body>
      )}
    </Entry>
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
    <NumberTable
      title={`The claimed effect and its parts, ${unitWords(evidence)}`}
      columns={[
        `effect (${unitWords(evidence)})`,
        "estimate",
        "SE",
        `${percent(evidence.settings.level)} % CI`,
        "p, two-tailed",
        "rests on",
      ]}
      rows={[
        ...(oneTailed ? [oneTailedRow(claim, effects[0]!.label)] : []),
        ...effects.map((e, i) => ({
          key: `${e.id} ${i}`,
          working: () => effectWorking(e, evidence),
          cells: effectCells(e, i >= claimed),
        })),
      ]}
    />
  );
}

const oneTailedRow = (claim: ClaimTest, label: string): TableRowSpec => ({
  key: "one-tailed",
  cells: [
    `claimed, one-tailed: ${label}`,
    claim.estimate,
    claim.se,
    claim.lower !== null ? `above ${plain(claim.lower)}` : `below ${plain(claim.upper)}`,
    { shown: `${pValue(claim.p, claim.pIsBound)} (one-tailed)`, value: claim.p },
    referenceName(claim),
  ],
});

/** Estimate, SE, interval and p; a part of the claimed effect is set in. */
function effectCells(e: EffectEvidence, part: boolean): Cell[] {
  const words = `${part && e.kind === "direct" ? "path " : ""}${e.label}${onScale(e)}`;
  const name: Cell = {
    shown: <span style={{ paddingLeft: part ? 14 : 0 }}>{words}</span>,
    value: words,
  };
  if (!e.shown) return [name, { shown: e.withheld, value: e.withheld, span: 5 }];
  return [
    name,
    e.estimate,
    e.shown.se,
    limitsPair(e.shown.lower, e.shown.upper),
    { shown: pValue(e.shown.p, e.shown.pIsBound), value: e.shown.p },
    referenceName(e.shown),
  ];
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
  const single = equationsOf(evidence).length > 0;
  const test = total.reduced?.tests[evidence.errors];
  return (
    <p className="quiet">
      Total {plain(total.estimate, 4)} = direct {plain(direct.estimate, 4)} + indirect{" "}
      {plain(indirect.estimate, 4)}.{" "}
      {!single
        ? ""
        : test
          ? `${hypothesis.from} alone, without the mediators (same covariates): ${plain(total.estimate)}, SE ${plain(test.se)}, t = ${plain(test.t, 2)}, ${pClause(test.p)}.`
          : "Not every equation holds the same predictors and covariates, so the total is the sum of the paths, not the slope of one regression."}
    </p>
  );
}

function Quote({ text }: { text: string }) {
  const [copied, setCopied] = useState(false);
  const taking = useTaking();
  return (
    <Box
      component="blockquote"
      sx={{
        m: 0,
        borderLeft: "3px solid var(--petrol)",
        p: "4px 14px",
        fontFamily: "var(--serif)",
        fontStyle: "italic",
        maxWidth: "80ch",
      }}
    >
      {text}{" "}
      <Button
        size="small"
        {...taking}
        onClick={() => {
          void copyText(text).then(() => {
            setCopied(true);
            setTimeout(() => setCopied(false), 1500);
          });
        }}
      >
        {copied ? "Copied" : "Copy"}
      </Button>
    </Box>
  );
}
