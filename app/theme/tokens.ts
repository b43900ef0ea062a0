/**
 * Colours of the house, by name, in both looks: paper and ink, petrol and rust. All pairs used for
 * text reach AA.
 */
export const LOOKS = {
  light: {
    paper: "#f7f2ea",
    sheet: "#fffef9",
    ink: "#1f2a30",
    quiet: "#5b6368",
    faint: "#6f6a60",
    line: "#d9d0c1",
    hair: "#ebe4d7",
    petrol: "#0f5b66",
    "petrol-wash": "#d8e7e6",
    rust: "#a8451f",
    "rust-wash": "#f6e3d8",
    "muted-bar": "#bfcfcf",
  },
  dark: {
    paper: "#12191d",
    sheet: "#1a2328",
    ink: "#ece7dc",
    quiet: "#a3abad",
    faint: "#9aa09f",
    line: "#35424a",
    hair: "#26323a",
    petrol: "#6cc3cd",
    "petrol-wash": "#1d3b42",
    rust: "#ee9a6c",
    "rust-wash": "#40281c",
    "muted-bar": "#3a4d54",
  },
} as const;

export type Look = keyof typeof LOOKS;
export const SERIF = '"Source Serif 4 Variable", Georgia, serif';
export const SANS = '"Source Sans 3 Variable", system-ui, sans-serif';

const declared = (look: Look): string =>
  Object.entries(LOOKS[look])
    .map(([name, colour]) => `--${name}:${colour}`)
    .join(";");

/**
 * The colours as custom properties, for drawings and for the page before its scripts run. A picture
 * that leaves the program is always drawn in the light look, marked by `data-look="print"`.
 */
export const TOKENS_CSS =
  `:root,[data-look="print"]{${declared("light")};--serif:${SERIF};--sans:${SANS};color-scheme:light}` +
  `:root[data-theme="dark"]{${declared("dark")};color-scheme:dark}` +
  `body{margin:0;background:var(--paper);color:var(--ink);font:400 15px/1.45 var(--sans)}` +
  `.opening{min-height:100vh;display:grid;place-content:center;justify-items:center;gap:12px;padding:24px;text-align:center}` +
  `.opening h1{font:600 1.5rem var(--serif);margin:0}.opening p{font-family:var(--serif);max-width:60ch;margin:0}.opening a{color:var(--petrol)}` +
  `.mark-beam{stroke:var(--petrol);stroke-width:3.2;stroke-linecap:round;fill:none}.mark-fulcrum{fill:var(--rust)}`;
