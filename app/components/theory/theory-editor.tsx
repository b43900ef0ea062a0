import { autocompletion, type CompletionSource } from "@codemirror/autocomplete";
import { defaultKeymap, history, historyField, historyKeymap } from "@codemirror/commands";
import { HighlightStyle, StreamLanguage, syntaxHighlighting } from "@codemirror/language";
import { setDiagnostics, type Diagnostic } from "@codemirror/lint";
import { Compartment, EditorState, type EditorStateConfig } from "@codemirror/state";
import { EditorView, keymap, lineNumbers, placeholder } from "@codemirror/view";
import { tags } from "@lezer/highlight";
import { use, useEffect, useRef } from "react";
import { RESERVED, writeName, type Complaint } from "../../../core";
import { NonceContext } from "../../theme/nonce";

interface Props {
  text: string;
  complaints: Complaint[];
  variables: string[];
  change: (text: string) => void;
}

/** Words of the notation, names, labels and comments, each in its colour. */
const notation = StreamLanguage.define({
  token(stream) {
    if (stream.eatSpace()) return null;
    if (stream.match(/#.*/)) return "comment";
    if (stream.match(/[“"][^”"]*[”"]?/)) return "string";
    if (stream.match(/[\p{L}\p{N}_.]+(?=\s*:)/u)) return "labelName";
    const word = stream.match(/[\p{L}\p{N}_.]+/u);
    if (Array.isArray(word)) return RESERVED.has(word[0]) ? "keyword" : "variableName";
    stream.next();
    return null;
  },
});

const colours = HighlightStyle.define([
  { tag: tags.keyword, color: "var(--petrol)", fontStyle: "italic" },
  { tag: tags.labelName, color: "var(--quiet)" },
  { tag: tags.comment, color: "var(--faint)", fontStyle: "italic" },
]);

const look = EditorView.theme({
  "&": {
    border: "1px solid var(--line)",
    backgroundColor: "var(--sheet)",
    fontSize: "15px",
    minHeight: "300px",
  },
  "&.cm-focused": { outline: "2px solid var(--petrol)" },
  ".cm-content": { fontFamily: "var(--serif)", lineHeight: "1.7", caretColor: "var(--ink)" },
  ".cm-cursor": { borderLeftColor: "var(--ink)" },
  ".cm-gutters": {
    backgroundColor: "var(--paper)",
    color: "var(--faint)",
    border: "0",
    fontFamily: "var(--serif)",
    lineHeight: "1.7",
  },
  "&.cm-focused > .cm-scroller > .cm-selectionLayer .cm-selectionBackground, .cm-selectionBackground":
    { backgroundColor: "var(--petrol-wash)" },
  ".cm-tooltip": {
    backgroundColor: "var(--sheet)",
    color: "var(--ink)",
    border: "1px solid var(--line)",
  },
  ".cm-tooltip.cm-tooltip-autocomplete > ul": { fontFamily: "var(--sans)", fontSize: "14px" },
  ".cm-tooltip-autocomplete ul li[aria-selected]": {
    backgroundColor: "var(--petrol-wash)",
    color: "var(--ink)",
  },
  ".cm-diagnostic": { borderLeft: "3px solid var(--rust)" },
  ".cm-lintRange-error": {
    backgroundImage: "none",
    borderBottom: "2px solid var(--rust)",
  },
});

/** Variables of the study and words of the notation, once a letter is typed. */
const completing =
  (variables: () => readonly string[]): CompletionSource =>
  (context) => {
    const word = context.matchBefore(/[\p{L}\p{N}_.]+/u);
    if (!word) return null;
    return {
      from: word.from,
      options: [
        ...variables().map((name) => ({
          label: name,
          apply: writeName(name),
          type: "variable",
          boost: 1,
        })),
        ...[...RESERVED].map((label) => ({ label, type: "keyword" })),
      ],
    };
  };

/** Complaints where they are. */
function diagnosticsOf(state: EditorState, complaints: readonly Complaint[]): Diagnostic[] {
  return complaints
    .filter(({ line }) => line <= state.doc.lines)
    .map(({ line, column, length, message }) => {
      const whole = state.doc.line(line);
      const from = Math.min(whole.from + column - 1, whole.to);
      return { from, to: Math.min(from + length, whole.to), severity: "error", message };
    });
}

const FIELDS = { history: historyField };
/** The editor as it was left, so that what was typed can be undone after coming back. */
let left: { doc: string; state: unknown } | null = null;
const cameBack = (config: EditorStateConfig): EditorState =>
  EditorState.fromJSON(left!.state, config, FIELDS);

/** The theory as text: coloured, completed, with complaints in place and an undo of its own. */
export default function TheoryEditor({ text, complaints, variables, change }: Props) {
  const nonce = use(NonceContext);
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(null);
  const latest = useRef({ variables, change, text });
  // What was typed here and has not come back yet: its echo must never replace what has been typed
  // since.
  const sent = useRef<string[]>([]);
  const applying = useRef(false);
  useEffect(() => {
    latest.current = { variables, change, text };
  });
  useEffect(() => {
    const styles = new Compartment();
    const config = {
      extensions: [
        styles.of(nonce ? EditorView.cspNonce.of(nonce) : []),
        lineNumbers(),
        history(),
        keymap.of([...defaultKeymap, ...historyKeymap]),
        EditorView.lineWrapping,
        notation,
        syntaxHighlighting(colours),
        autocompletion({
          override: [completing(() => latest.current.variables)],
          icons: false,
        }),
        placeholder("H1: hours raises belonging through confidence"),
        EditorView.contentAttributes.of({ "aria-label": "Theory as text", spellcheck: "false" }),
        look,
        EditorView.updateListener.of((update) => {
          if (!update.docChanged || applying.current) return;
          const typed = update.state.doc.toString();
          sent.current.push(typed);
          latest.current.change(typed);
        }),
      ],
    };
    const made = new EditorView({
      state:
        left?.doc === latest.current.text
          ? cameBack(config)
          : EditorState.create({ ...config, doc: latest.current.text }),
      parent: host.current!,
    });
    view.current = made;
    return () => {
      left = { doc: made.state.doc.toString(), state: made.state.toJSON(FIELDS) };
      made.destroy();
    };
  }, [nonce]);
  useEffect(() => {
    const { current } = view;
    if (!current) return;
    const echo = sent.current.indexOf(text);
    if (echo >= 0) {
      sent.current.splice(0, echo + 1);
      return;
    }
    // Changed elsewhere: by undo, by a suggestion, in another tab.
    const now = current.state.doc.toString();
    if (now === text) return;
    sent.current = [];
    applying.current = true;
    current.dispatch({ changes: { from: 0, to: now.length, insert: text } });
    applying.current = false;
  }, [text]);
  useEffect(() => {
    const { current } = view;
    if (current)
      current.dispatch(setDiagnostics(current.state, diagnosticsOf(current.state, complaints)));
  }, [complaints]);
  return <div ref={host} />;
}
