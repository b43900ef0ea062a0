import createCache from "@emotion/cache";
import { CacheProvider } from "@emotion/react";
import { createTheme, ThemeProvider } from "@mui/material/styles";
import { use, useMemo, useSyncExternalStore, type ReactNode } from "react";
import { NonceContext } from "./nonce";

export type Mode = "light" | "dark";
const KEY = "hebel-theme";
const EVENT = "hebel-theme-change";

const stored = (): Mode => {
  const kept = localStorage.getItem(KEY);
  if (kept === "light" || kept === "dark") return kept;
  return matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
};

function subscribe(notify: () => void): () => void {
  const events = [EVENT, "storage"];
  for (const event of events) addEventListener(event, notify);
  return () => events.forEach((event) => removeEventListener(event, notify));
}

/** The chosen look, shared by all tabs; the system's until one is chosen. */
export const useMode = (): Mode => useSyncExternalStore(subscribe, stored, () => "light");

export function setMode(mode: Mode): void {
  localStorage.setItem(KEY, mode);
  document.documentElement.dataset.theme = mode;
  dispatchEvent(new Event(EVENT));
}

/** Colours of the two looks, as in tokens.css, for components that need them as values. */
export const PALETTE = {
  light: {
    paper: "#f7f2ea",
    sheet: "#fffef9",
    ink: "#1f2a30",
    quiet: "#5b6368",
    line: "#d9d0c1",
    petrol: "#0f5b66",
    rust: "#a8451f",
  },
  dark: {
    paper: "#12191d",
    sheet: "#1a2328",
    ink: "#ece7dc",
    quiet: "#a3abad",
    line: "#35424a",
    petrol: "#6cc3cd",
    rust: "#ee9a6c",
  },
} as const;

const sans = '"Source Sans 3 Variable", "Source Sans 3", system-ui, sans-serif';

function themeOf(mode: Mode) {
  const c = PALETTE[mode];
  return createTheme({
    palette: {
      mode,
      primary: { main: c.petrol },
      error: { main: c.rust },
      background: { default: c.paper, paper: c.sheet },
      text: { primary: c.ink, secondary: c.quiet },
      divider: c.line,
    },
    shape: { borderRadius: 4 },
    typography: {
      fontFamily: sans,
      fontSize: 14,
      button: { textTransform: "none", fontWeight: 500 },
    },
    components: {
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiPaper: {
        styleOverrides: {
          root: {
            backgroundImage: "none",
            border: `1px solid ${c.line}`,
            boxShadow: "0 8px 30px rgb(0 0 0 / 12%)",
          },
        },
      },
      // A rule at the left and the house's own mark, as for everything that deserves a look.
      MuiAlert: {
        defaultProps: { icon: "◆" },
        styleOverrides: {
          root: {
            border: 0,
            borderLeft: `3px solid ${c.rust}`,
            borderRadius: 0,
            boxShadow: "none",
            backgroundColor: "transparent",
            color: c.ink,
            margin: "16px 24px 0",
            padding: "2px 14px",
            fontSize: 15,
          },
          icon: { color: `${c.rust} !important`, fontSize: 15, marginRight: 8, opacity: 1 },
        },
      },
      MuiTooltip: {
        styleOverrides: { tooltip: { fontSize: 13, backgroundColor: c.ink, color: c.paper } },
      },
    },
  });
}

/** Component styles for the chosen look. Rendered in the browser only, so no style is made twice. */
export function LookProvider({ children }: { children: ReactNode }) {
  const nonce = use(NonceContext);
  const mode = useMode();
  const cache = useMemo(() => createCache({ key: "h", ...(nonce ? { nonce } : {}) }), [nonce]);
  const theme = useMemo(() => themeOf(mode), [mode]);
  return (
    <CacheProvider value={cache}>
      <ThemeProvider theme={theme}>{children}</ThemeProvider>
    </CacheProvider>
  );
}

/** Runs before the first paint, so that a dark page never flashes light. */
export const THEME_SCRIPT = `(function(){var t=null;try{t=localStorage.getItem("${KEY}")}catch(e){}document.documentElement.dataset.theme=t||(matchMedia("(prefers-color-scheme: dark)").matches?"dark":"light")})()`;
