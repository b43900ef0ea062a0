import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import {
  percent,
  plain,
  pValue,
  type EffectEvidence,
  type Evidence,
  type HypothesisEvidence,
} from "../../../core";

/** Beneath a claim about three or more groups: every two of them, with p as it is and adjusted for their number. */
export function Pairwise({
  hypothesis,
  evidence,
}: {
  hypothesis: HypothesisEvidence;
  evidence: Evidence;
}) {
  const pairs = differencesOf(hypothesis, evidence);
  if (pairs.length < 2) return null;
  return (
    <Table className="numbers pairwise">
      <caption>Pairwise differences</caption>
      <TableHead>
        <TableRow>
          <TableCell scope="col">difference</TableCell>
          <TableCell scope="col">estimate</TableCell>
          <TableCell scope="col">SE</TableCell>
          <TableCell scope="col">{percent(evidence.settings.level)} % CI</TableCell>
          <TableCell scope="col">p</TableCell>
          <TableCell scope="col">p, adjusted (Holm)</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {pairs.map((e) => (
          <TableRow key={e.id}>
            <TableCell>{e.label}</TableCell>
            <TableCell>{plain(e.estimate)}</TableCell>
            <TableCell>{plain(e.shown?.se)}</TableCell>
            <TableCell>
              {plain(e.shown?.lower)}, {plain(e.shown?.upper)}
            </TableCell>
            <TableCell>{pValue(e.shown?.p, e.shown?.pIsBound)}</TableCell>
            <TableCell>{pValue(e.holmP)}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}

/** The differences between levels of the effect that is claimed: of its predictor, or of a categorical moderator. */
function differencesOf(
  { claim, from, to, chains, moderators }: HypothesisEvidence,
  { effects, codings }: Evidence,
): EffectEvidence[] {
  if (!claim || claim.joint === null) return [];
  const via = (chains[0] ?? []).join(" ");
  const same = (e: EffectEvidence): boolean =>
    e.to === to && (chains.length > 1 || e.via.join(" ") === via) && e.holmP !== null;
  const keys = codings.find((c) => c.variable === moderators[0])
    ? [from]
    : codings.filter((c) => c.variable === from).map((c) => c.variable);
  const kind =
    moderators.length > 0 && !codings.some((c) => c.variable === from)
      ? "conditional_contrast"
      : "comparison";
  const direct = chains.length === 0 ? "direct" : "indirect";
  return effects.filter(
    (e) =>
      e.kind === kind &&
      same(e) &&
      (kind === "conditional_contrast"
        ? keys.includes(e.from ?? "")
        : e.from!.startsWith(`${from} (`) && e.id.includes(` ${direct} `)),
  );
}
