import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { equationsOf, type Evidence } from "../../../core";
import type { StudyContext } from "../../analysis/use-study";
import { EquationTable } from "../evidence/equation-table";
import { GroupMeansTable } from "../evidence/group-means";
import { CloseIcon } from "../icons";
import { IconAction } from "../ui/icon-button";
import { ScreenHead, Spacer } from "../ui/layout";
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
  const equation = equationsOf(evidence).find((e) => e.outcome === path.to)!;
  const lines = evidence.paths.find((p) => p.from === path.from && p.to === path.to)!.lines;
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
      <EquationTable equation={equation} evidence={evidence} highlight={path.from} />
    </Box>
  );
}
