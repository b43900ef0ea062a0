// Before the unit tests: the command line is bundled, so that its tests start what people start.
import { ensureCommandLine } from "./ensure.mjs";

export const setup = ensureCommandLine;
