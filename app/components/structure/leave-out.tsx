import Button from "@mui/material/Button";

/** Tries the model without an item. */
export type LeaveOutItem = (measure: string, item: string) => void;

/** One click to see what the theory says without an item. */
export const LeaveOut = ({
  item,
  from,
  leaveOut,
}: {
  item: string;
  from: string;
  leaveOut: LeaveOutItem;
}) => (
  <Button
    variant="text"
    sx={{ py: 0, minHeight: 0, lineHeight: 1.4 }}
    aria-label={`Leave ${item} out of ${from}`}
    onClick={() => leaveOut(from, item)}
  >
    Leave out
  </Button>
);
