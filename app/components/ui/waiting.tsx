import Skeleton from "@mui/material/Skeleton";
import Typography from "@mui/material/Typography";
import { Screen } from "./layout";

/** A screen whose numbers are on their way. */
export function Waiting({ title }: { title: string }) {
  return (
    <Screen aria-busy sx={{ display: "grid", gap: 2, maxWidth: 900 }}>
      <Typography variant="h1">{title}</Typography>
      <Typography color="textSecondary" role="status">
        Estimating …
      </Typography>
      <Skeleton variant="rectangular" height={90} />
      <Skeleton variant="rectangular" height={220} />
    </Screen>
  );
}
