import createCache from "@emotion/cache";
import { CacheProvider } from "@emotion/react";
import CssBaseline from "@mui/material/CssBaseline";
import { createTheme, ThemeProvider, useColorScheme } from "@mui/material/styles";
import { use, useMemo, type ReactNode } from "react";
import { COMPONENTS } from "./components";
import { NonceContext } from "./nonce";
import { LOOKS, SANS, type Look } from "./tokens";

/** Where the chosen look is kept, and the attribute of the page that carries it. */
export const LOOK_KEY = "hebel-theme";
export const LOOK_ATTRIBUTE = "data-theme";

const palette = (look: Look) => {
  const c = LOOKS[look];
  return {
    palette: {
      primary: { main: c.petrol, contrastText: c.paper },
      error: { main: c.rust },
      warning: { main: c.rust },
      background: { default: c.paper, paper: c.sheet },
      text: { primary: c.ink, secondary: c.quiet },
      divider: c.line,
    },
  };
};

const heading = (fontSize: string) => ({
  fontFamily: "var(--serif)",
  fontSize,
  fontWeight: 600,
  lineHeight: 1.25,
});

const THEME = createTheme({
  cssVariables: { colorSchemeSelector: LOOK_ATTRIBUTE, cssVarPrefix: "h" },
  colorSchemes: { light: palette("light"), dark: palette("dark") },
  shape: { borderRadius: 4 },
  typography: {
    fontFamily: SANS,
    fontSize: 14,
    h1: heading("1.35rem"),
    h2: heading("1.2rem"),
    h3: heading("1.02rem"),
    body1: { fontSize: 15, lineHeight: 1.45 },
    body2: { fontSize: 14, lineHeight: 1.45 },
    caption: { fontSize: 13, lineHeight: 1.4 },
    button: { textTransform: "none" },
  },
  components: COMPONENTS,
});

/**
 * The look in use, and how to choose another; shared by all tabs, the system's until one is chosen.
 */
export function useLook(): { look: Look; choose: (look: Look) => void } {
  const { mode, systemMode, setMode } = useColorScheme();
  const look = mode === "system" ? systemMode : mode;
  return { look: look ?? "light", choose: setMode };
}

/** Component styles. Rendered in the browser only, so no style is made twice. */
export function LookProvider({ children }: { children: ReactNode }) {
  const nonce = use(NonceContext);
  const cache = useMemo(
    () => createCache({ key: "h", prepend: true, ...(nonce ? { nonce } : {}) }),
    [nonce],
  );
  return (
    <CacheProvider value={cache}>
      <ThemeProvider theme={THEME} modeStorageKey={LOOK_KEY} defaultMode="system">
        <CssBaseline />
        {children}
      </ThemeProvider>
    </CacheProvider>
  );
}
