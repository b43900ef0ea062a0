import type { ThemeOptions } from "@mui/material/styles";

/** A field of the house: its label above it, in small, and a hairline around what is typed. */
const FIELD = {
  backgroundColor: "var(--sheet)",
  fontSize: 14,
  borderRadius: 4,
  "& .MuiOutlinedInput-notchedOutline": { borderColor: "var(--line)", top: 0 },
  "& .MuiOutlinedInput-notchedOutline legend": { display: "none" },
  "&:hover .MuiOutlinedInput-notchedOutline": { borderColor: "var(--quiet)" },
  "&.Mui-focused .MuiOutlinedInput-notchedOutline": {
    borderColor: "var(--petrol)",
    borderWidth: 2,
  },
};

/**
 * What MUI's components look like here, in one place; colours are the house's own custom
 * properties.
 */
export const COMPONENTS: ThemeOptions["components"] = {
  MuiCssBaseline: {
    styleOverrides: {
      html: { height: "100%" },
      body: {
        height: "100%",
        fontVariantNumeric: "tabular-nums lining-nums",
        WebkitFontSmoothing: "antialiased",
      },
      "@page": { margin: "20mm" },
      "h1, h2, h3, h4, p": { margin: 0 },
      a: { color: "var(--petrol)" },
      ":focus-visible": {
        outline: "2px solid var(--petrol)",
        outlineOffset: 2,
        borderRadius: 3,
      },
      "#main:focus-visible": { outline: 0 },
      // Pictures in files are black on white, whatever the screen looks like.
      '[data-look="print"][data-look]': { "--paper": "#ffffff", background: "#ffffff" },
      ".quiet": { color: "var(--quiet)" },
      ".serif": { fontFamily: "var(--serif)" },
      ".visually-hidden": {
        position: "absolute",
        width: 1,
        height: 1,
        overflow: "hidden",
        clipPath: "inset(50%)",
        whiteSpace: "nowrap",
      },
    },
  },
  MuiButtonBase: {
    defaultProps: { disableRipple: true },
    styleOverrides: { root: { fontFamily: "inherit" } },
  },
  MuiButton: {
    defaultProps: { variant: "outlined", color: "inherit", disableElevation: true },
    styleOverrides: {
      root: {
        minHeight: 32,
        minWidth: 0,
        padding: "3px 12px",
        gap: 6,
        fontSize: 14,
        fontWeight: 400,
        lineHeight: 1.4,
        letterSpacing: 0,
      },
      outlined: {
        backgroundColor: "var(--sheet)",
        borderColor: "var(--line)",
        color: "var(--ink)",
        "&:hover": { borderColor: "var(--petrol)", backgroundColor: "var(--sheet)" },
      },
      contained: {
        backgroundColor: "var(--petrol)",
        color: "var(--paper)",
        "&:hover": { backgroundColor: "var(--petrol)", filter: "brightness(1.12)" },
      },
      text: {
        padding: "3px 8px",
        color: "var(--ink)",
        "&:hover": { backgroundColor: "var(--hair)" },
      },
    },
    variants: [{ props: { size: "small" }, style: { minHeight: 28, fontSize: 13 } }],
  },
  MuiIconButton: {
    styleOverrides: {
      root: {
        borderRadius: 4,
        padding: 7,
        color: "inherit",
        "&:hover": { backgroundColor: "var(--hair)" },
      },
    },
  },
  MuiToggleButton: {
    styleOverrides: {
      root: {
        padding: "2px 11px",
        minHeight: 30,
        fontSize: 14,
        fontWeight: 400,
        lineHeight: 1.3,
        textTransform: "none",
        color: "var(--quiet)",
        borderColor: "var(--line)",
        backgroundColor: "var(--sheet)",
        "&.Mui-selected, &.Mui-selected:hover": {
          backgroundColor: "var(--petrol-wash)",
          color: "var(--petrol)",
          fontWeight: 600,
        },
      },
    },
  },
  MuiPaper: {
    styleOverrides: {
      root: {
        backgroundImage: "none",
        border: "1px solid var(--line)",
        boxShadow: "0 8px 30px rgb(0 0 0 / 12%)",
      },
    },
  },
  MuiFormLabel: {
    styleOverrides: {
      root: {
        fontSize: 14,
        color: "var(--quiet)",
        "&.Mui-focused": { color: "var(--petrol)" },
        "&.Mui-error": { color: "var(--rust)" },
      },
    },
  },
  MuiFormHelperText: {
    styleOverrides: {
      root: {
        margin: "3px 0 0",
        fontSize: 12.5,
        lineHeight: 1.4,
        color: "var(--quiet)",
        "&.Mui-error": { color: "var(--rust)" },
      },
    },
  },
  MuiFormControlLabel: {
    styleOverrides: { root: { marginLeft: -6, marginRight: 0 }, label: { fontSize: 14 } },
  },
  MuiInputBase: {
    // Fields of the house have no labels inside that filling in by the browser would have to move.
    defaultProps: { disableInjectingGlobalStyles: true },
    styleOverrides: { root: { fontSize: 14 }, input: { height: "auto" } },
  },
  MuiOutlinedInput: {
    styleOverrides: {
      root: FIELD,
      input: { padding: "6px 9px", minHeight: 20 },
      multiline: { padding: 0 },
    },
  },
  MuiNativeSelect: {
    styleOverrides: {
      select: { "& option, & optgroup": { backgroundColor: "var(--sheet)" } },
      icon: { color: "var(--quiet)", fontSize: 18, right: 4 },
    },
  },
  MuiCheckbox: {
    defaultProps: { size: "small" },
    styleOverrides: { root: { padding: 6, color: "var(--quiet)" } },
  },
  MuiRadio: {
    defaultProps: { size: "small" },
    styleOverrides: { root: { padding: 6, color: "var(--quiet)" } },
  },
  MuiSlider: {
    defaultProps: { size: "small" },
    styleOverrides: {
      root: { color: "var(--petrol)" },
      thumb: { borderRadius: 2, width: 12, height: 18, "&::before": { boxShadow: "none" } },
      rail: { backgroundColor: "var(--line)", opacity: 1 },
    },
  },
  // A number table: figures to the right, the first column to the left, hairlines between rows.
  MuiTable: { defaultProps: { size: "small" } },
  MuiTableCell: {
    styleOverrides: {
      root: {
        padding: "5px 8px",
        fontSize: 14,
        lineHeight: 1.4,
        textAlign: "right",
        whiteSpace: "nowrap",
        borderBottom: "1px solid var(--hair)",
        color: "inherit",
      },
      head: {
        padding: "4px 8px",
        fontSize: 13,
        fontWeight: 400,
        color: "var(--quiet)",
        borderBottom: "1px solid var(--ink)",
        backgroundColor: "transparent",
      },
    },
  },
  MuiTableRow: {
    styleOverrides: {
      root: { "&.Mui-selected, &.Mui-selected:hover": { backgroundColor: "var(--petrol-wash)" } },
    },
  },
  MuiAccordion: {
    defaultProps: { disableGutters: true, elevation: 0, square: true },
    styleOverrides: {
      root: {
        border: 0,
        boxShadow: "none",
        backgroundColor: "transparent",
        "&::before": { display: "none" },
      },
    },
  },
  MuiAccordionSummary: {
    styleOverrides: {
      root: {
        minHeight: 30,
        padding: 0,
        fontSize: 14,
        color: "var(--petrol)",
        justifyContent: "flex-start",
      },
      content: { margin: "4px 0", flexGrow: 0 },
    },
  },
  MuiAccordionDetails: { styleOverrides: { root: { padding: "4px 0 8px" } } },
  MuiDialog: {
    styleOverrides: {
      // The focus rests on it only until the first field is reached.
      container: { "&:focus-visible": { outline: 0 } },
      paper: {
        borderTop: "3px solid var(--petrol)",
        borderRadius: "2px 2px 4px 4px",
        "&:focus-visible": { outline: 0 },
      },
    },
  },
  MuiDialogTitle: {
    styleOverrides: {
      root: {
        padding: "20px 26px 6px",
        fontFamily: "var(--serif)",
        fontSize: "1.2rem",
        fontWeight: 600,
      },
    },
  },
  MuiDialogContent: { styleOverrides: { root: { padding: "8px 26px 12px" } } },
  MuiDialogActions: { styleOverrides: { root: { padding: "10px 26px 18px", gap: 8 } } },
  MuiSnackbarContent: {
    styleOverrides: {
      root: {
        backgroundColor: "var(--ink)",
        color: "var(--paper)",
        "& .MuiButton-root": { color: "inherit", textDecoration: "underline" },
      },
    },
  },
  MuiLinearProgress: {
    styleOverrides: {
      root: { height: 3, backgroundColor: "transparent" },
      bar: { backgroundColor: "var(--petrol)" },
    },
  },
  MuiTooltip: {
    defaultProps: { enterDelay: 400 },
    styleOverrides: {
      tooltip: {
        fontSize: 13,
        fontWeight: 400,
        lineHeight: 1.4,
        backgroundColor: "var(--ink)",
        color: "var(--paper)",
        borderRadius: 3,
      },
    },
  },
  MuiChip: {
    styleOverrides: {
      root: { borderRadius: 3, fontSize: 13, height: 26, backgroundColor: "var(--hair)" },
    },
  },
  MuiTab: {
    styleOverrides: {
      root: { textTransform: "none", minHeight: 36, fontSize: 14, padding: "6px 14px" },
    },
  },
  MuiMenuItem: { styleOverrides: { root: { fontSize: 14, minHeight: 34 } } },
  // A rule at the left and the house's own mark, as for everything that deserves a look.
  MuiAlert: {
    defaultProps: { icon: "◆" },
    styleOverrides: {
      root: {
        border: 0,
        borderLeft: "3px solid var(--rust)",
        borderRadius: 0,
        boxShadow: "none",
        backgroundColor: "transparent",
        color: "var(--ink)",
        padding: "2px 14px",
        fontSize: 15,
      },
      message: { padding: "6px 0" },
      icon: {
        color: "var(--rust) !important",
        fontSize: 15,
        marginRight: 8,
        padding: "6px 0",
        opacity: 1,
      },
    },
  },
  MuiLink: { defaultProps: { underline: "always" } },
  MuiAutocomplete: {
    styleOverrides: {
      option: { fontSize: 14, minHeight: 34 },
      inputRoot: { padding: "2px 40px 2px 4px" },
    },
  },
};
