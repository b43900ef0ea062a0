/**
 * A name that nothing else has: so many random bytes in hexadecimal digits. Unlike
 * `crypto.randomUUID` this also exists on pages that are served without encryption.
 */
export const newName = (bytes: number): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(bytes)), (byte) =>
    byte.toString(16).padStart(2, "0"),
  ).join("");
