import { createContext, useContext } from "react";

/**
 * What of the theory could not be read and what has not settled yet, in sentences; empty where
 * everything was and has.
 */
const Words = createContext("");

export const LeftOutOfNumbers = Words.Provider;

/** What every file of numbers says besides them. */
export const useLeftOutWords = (): string => useContext(Words);
