import { useLook } from "../../theme/theme";
import { ThemeIcon } from "../icons";
import { IconAction } from "../ui/icon-button";

/** Light or dark. */
export function LookToggle() {
  const { look, choose } = useLook();
  const other = look === "dark" ? "light" : "dark";
  return (
    <IconAction name={`Switch to the ${other} look`} onClick={() => choose(other)}>
      <ThemeIcon />
    </IconAction>
  );
}
