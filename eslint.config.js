import js from "@eslint/js";
import jsxA11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import ts from "typescript-eslint";

/** Dependencies point one way: app, cli -> formats -> core; core knows nothing of a browser, a store, a clock or a file. */
const noImports = (patterns, message) => ({
  "no-restricted-imports": [
    "error",
    { patterns: patterns.map((group) => ({ group: [group], message })) },
  ],
});

export default ts.config(
  {
    ignores: [
      "build",
      ".react-router",
      "node_modules",
      "test-results",
      "playwright-report",
      ".mutants",
      "**/*.as.ts",
      "**/*.wasm.ts",
    ],
  },
  js.configs.recommended,
  ...ts.configs.strict,
  ...ts.configs.stylistic,
  {
    rules: {
      "max-lines": ["error", { max: 400 }],
      "max-lines-per-function": ["error", { max: 90, skipComments: true, skipBlankLines: true }],
      complexity: ["error", 24],
      "no-console": "error",
      // The compiler's noUncheckedIndexedAccess makes every array read in a hot loop need one.
      "@typescript-eslint/no-non-null-assertion": "off",
      "@typescript-eslint/consistent-type-imports": "off",
      "@typescript-eslint/no-unused-expressions": ["error", { allowTernary: true }],
      "@typescript-eslint/no-confusing-non-null-assertion": "off",
      // Counted loops are the idiom of numerical code.
      "@typescript-eslint/prefer-for-of": "off",
    },
  },
  {
    files: ["core/**"],
    ignores: ["**/*.test.ts"],
    rules: {
      ...noImports(
        [
          "react*",
          "@mui/*",
          "dexie*",
          "node:*",
          "comlink",
          "papaparse",
          "zod",
          "**/formats*",
          "**/app/*",
          "**/cli/*",
          "**/demo/*",
        ],
        "core is pure computation: it imports nothing of the rest.",
      ),
      "no-restricted-globals": [
        "error",
        "window",
        "document",
        "localStorage",
        "fetch",
        "indexedDB",
        "Date",
        "performance",
        "setTimeout",
        "process",
      ],
      "no-restricted-syntax": [
        "error",
        {
          selector: "BinaryExpression[operator='**']:not([right.value=2])",
          message:
            "Engines round powers differently; multiply, or take pow from numerics/elementary.ts.",
        },
      ],
      "no-restricted-properties": [
        "error",
        {
          object: "Math",
          property: "random",
          message: "Draw from a RandomStream, so that a seed reproduces the run.",
        },
        ...[
          "exp",
          "expm1",
          "log",
          "log1p",
          "log2",
          "log10",
          "pow",
          "sin",
          "cos",
          "tan",
          "tanh",
          "atanh",
          "cbrt",
          "hypot",
        ].map((property) => ({
          object: "Math",
          property,
          message:
            "Engines round it differently: take it from numerics/elementary.ts, so that browser and Node give the same bits.",
        })),
      ],
    },
  },
  {
    // Their files share a worker's modules and globals (vitest.config.ts).
    files: ["{core,formats,cli,demo,docs,reference,bench,app/components}/**/*.test.{ts,tsx}"],
    rules: {
      "no-restricted-properties": [
        "error",
        ...["useFakeTimers", "stubGlobal", "stubEnv", "mock", "doMock"].map((property) => ({
          object: "vi",
          property,
          message:
            "Only tests of actions, storage, analysis and workers have a world of their own.",
        })),
      ],
    },
  },
  {
    // The app may be served without encryption, where browsers leave these out.
    files: ["app/**/*.{ts,tsx}"],
    ignores: ["app/components/ui/clipboard.ts", "app/**/*.test.{ts,tsx}"],
    rules: {
      "no-restricted-properties": [
        "error",
        ...[
          ["crypto", "randomUUID", "newName of storage/names.ts does it everywhere."],
          ["crypto", "subtle", "It does not exist on pages served without encryption."],
          ["navigator", "clipboard", "copyText and copyBoth of ui/clipboard.ts work everywhere."],
        ].map(([object, property, message]) => ({ object, property, message })),
      ],
    },
  },
  {
    // Engines are pluggable: the registry lists them, and nobody else knows one by name.
    files: ["**/*.ts", "**/*.tsx"],
    ignores: ["core/estimators/registry.ts", "core/estimators/*/**", "core/**/*.test.ts"],
    rules: {
      "@typescript-eslint/no-restricted-imports": [
        "error",
        {
          patterns: [
            {
              group: ["**/estimators/*/*", "**/estimators/*-*", "**/least-squares*"],
              message: "Only core/estimators/registry.ts names an engine.",
            },
          ],
        },
      ],
    },
  },
  {
    files: ["core/model/**", "core/design/**", "core/effects/**", "core/inference/**"],
    ignores: ["**/*.test.ts"],
    rules: noImports(
      [
        "**/estimators*",
        "**/evidence*",
        "**/prepare*",
        "**/analysis*",
        "**/app/*",
        "**/formats*",
        "**/cli/*",
      ],
      "What effects are made of knows no engine and no verdict.",
    ),
  },
  {
    files: ["core/numerics/**", "core/data/**"],
    ignores: ["**/*.test.ts"],
    rules: noImports(
      [
        "**/theory*",
        "**/estimators*",
        "**/effects*",
        "**/inference*",
        "**/evidence*",
        "**/app/*",
        "**/formats*",
      ],
      "The lower layers of core know nothing of the higher ones.",
    ),
  },
  {
    files: ["formats/**"],
    ignores: ["**/*.test.ts"],
    rules: noImports(
      ["react*", "@mui/*", "dexie*", "node:*", "**/app/*", "**/cli/*", "**/demo/*"],
      "formats reads and writes text; it has no interface and no files.",
    ),
  },
  {
    files: ["cli/**", "demo/**"],
    rules: noImports(
      ["react*", "@mui/*", "dexie*", "**/app/*"],
      "The command line does not know the app.",
    ),
  },
  // Markup breaks into more lines than logic.
  {
    files: ["app/**/*.tsx"],
    rules: {
      "max-lines-per-function": ["error", { max: 126, skipComments: true, skipBlankLines: true }],
    },
  },
  {
    // Controls and tables are components, so that one theme decides how they look and how they are reached.
    files: ["app/**/*.tsx"],
    ignores: ["app/components/ui/**", "**/*.test.tsx"],
    rules: {
      "no-restricted-syntax": [
        "error",
        {
          selector:
            "JSXOpeningElement[name.name=/^(button|input|select|textarea|table|details|dialog|progress)$/]",
          message: "Use the components of MUI or of app/components/ui/.",
        },
        {
          selector:
            "ImportDeclaration[source.value=/\\.css$/]:not([source.value=/\\.module\\.css$/]):not([source.value=/^@fontsource/])",
          message: "Styles belong into the theme, sx or, for drawings, a CSS module.",
        },
      ],
    },
  },
  { files: ["app/**/*.{ts,tsx}"], ...jsxA11y.flatConfigs.recommended },
  {
    files: ["app/**/*.{ts,tsx}"],
    plugins: { "react-hooks": hooks },
    rules: {
      "react-hooks/rules-of-hooks": "error",
      "react-hooks/exhaustive-deps": "error",
      ...noImports(["**/cli/*", "node:*"], "The app runs in a browser."),
    },
  },
  {
    files: ["app/entry.server.tsx", "app/routes/demo-study.ts"],
    rules: { "no-restricted-imports": "off", "no-console": "off" },
  },
  {
    files: ["scripts/**", "cli/**", "bench/**", "demo/write.ts", "server.mjs"],
    rules: { "no-console": "off" },
  },
  {
    files: ["**/*.mjs", "eslint.config.js"],
    languageOptions: {
      globals: {
        process: "readonly",
        Buffer: "readonly",
        console: "readonly",
        setTimeout: "readonly",
        setImmediate: "readonly",
        clearTimeout: "readonly",
        URL: "readonly",
        document: "readonly",
      },
    },
  },
  {
    files: ["**/*.test.ts", "e2e/**"],
    rules: { "max-lines-per-function": "off", complexity: "off", "no-empty-pattern": "off" },
  },
);
