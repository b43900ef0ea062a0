import { createHash } from "node:crypto";
import { deserialize, serialize } from "node:v8";
import type { Done, Work } from "./work";

/**
 * What a job carries: bytes as text, so that numbers arrive to the last bit, not-a-number and
 * infinities too.
 */
export const packed = (value: unknown): string => serialize(value).toString("base64");

export const unpacked = (text: string): unknown => deserialize(Buffer.from(text, "base64"));

export const unpackedWork = (text: string): Work => unpacked(text) as Work;
export const unpackedDone = (text: string): Done => unpacked(text) as Done;

/** Names work by what it is: the same work has the same name, whoever asks and how often. */
export const nameOf = (text: string): string =>
  createHash("sha256").update(text).digest("hex").slice(0, 40);
