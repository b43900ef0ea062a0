import Box from "@mui/material/Box";

/** An item by its name, with its wording beside it where there is one. */
export function ItemWords({ item, wording }: { item: string; wording: string | undefined }) {
  return (
    <>
      {item}
      {wording !== undefined && wording !== item && (
        <Box component="span" sx={{ color: "var(--quiet)", fontSize: 13, ml: 1 }}>
          {wording}
        </Box>
      )}
    </>
  );
}
