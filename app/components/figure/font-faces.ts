import sans from "@fontsource-variable/source-sans-3/files/source-sans-3-latin-wght-normal.woff2?url";
import serif from "@fontsource-variable/source-serif-4/files/source-serif-4-latin-wght-normal.woff2?url";

/**
 * The two faces of the house with their data, under the names that pages call them by: a file that
 * carries them looks the same wherever it is opened.
 */
export async function fontFaces(): Promise<string> {
  const [sansData, serifData] = await Promise.all([dataUrl(sans), dataUrl(serif)]);
  return face("Source Sans 3 Variable", sansData) + face("Source Serif 4 Variable", serifData);
}

/** The sans alone, as a data URL. */
export const sansUrl = (): Promise<string> => dataUrl(sans);

const face = (family: string, url: string): string =>
  `@font-face{font-family:"${family}";src:url(${url}) format("woff2");font-weight:200 900}`;

/** A font of the page, which has it already, as text. */
async function dataUrl(url: string): Promise<string> {
  const bytes = new Uint8Array(await (await fetch(url)).arrayBuffer());
  let text = "";
  for (const byte of bytes) text += String.fromCharCode(byte);
  return `data:font/woff2;base64,${btoa(text)}`;
}
