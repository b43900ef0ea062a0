import Button from "@mui/material/Button";
import { useState } from "react";
import {
  DEFAULT_REPORT,
  arrowNote,
  type Evidence,
  type FigureBlock,
  type FigureChoices,
} from "../../../core";
import { drawFigure, measuredAs } from "../../../formats/figures";
import { figureStyle, saveFigure } from "../report/exports";
import { Drawn, FigureSaves } from "../report/figure-saves";
import { Check } from "../ui/check";
import { Dialog } from "../ui/dialog";
import { ScreenHead, Spacer } from "../ui/layout";
import { Segments } from "../ui/segments";

type Estimates = "none" | "raw" | "standardised";
type Beside = FigureChoices["beside"];

/** One column of a journal, one and a half, both. */
const WIDTHS = ["85", "120", "175"] as const;
const WIDEST = 175;

/** The path diagram in the plain convention of textbooks, as it stands in the report. */
export function PaperFigure({ evidence, title }: { evidence: Evidence; title: string }) {
  const [open, setOpen] = useState(false);
  if (evidence.paths.length === 0) return null;
  return (
    <>
      <Button variant="text" onClick={() => setOpen(true)}>
        For the paper
      </Button>
      {open && <FigureDialog evidence={evidence} title={title} close={() => setOpen(false)} />}
    </>
  );
}

function FigureDialog({
  evidence,
  title,
  close,
}: {
  evidence: Evidence;
  title: string;
  close: () => void;
}) {
  const latent = evidence.latent.length > 0;
  const [estimates, setEstimates] = useState<Estimates>(latent ? "standardised" : "raw");
  const [beside, setBeside] = useState<Beside>("interval");
  const [items, setItems] = useState(latent);
  const [width, setWidth] = useState<(typeof WIDTHS)[number]>("175");
  const block: FigureBlock = {
    kind: "figure",
    id: "paper",
    number: 1,
    title,
    figure: { kind: "path", estimates, beside, items: items && estimates !== "none" },
    notes: [],
  };
  const choices = { ...DEFAULT_REPORT.figures, widthMm: Number(width) as FigureChoices["widthMm"] };
  const save = (as: "svg" | 300 | 600): void =>
    void saveFigure(block, evidence, choices, DEFAULT_REPORT.decimal, as);
  const drawn = drawFigure(block, evidence, figureStyle(choices, DEFAULT_REPORT.decimal));
  return (
    <Dialog
      title="Figure for the paper"
      close={close}
      width="lg"
      actions={
        <Button variant="contained" onClick={close}>
          Close
        </Button>
      }
    >
      <ScreenHead as="div">
        <Segments
          label="Estimates"
          value={estimates}
          choices={[
            ["raw", "raw units"],
            ["standardised", "standardised"],
            ["none", "concepts only"],
          ]}
          choose={setEstimates}
        />
        {estimates !== "none" && (
          <Segments
            label="Beneath an estimate"
            value={beside}
            choices={[
              ["interval", "interval"],
              ["p", "p"],
              ["nothing", "nothing"],
            ]}
            choose={setBeside}
          />
        )}
        {latent && estimates !== "none" && (
          <Check label="items" checked={items} onChange={setItems} />
        )}
        <Segments
          label="Width on paper"
          value={width}
          choices={WIDTHS.map((mm) => [mm, `${mm} mm`])}
          choose={setWidth}
        />
        <Spacer />
        <span role="group" aria-label="Take along: figure for the paper">
          <FigureSaves save={save} />
        </span>
      </ScreenHead>
      {drawn && (
        <Drawn
          figure={drawn}
          sx={{
            overflow: "auto",
            backgroundColor: "#fff",
            mt: 1,
            p: 1,
            "& svg": {
              display: "block",
              mx: "auto",
              width: `${(100 * choices.widthMm) / WIDEST}%`,
              height: "auto",
            },
          }}
        />
      )}
      <p className="quiet">{captionOf(evidence, estimates)}</p>
    </Dialog>
  );
}

/** What shapes and numbers of the figure are, to stand beneath it. */
function captionOf(evidence: Evidence, estimates: Estimates): string {
  const kinds = new Set(evidence.latent.map((l) => measuredAs(evidence, l.name)));
  const numbers = [
    ...(kinds.has("factor") ? ["loadings"] : []),
    ...(kinds.has("composite") ? ["weights"] : []),
  ];
  const shapes = [
    ...(kinds.has("factor") ? ["ellipses: latent variables"] : []),
    ...(kinds.has("composite") ? ["double lines: composites"] : []),
    "rectangles: observed variables",
  ].join("; ");
  const shaped = `${shapes[0]!.toUpperCase()}${shapes.slice(1)}.`;
  if (estimates === "none") return shaped;
  const units = estimates === "raw" ? "Unstandardised estimates" : "Standardised estimates";
  const onItems = numbers.length > 0 ? `; ${numbers.join(" and ")} on the lines to items` : "";
  return [`${units}${onItems}.`, shaped, arrowNote(evidence)].filter((s) => s !== "").join(" ");
}
