import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import packages from "virtual:licences";
import { ENGINE } from "../../../core";
import { Dialog } from "../ui/dialog";
import { NumberTable } from "../ui/number-table";

/** Which version this is, what it does with data, and whose work is in it. */
export function AboutDialog({ close }: { close: () => void }) {
  return (
    <Dialog
      title="About Hebel"
      width="md"
      close={close}
      actions={<Button onClick={close}>Close</Button>}
    >
      <Typography sx={{ fontFamily: "var(--serif)", mb: 1.5, maxWidth: "65ch" }}>
        Version {ENGINE.replace(/^hebel /, "")}. Studies stay in this browser and in files that you
        export; nothing is sent anywhere. Hebel itself is under the MIT licence.
      </Typography>
      <NumberTable
        title="Packages and their licences"
        heading={<Typography variant="h3">Packages and their licences</Typography>}
        columns={["package", "version", "licence"]}
        words={[1, 2]}
        rows={packages.map(({ name, version, licence }) => ({
          key: `${name} ${version}`,
          cells: [name, version, licence],
        }))}
      />
    </Dialog>
  );
}
