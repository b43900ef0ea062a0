import { createContext, useContext } from "react";

/**
 * Are the numbers on this page those of the study as it was before? Then nothing is taken along as
 * if they were of now.
 */
const OfBefore = createContext(false);

export const NumbersOfBefore = OfBefore.Provider;

const WHY = "These numbers are of the study as it was before; wait for the new ones";

/** What a button that takes numbers along is given. */
export function useTaking(): { disabled?: true; title?: string } {
  return useContext(OfBefore) ? { disabled: true, title: WHY } : {};
}
