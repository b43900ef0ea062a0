declare module "svgcanvas" {
  /** A drawing context that writes SVG. */
  export class Context {
    constructor(width: number, height: number);
    canvas: unknown;
    getSvg(): SVGSVGElement;
  }
}
