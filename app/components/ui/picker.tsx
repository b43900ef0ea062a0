import Box from "@mui/material/Box";
import InputBase from "@mui/material/InputBase";
import List from "@mui/material/List";
import ListItemButton from "@mui/material/ListItemButton";
import Typography from "@mui/material/Typography";
import { useEffect, useId, useRef, useState, type KeyboardEvent } from "react";

export interface Pick {
  value: string;
  /** In words, where they differ from the value. */
  words?: string;
  /** What tells it from others of similar name; shown at its right, and searched too. */
  detail?: string | undefined;
}

interface Props {
  label: string;
  placeholder?: string;
  options: readonly Pick[];
  choose: (value: string) => void;
  /** The choice that stands now; marked, and where the list begins. */
  current?: string | null;
  /** What is said when nothing fits. */
  nothing?: string;
  serif?: boolean;
}

const has = (text: string | undefined, query: string): boolean =>
  text !== undefined && text.toLowerCase().includes(query);

/**
 * Those that begin with what is typed come first, then those that hold it in their name, then in
 * their detail.
 */
function found(options: readonly Pick[], typed: string): readonly Pick[] {
  const query = typed.trim().toLowerCase();
  if (query === "") return options;
  const rank = (option: Pick): number => {
    const words = (option.words ?? option.value).toLowerCase();
    if (words.startsWith(query)) return 0;
    return words.includes(query) ? 1 : has(option.detail, query) ? 2 : 3;
  };
  return options
    .map((option) => ({ option, at: rank(option) }))
    .filter(({ at }) => at < 3)
    .sort((a, b) => a.at - b.at)
    .map(({ option }) => option);
}

/**
 * A list that is narrowed by typing; arrow keys and Enter choose, and nothing covers what is typed.
 */
export function Picker({ label, placeholder, options, choose, current, nothing, serif }: Props) {
  const id = useId();
  const [typed, setTyped] = useState("");
  const first = Math.max(
    0,
    options.findIndex((o) => o.value === current),
  );
  const [at, setAt] = useState(first);
  const shown = found(options, typed);
  const onKeyDown = (event: KeyboardEvent): void => {
    const move = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 }[event.key];
    if (move !== undefined) setAt((i) => Math.max(0, Math.min(i + move, shown.length - 1)));
    else if (event.key === "Enter" && shown[at]) choose(shown[at].value);
    else return;
    // The key is spent: what gets the focus afterwards must not be pressed by it too.
    event.preventDefault();
  };
  return (
    <>
      <InputBase
        // A picker is opened to be typed into.
        // eslint-disable-next-line jsx-a11y/no-autofocus
        autoFocus
        fullWidth
        placeholder={placeholder ?? label}
        value={typed}
        inputProps={{
          role: "combobox",
          "aria-expanded": true,
          "aria-controls": id,
          "aria-activedescendant": shown[at] ? `${id}-${at}` : undefined,
          "aria-label": label,
          autoComplete: "off",
        }}
        sx={{
          borderBottom: "1px solid var(--line)",
          fontSize: serif ? "1.1rem" : 15,
          fontFamily: serif ? "var(--serif)" : "inherit",
          "& input": { p: serif ? "14px 18px" : "9px 14px", outlineOffset: -2 },
        }}
        onChange={(e) => {
          setTyped(e.target.value);
          setAt(0);
        }}
        onKeyDown={onKeyDown}
      />
      <List
        id={id}
        role="listbox"
        aria-label={label}
        sx={{ maxHeight: "min(50vh, 340px)", overflow: "auto", py: 0 }}
      >
        {shown.map((option, i) => (
          <Line
            key={option.value}
            id={`${id}-${i}`}
            option={option}
            pointed={i === at}
            current={option.value === current}
            choose={() => choose(option.value)}
            point={() => setAt(i)}
          />
        ))}
      </List>
      {shown.length === 0 && (
        <Typography variant="body2" color="textSecondary" sx={{ p: "10px 14px" }}>
          {nothing ?? "Nothing here has these letters."}
        </Typography>
      )}
    </>
  );
}

interface LineProps {
  id: string;
  option: Pick;
  pointed: boolean;
  current: boolean;
  choose: () => void;
  point: () => void;
}

function Line({ id, option, pointed, current, choose, point }: LineProps) {
  const line = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (pointed) line.current?.scrollIntoView({ block: "nearest" });
  }, [pointed]);
  return (
    <ListItemButton
      ref={line}
      id={id}
      role="option"
      aria-label={option.words ?? option.value}
      aria-describedby={option.detail ? `${id}-detail` : undefined}
      aria-selected={pointed}
      selected={pointed}
      tabIndex={-1}
      onClick={choose}
      onMouseMove={point}
      sx={{
        justifyContent: "space-between",
        gap: 2,
        py: "5px",
        px: "14px",
        fontSize: 14,
        "&.Mui-selected, &.Mui-selected:hover": { backgroundColor: "var(--petrol-wash)" },
      }}
    >
      <Box component="span" sx={{ fontWeight: current ? 600 : 400 }}>
        {option.words ?? option.value}
      </Box>
      {option.detail && (
        <Typography
          component="span"
          id={`${id}-detail`}
          variant="caption"
          color="textSecondary"
          noWrap
        >
          {option.detail}
        </Typography>
      )}
    </ListItemButton>
  );
}
