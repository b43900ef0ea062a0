/** Remainders of single bytes for the polynomial of zip archives (ISO 3309), reflected. */
const TABLE = Uint32Array.from({ length: 256 }, (_, byte) => {
  let rest = byte;
  for (let bit = 0; bit < 8; bit++) rest = rest & 1 ? (rest >>> 1) ^ 0xedb88320 : rest >>> 1;
  return rest;
});

/**
 * CRC-32 of bytes that arrive in pieces.
 * @param before of the pieces so far; 0 before the first
 */
export function crc32(bytes: Uint8Array, before = 0): number {
  let rest = ~before;
  for (let i = 0; i < bytes.length; i++) rest = TABLE[(rest ^ bytes[i]!) & 255]! ^ (rest >>> 8);
  return ~rest >>> 0;
}
