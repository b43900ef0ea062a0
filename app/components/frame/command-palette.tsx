import Dialog from "@mui/material/Dialog";
import { useKnownCommands } from "../../commands/registry";
import { Picker } from "../ui/picker";

/** Every command by name, found by typing. */
export function CommandPalette({ close }: { close: () => void }) {
  const commands = useKnownCommands();
  return (
    <Dialog
      open
      onClose={close}
      fullWidth
      maxWidth="sm"
      aria-label="Commands"
      sx={{
        "& .MuiDialog-container": { alignItems: "flex-start" },
        "& .MuiDialog-paper": { m: { xs: 1, sm: 4 } },
      }}
    >
      <Picker
        serif
        label="Find a command"
        placeholder="What do you want to do?"
        nothing="No command has these letters in its name."
        options={commands.map(({ name, keys }) => ({ value: name, detail: keys }))}
        choose={(name) => {
          close();
          commands.find((command) => command.name === name)?.run();
        }}
      />
    </Dialog>
  );
}
