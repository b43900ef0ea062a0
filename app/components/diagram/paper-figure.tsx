import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useRef, useState } from "react";
import { plain, type Evidence } from "../../../core";
import { PictureTools } from "../figure/picture-tools";
import { Dialog } from "../ui/dialog";
import { ScreenHead, Spacer } from "../ui/layout";
import { Segments } from "../ui/segments";
import { placeItems } from "../../../formats/figures";
import { INSET, itemNumber, measuredAs } from "../../../formats/figures";
import { layoutDiagram } from "../../../formats/figures";

/** The plain convention of textbooks: ellipses for factors, double lines for composites, rectangles for observed variables. */
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
  const [kind, setKind] = useState<"conceptual" | "statistical">("statistical");
  const frame = useRef<HTMLDivElement>(null);
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
          label="Kind of figure"
          value={kind}
          choices={[
            ["statistical", "with estimates"],
            ["conceptual", "concepts only"],
          ]}
          choose={setKind}
        />
        <Spacer />
        <PictureTools
          target={frame}
          name={`${title} figure`}
          caption={kind === "statistical" ? captionOf(evidence) : ""}
        />
      </ScreenHead>
      <Box ref={frame} sx={{ overflow: "auto", backgroundColor: "#fff", mt: 1 }}>
        <Figure evidence={evidence} statistical={kind === "statistical"} />
      </Box>
    </Dialog>
  );
}

const WIDTH = 860;
const HEIGHT = 430;
const CARD = 52;

function Figure({ evidence, statistical }: { evidence: Evidence; statistical: boolean }) {
  const unfolded = statistical ? evidence.latent : [];
  const layout = layoutDiagram(evidence, WIDTH, HEIGHT, new Set(unfolded.map((l) => l.name)));
  const text = { fontFamily: "Source Sans 3, Arial, sans-serif", fill: "#000" };
  return (
    <svg
      width={layout.width}
      height={layout.height}
      viewBox={`0 0 ${layout.width} ${layout.height}`}
      role="img"
      aria-label="Figure for the paper"
      style={{ display: "block", background: "#fff", margin: "0 auto" }}
    >
      <rect width={layout.width} height={layout.height} fill="#fff" />
      {layout.arrows.map((arrow) => {
        const { tip } = arrow;
        return (
          <g key={`${arrow.from} ${arrow.to}`}>
            <path d={arrow.d} fill="none" stroke="#000" strokeWidth={1.2} />
            <path
              d="M0 0-9-3.6-9 3.6z"
              fill="#000"
              transform={`translate(${tip.x} ${tip.y}) rotate(${(tip.angle * 180) / Math.PI})`}
            />
          </g>
        );
      })}
      {layout.moderators.map(({ moderator, from, to, d }) => (
        <path
          key={`${moderator} ${from} ${to}`}
          d={d}
          fill="none"
          stroke="#000"
          strokeWidth={1.2}
        />
      ))}
      {layout.boxes.map((box) => {
        const factor = evidence.latent.find((l) => l.name === box.name);
        const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
        return (
          <g key={box.name}>
            {statistical && factor && (
              <PaperItems box={box} items={factor.items} evidence={evidence} />
            )}
            {measuredAs(evidence, box.name) === "factor" ? (
              <ellipse
                cx={middle.x}
                cy={middle.y}
                rx={box.width / 2}
                ry={CARD / 2}
                fill="#fff"
                stroke="#000"
                strokeWidth={1.2}
              />
            ) : (
              <PaperCard box={box} inner={factor !== undefined} />
            )}
            <text {...text} x={middle.x} y={middle.y + 5} fontSize={15} textAnchor="middle">
              {box.name}
            </text>
          </g>
        );
      })}
      {statistical &&
        layout.arrows.map(({ from, to, label }) => (
          <text
            key={`${from} ${to} number`}
            {...text}
            x={label.x}
            y={label.y + 5}
            fontSize={14}
            textAnchor="middle"
            stroke="#fff"
            strokeWidth={5}
            paintOrder="stroke"
          >
            {numberOf(evidence, from, to)}
          </text>
        ))}
    </svg>
  );
}

/** A rectangle; of a composite with a second line inside. */
function PaperCard({
  box,
  inner,
}: {
  box: { x: number; y: number; width: number; height: number };
  inner: boolean;
}) {
  const top = box.y + box.height / 2 - CARD / 2;
  return (
    <>
      <rect
        x={box.x}
        y={top}
        width={box.width}
        height={CARD}
        fill="#fff"
        stroke="#000"
        strokeWidth={1.2}
      />
      {inner && (
        <rect
          x={box.x + INSET}
          y={top + INSET}
          width={box.width - 2 * INSET}
          height={CARD - 2 * INSET}
          fill="none"
          stroke="#000"
          strokeWidth={0.7}
        />
      )}
    </>
  );
}

function PaperItems({
  box,
  items,
  evidence,
}: {
  box: { name: string; x: number; y: number; width: number; height: number };
  items: readonly string[];
  evidence: Evidence;
}) {
  return placeItems(box, items).map(({ item, x, y, width, height, from, above }) => {
    const end = { x: x + width / 2, y: above ? y + height : y };
    return (
      <g key={item}>
        <line x1={from.x} y1={from.y} x2={end.x} y2={end.y} stroke="#000" />
        <rect x={x} y={y} width={width} height={height} fill="#fff" stroke="#000" />
        <text x={end.x} y={y + 14} fontSize={11} textAnchor="middle" fill="#000">
          {item}
        </text>
        <text
          x={(from.x + end.x) / 2}
          y={(from.y + end.y) / 2 + 4}
          fontSize={11}
          textAnchor="middle"
          fill="#000"
          stroke="#fff"
          strokeWidth={3}
          paintOrder="stroke"
        >
          {plain(itemNumber(evidence, box.name, item).value, 2)}
        </text>
      </g>
    );
  });
}

/** What shapes and numbers of the figure are. */
function captionOf(evidence: Evidence): string {
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
  return `Standardised estimates${numbers.length > 0 ? `; ${numbers.join(" and ")} on the lines to items` : ""}. ${shapes[0]!.toUpperCase()}${shapes.slice(1)}.`;
}

/** In SDs of both, where they mean something. */
function numberOf({ paths, effects }: Evidence, from: string, to: string): string {
  const ids = paths.find((p) => p.from === from && p.to === to)?.effects ?? [];
  if (ids.length !== 1) return "";
  const own = effects.find((e) => e.id === ids[0]);
  const standardised = effects.find(
    (e) => e.of === ids[0] && e.kind === "completely_standardised" && e.shown !== null,
  );
  return plain((standardised ?? own)?.estimate ?? null, 2);
}
