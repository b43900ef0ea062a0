import Box from "@mui/material/Box";
import { useMemo, useRef } from "react";
import {
  sizeOf,
  withSize,
  type CompiledTheory,
  type Evidence,
  type StudyPlan,
} from "../../../core";
import { layoutDiagram } from "../../../formats/figures";
import styles from "../diagram/diagram.module.css";
import { useRoom } from "../ui/room";
import { SizeField } from "./size-field";

interface Props {
  theory: CompiledTheory;
  plan: StudyPlan;
  /** What a card is: a scale of so many items, a column. */
  detail: (name: string) => string;
  change: (plan: StudyPlan) => void;
}

/** Beyond this no size is meant. */
export const MOST = 3;

const FIRST_ROOM = { width: 700, height: 0 };

/** The picture of the sentences, with the size that is expected of every arrow in a field on it. */
export function SizesDiagram({ theory, plan, detail, change }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const width = Math.max(420, useRoom(frame, "sizes", FIRST_ROOM).width);
  const model = useMemo((): Pick<Evidence, "paths" | "roles"> => {
    const paths = theory.paths.map((path) => ({
      ...path,
      moderators: theory.moderated
        .filter((m) => m.from === path.from && m.to === path.to)
        .flatMap((m) => m.moderators),
      effects: [],
    }));
    return { paths, roles: theory.roles };
  }, [theory]);
  const layout = useMemo(() => layoutDiagram(model, width, 330), [model, width]);
  const field = (from: string[], to: string, x: number, y: number) => (
    <Box
      key={`${from.join(" × ")} ${to}`}
      sx={{
        position: "absolute",
        left: x,
        top: y,
        transform: "translate(-50%, -50%)",
        "& .MuiInputBase-root": { backgroundColor: "var(--sheet)" },
      }}
    >
      <SizeField
        label={`Expected size of ${from.join(" × ")} on ${to}`}
        value={sizeOf(plan, { from, to })}
        from={-MOST}
        to={MOST}
        onValue={(size) => change(withSize(plan, { from, to }, size))}
      />
    </Box>
  );
  return (
    <Box ref={frame} sx={{ minWidth: 0, overflowX: "auto" }}>
      <Box sx={{ position: "relative", width: layout.width, height: layout.height }}>
        <svg width={layout.width} height={layout.height} style={{ display: "block" }} aria-hidden>
          {layout.heads.map((head) => (
            <text key={head.text} className={styles.role} x={head.x} y={22} textAnchor="middle">
              {head.text}
            </text>
          ))}
          {layout.arrows.map((arrow) => (
            <g
              key={`${arrow.from} ${arrow.to}`}
              className={`${styles.arrow} ${sizeOf(plan, { from: [arrow.from], to: arrow.to }) ? styles.clear : ""}`}
            >
              <path d={arrow.d} strokeWidth={1.6} />
              <path
                className={styles.head}
                d="M0 0-10-4.5-10 4.5z"
                transform={`translate(${arrow.tip.x} ${arrow.tip.y}) rotate(${(arrow.tip.angle * 180) / Math.PI})`}
              />
            </g>
          ))}
          {layout.moderators.map(({ moderator, from, to, d, tip, angle }) => (
            <g key={`${moderator} ${from} ${to}`} className={styles.moderation}>
              <path d={d} />
              <path
                className={styles.fulcrum}
                d="M0 0-9 17h18z"
                transform={`translate(${tip.x} ${tip.y}) rotate(${(angle * 180) / Math.PI - 90})`}
              />
            </g>
          ))}
          {layout.boxes.map((box) => (
            <g key={box.name} transform={`translate(${box.x} ${box.y})`}>
              <rect
                className={styles.cardShape}
                width={box.width}
                height={box.height}
                rx={detail(box.name).startsWith("latent") ? box.height / 2 : 2}
              />
              <text className={styles.cardName} x={box.width / 2} y={24} textAnchor="middle">
                {box.name.length > 17 ? `${box.name.slice(0, 16)}…` : box.name}
              </text>
              <text className={styles.cardDetail} x={box.width / 2} y={41} textAnchor="middle">
                {detail(box.name).slice(0, 22)}
              </text>
            </g>
          ))}
        </svg>
        {layout.arrows.map(({ from, to, label }) => field([from], to, label.x, label.y))}
        {layout.moderators.map(({ moderator, from, to, tip, angle }) =>
          field([from, moderator], to, tip.x + 44 * Math.cos(angle), tip.y + 44 * Math.sin(angle)),
        )}
      </Box>
    </Box>
  );
}
