import { useEffect, useRef } from "react";
import { canvasPen, svgPen, type Pen } from "./pen";

/** Draws with the colours of the page; `style` is that of the element drawn into. */
export type Draw = (pen: Pen, style: CSSStyleDeclaration) => void;

/**
 * How each canvas writes itself down, so that a file can hold the same as lines and not as dots.
 */
const markups = new WeakMap<HTMLCanvasElement, () => string>();

/** Says how the SVG marks of a canvas are made; returns how to take that back. */
export function registerMarkup(canvas: HTMLCanvasElement, make: () => string): () => void {
  markups.set(canvas, make);
  return () => void markups.delete(canvas);
}

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
    registerMarkup(element, () => {
      const pen = svgPen();
      draw(pen, getComputedStyle(element));
      return pen.markup();
    });
  });
  return <canvas ref={canvas} className={className} style={{ width, height }} aria-hidden />;
}

/** The SVG marks of a canvas, in the colours of its place. */
export const markupOf = (canvas: HTMLCanvasElement): string => markups.get(canvas)?.() ?? "";
