import { ENGINE } from "../../core";

/** For whoever keeps the server running. */
export const loader = () =>
  Response.json({ status: "ok", engine: ENGINE }, { headers: { "Cache-Control": "no-store" } });
