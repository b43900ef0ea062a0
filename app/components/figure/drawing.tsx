import { useEffect, useRef } from "react";
import { canvasPen, svgPen, type Pen } from "./pen";

/** Draws with the colours of the page; `style` is that of the element drawn into. */
export type Draw = (pen: Pen, style: CSSStyleDeclaration) => void;

/** What each canvas shows, so that a file can hold the same as lines and not as dots. */
const drawings = new WeakMap<HTMLCanvasElement, Draw>();

interface Props {
  width: number;
  height: number;
  className?: string;
  draw: Draw;
}

/** A canvas that is drawn anew with every change: thousands of marks in a frame. */
export function Drawing({ width, height, className, draw }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext("2d");
    if (!element || !context) return;
    const ratio = devicePixelRatio || 1;
    element.width = width * ratio;
    element.height = height * ratio;
    context.scale(ratio, ratio);
    const style = getComputedStyle(element);
    draw(canvasPen(context, style.fontFamily), style);
    drawings.set(element, draw);
  });
  return <canvas ref={canvas} className={className} style={{ width, height }} aria-hidden />;
}

/** The SVG marks of a canvas, in the colours it has now. */
export function markupOf(canvas: HTMLCanvasElement): string {
  const pen = svgPen();
  drawings.get(canvas)?.(pen, getComputedStyle(canvas));
  return pen.markup();
}
