import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { initWasm, Resvg } from "@resvg/resvg-wasm";
import { MM_PER_INCH, withResolution, type DrawnFigure } from "../formats/figures";

const { resolve } = createRequire(import.meta.url);
const FONTS = ["Regular", "It"].map((style) => `source-sans/TTF/SourceSans3-${style}.ttf`);

let ready: Promise<Uint8Array[]> | null = null;

/** Starts what draws, and reads the sans of the house; once for all figures. */
async function begun(): Promise<Uint8Array[]> {
  await initWasm(readFileSync(resolve("@resvg/resvg-wasm/index_bg.wasm")));
  return FONTS.map((path) => readFileSync(resolve(path)));
}

/**
 * A figure as points, without a browser.
 * @param dpi points to an inch on paper; the file says so
 */
export async function pngOf(figure: DrawnFigure, dpi: number): Promise<Uint8Array> {
  const fontBuffers = await (ready ??= begun());
  const drawn = new Resvg(figure.svg, {
    fitTo: { mode: "width", value: Math.round((figure.widthMm / MM_PER_INCH) * dpi) },
    font: { fontBuffers, defaultFontFamily: "Source Sans 3", sansSerifFamily: "Source Sans 3" },
  });
  const image = drawn.render();
  try {
    return withResolution(image.asPng(), dpi);
  } finally {
    image.free();
    drawn.free();
  }
}

/** The same sans for figures that stay vectors, as a data URL. */
export const fontUrl = (): string =>
  `data:font/woff2;base64,${readFileSync(
    resolve("@fontsource-variable/source-sans-3/files/source-sans-3-latin-wght-normal.woff2"),
  ).toString("base64")}`;
