export const MM_PER_INCH = 25.4;
/**
 * A PNG begins with eight bytes of its own and a chunk of 25 bytes; what says how large a point is
 * comes next.
 */
const AFTER_HEADER = 33;

/**
 * The same PNG with the chunk pHYs, points to a metre both ways: word processors place a picture at
 * its size.
 * @param dpi points to an inch on paper
 */
export function withResolution(png: Uint8Array, dpi: number): Uint8Array<ArrayBuffer> {
  const perMetre = Math.round((dpi / MM_PER_INCH) * 1000);
  const chunk = new Uint8Array(21);
  const view = new DataView(chunk.buffer);
  view.setUint32(0, 9);
  chunk.set([0x70, 0x48, 0x59, 0x73], 4);
  view.setUint32(8, perMetre);
  view.setUint32(12, perMetre);
  chunk[16] = 1;
  view.setUint32(17, crc32(chunk.subarray(4, 17)));
  const out = new Uint8Array(png.length + chunk.length);
  out.set(png.subarray(0, AFTER_HEADER));
  out.set(chunk, AFTER_HEADER);
  out.set(png.subarray(AFTER_HEADER), AFTER_HEADER + chunk.length);
  return out;
}

/** The check sum of PNG chunks (ISO 3309). */
function crc32(bytes: Uint8Array): number {
  let crc = 0xffffffff;
  for (const byte of bytes) {
    crc ^= byte;
    for (let k = 0; k < 8; k++) crc = crc & 1 ? 0xedb88320 ^ (crc >>> 1) : crc >>> 1;
  }
  return (crc ^ 0xffffffff) >>> 0;
}
