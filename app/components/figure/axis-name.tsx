import { fitted } from "../../../formats/figures";

/** As in the style sheets of the drawings. */
const SIZE = 13.5;

/** The name of an axis, as much of it as has room; all of it when it is pointed at. */
export function AxisName({
  text,
  room,
  ...place
}: {
  text: string;
  /** Pixels along the axis. */
  room: number;
  className?: string | undefined;
  x?: number;
  y?: number;
  transform?: string;
  textAnchor?: "start" | "middle" | "end";
}) {
  const shown = fitted(text, room, SIZE);
  return (
    <text {...place}>
      {shown}
      {shown !== text && <title>{text}</title>}
    </text>
  );
}
