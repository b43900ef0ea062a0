/**
 * A file that cannot be read, in words that name the place and say what to do. Nothing is changed
 * when it is thrown.
 */
export class FormatProblem extends Error {
  constructor(message: string) {
    super(message);
    this.name = "FormatProblem";
  }
}
