/** That a sentence, or one name of it, takes part in nothing, and why. */
export const leftOutWords = ({
  text,
  name,
  message,
}: {
  text: string;
  name: string | null;
  message: string;
}): string =>
  name === null
    ? `“${text}” could not be read and takes part in nothing: ${message}`
    : `“${name}” is left out of “${text}”: ${message}`;
