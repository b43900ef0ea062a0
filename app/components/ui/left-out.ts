import { createContext, useContext } from "react";

/** What of the theory could not be read, in sentences; empty where everything was. */
const Words = createContext("");

export const LeftOutOfNumbers = Words.Provider;

/** What every file of numbers says of sentences that take part in none of them. */
export const useLeftOutWords = (): string => useContext(Words);
