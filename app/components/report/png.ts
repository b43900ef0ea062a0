import { MM_PER_INCH, withResolution, type DrawnFigure } from "../../../formats/figures";

/**
 * A figure as points, by the browser's own drawing.
 * @param dpi points to an inch on paper; the file says so, and word processors place it at its size
 */
export async function pngOf(figure: DrawnFigure, dpi: number): Promise<Uint8Array<ArrayBuffer>> {
  const image = new Image();
  const url = URL.createObjectURL(new Blob([figure.svg], { type: "image/svg+xml" }));
  try {
    image.src = url;
    await image.decode();
    const canvas = document.createElement("canvas");
    canvas.width = Math.round((figure.widthMm / MM_PER_INCH) * dpi);
    canvas.height = Math.round((figure.heightMm / MM_PER_INCH) * dpi);
    canvas.getContext("2d")!.drawImage(image, 0, 0, canvas.width, canvas.height);
    const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/png"));
    if (!blob) throw new Error("The browser could not draw the figure; try a smaller size.");
    return withResolution(new Uint8Array(await blob.arrayBuffer()), dpi);
  } finally {
    URL.revokeObjectURL(url);
  }
}
