import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { limitsCell } from "../structure/cells";
import {
  effectWorking,
  equationsOf,
  percent,
  pValue,
  referenceName,
  type Evidence,
} from "../../../core";
import type { StudyContext } from "../../analysis/use-study";
import { EquationTable } from "../evidence/equation-table";
import { GroupMeansTable } from "../evidence/group-means";
import { CloseIcon } from "../icons";
import { IconAction } from "../ui/icon-button";
import { NumberTable } from "../ui/number-table";
import { ScreenHead, Spacer } from "../ui/layout";
import { WorkingView } from "../ui/working-view";
import { replaceLine } from "./edit-text";

interface Props {
  context: StudyContext;
  evidence: Evidence;
  path: { from: string; to: string };
  close: () => void;
}

/** The equation behind an arrow, and the sentences because of which the arrow is there. */
export function PathPanel({ context, evidence, path, close }: Props) {
  const { definition, edit } = context;
  const equation = equationsOf(evidence).find((e) => e.outcome === path.to);
  const { lines, effects: ids } = evidence.paths.find(
    (p) => p.from === path.from && p.to === path.to,
  )!;
  const text = definition.theory.split("\n");
  const means = evidence.groupMeans.find((g) => g.variable === path.from && g.outcome === path.to);
  const alone = lines.length === 1 && /^\s*also\b/.test(text[lines[0]! - 1] ?? "");
  const takeOut = (): void =>
    edit({ theory: replaceLine(definition.theory, lines[0]!, null) }, "theory");
  return (
    <Box
      sx={{
        borderTop: "1px solid var(--ink)",
        backgroundColor: "var(--sheet)",
        p: "12px 24px 14px",
        maxHeight: "46%",
        overflow: "auto",
        display: "grid",
        gap: 1,
      }}
    >
      <ScreenHead as="div">
        <Typography variant="h2">
          {path.from} to {path.to}
        </Typography>
        <p className="quiet">
          stands here because of {lines.map((l) => `line ${l}`).join(" and ")}
        </p>
        <Spacer />
        {alone && <Button onClick={takeOut}>Take this path out</Button>}
        <IconAction name="Close the equation" onClick={close}>
          <CloseIcon />
        </IconAction>
      </ScreenHead>
      {means && <GroupMeansTable means={means} />}
      {equation ? (
        <EquationTable equation={equation} evidence={evidence} highlight={path.from} />
      ) : (
        <PathsInto evidence={evidence} path={path} />
      )}
      {evidence.effects
        .filter((e) => ids.includes(e.id))
        .map((e) => (
          <WorkingView
            key={e.id}
            working={effectWorking(e, evidence)}
            summary={`Show the working of ${e.label}`}
          />
        ))}
    </Box>
  );
}

/** Where an engine has no equations: the effects of every path into the same outcome. */
function PathsInto({ evidence, path }: Pick<Props, "evidence" | "path">) {
  const paths = evidence.paths
    .filter((p) => p.to === path.to)
    .flatMap((p) => p.effects.map((id) => ({ from: p.from, id })));
  const effects = paths.flatMap(({ from, id }) => {
    const effect = evidence.effects.find((e) => e.id === id);
    return effect?.shown ? [{ from, effect, shown: effect.shown }] : [];
  });
  return (
    <NumberTable
      title={`Paths into ${path.to}`}
      columns={[
        "explained by",
        "estimate",
        "SE",
        `${percent(evidence.settings.level)} % CI`,
        "p",
        "rests on",
      ]}
      rows={effects.map(({ from, effect, shown }) => ({
        key: effect.id,
        selected: from === path.from,
        cells: [
          from,
          effect.estimate,
          shown.se,
          limitsCell(shown.lower, shown.upper),
          { shown: pValue(shown.p, shown.pIsBound), value: shown.p },
          referenceName(shown),
        ],
      }))}
    />
  );
}
