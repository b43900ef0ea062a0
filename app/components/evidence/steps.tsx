import Typography from "@mui/material/Typography";
import Stack from "@mui/material/Stack";
import {
  dfWords,
  equationsOf,
  percent,
  plain,
  pValue,
  type EffectEvidence,
  type Evidence,
  type HypothesisEvidence,
} from "../../../core";
import { Disclosure } from "../ui/disclosure";
import { NumberTable } from "../ui/number-table";
import { EquationTable } from "./equation-table";
import { limitsPair } from "../structure/cells";

interface Props {
  hypothesis: HypothesisEvidence;
  evidence: Evidence;
}

/**
 * The classical way to a mediation: predictor to mediator, both to the outcome, and the predictor
 * alone.
 */
export function Steps({ hypothesis: { from, to, chains }, evidence }: Props) {
  const mediators = [...new Set(chains.flat())];
  if (mediators.length === 0) return null;
  const equations = [...mediators, to].flatMap((outcome, i) => {
    const equation = equationsOf(evidence).find((e) => e.outcome === outcome);
    return equation ? [{ equation, step: i + 1 }] : [];
  });
  if (equations.length === 0) return null;
  const total = evidence.effects.find((e) => e.id === `total ${from} > ${to}`);
  return (
    <Disclosure summary="The steps, one regression at a time">
      <Stack spacing={2}>
        {equations.map(({ equation, step }) => (
          <EquationTable
            key={equation.outcome}
            equation={equation}
            evidence={evidence}
            highlight={step === 1 ? from : (mediators[step - 2] ?? null)}
            heading={
              <Typography variant="h3" component="h3">
                Step {step}: {equation.outcome}
              </Typography>
            }
          />
        ))}
        {total?.reduced && (
          <Alone
            total={total}
            evidence={evidence}
            step={equations.length + 1}
            from={from}
            to={to}
          />
        )}
      </Stack>
    </Disclosure>
  );
}

interface AloneProps {
  total: EffectEvidence;
  evidence: Evidence;
  step: number;
  from: string;
  to: string;
}

/** The regression without the mediators, whose slope is the total effect. */
function Alone({ total, evidence, step, from, to }: AloneProps) {
  const test = total.reduced!.tests[evidence.errors];
  const others = total.reduced!.terms.filter((term) => term !== from);
  return (
    <NumberTable
      title={`${from} alone on ${to}`}
      heading={
        <Typography variant="h3" component="h3">
          Step {step}: {from} alone
        </Typography>
      }
      columns={[`${to} on`, "b", "SE", "t", "df", "p", `${percent(evidence.settings.level)} % CI`]}
      rows={[
        {
          key: from,
          cells: [
            from,
            total.estimate,
            test?.se ?? null,
            { shown: plain(test?.t, 2), value: test?.t ?? null },
            { shown: dfWords(test?.df ?? null), value: test?.df ?? null },
            { shown: pValue(test?.p), value: test?.p ?? null },
            test ? limitsPair(test.lower, test.upper) : null,
          ],
        },
      ]}
      note={
        others.length > 0
          ? `Without the mediators; ${others.join(", ")} held as in the other steps.`
          : "Without the mediators."
      }
    />
  );
}
