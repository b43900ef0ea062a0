/**
 * Which changes of this tab are in the store, and since which revision: a state read from the store
 * holds those up to its own revision, and none that came later. It is noted within the transaction
 * that writes, so no state is read before it is known what stands in it.
 */
const throughAt = new Map<number, number>();
let last = 0;

/** A number for a change, larger than those before. */
export const nextSerial = (): number => ++last;

/** A change is decided in the store, as of this revision: written, or another tab's stands. */
export const noteThrough = (serial: number, revision: number): void =>
  void throughAt.set(serial, revision);

/** A change was not written after all, or nobody asks for it any more. */
export const forgetThrough = (serial: number): void => void throughAt.delete(serial);

/** @returns whether the state of that revision holds what became of the change */
export const isThrough = (serial: number, revision: number): boolean =>
  (throughAt.get(serial) ?? Infinity) <= revision;
