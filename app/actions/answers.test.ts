import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Answers } from "./answers";

const soon = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

describe("an answer", () => {
  it("is heard once the router is through, whichever comes first", async () => {
    const answers = new Answers();
    const heard: unknown[] = [];
    for (const [sentAfter, answeredAfter] of [
      [30, 10],
      [10, 30],
    ] as const) {
      const question = answers.open();
      const started = Date.now();
      void answers
        .hear(question, soon(sentAfter), 5000)
        .then((answer) => heard.push([answer, Date.now() - started]));
      void soon(answeredAfter).then(() => answers.answer(question.ticket, sentAfter));
      await vi.advanceTimersByTimeAsync(40);
    }
    expect(heard).toEqual([
      [30, 30],
      [10, 30],
    ]);
  });

  it("goes to who asked, and is not waited for without end", async () => {
    const answers = new Answers();
    const [first, second] = [answers.open(), answers.open()];
    expect(first.ticket).not.toBe(second.ticket);
    const both = Promise.all([
      answers.hear(first, Promise.resolve(), 200),
      answers.hear(second, Promise.resolve(), 200),
    ]);
    answers.answer(second.ticket, "second");
    await vi.advanceTimersByTimeAsync(300);
    expect(await both).toEqual([undefined, "second"]);
    // Nobody waits any more.
    answers.answer(first.ticket, "late");
  });

  it("does not hide that the router failed", async () => {
    const answers = new Answers();
    const failing = Promise.reject(new Error("no route"));
    await expect(answers.hear(answers.open(), failing, 10)).rejects.toThrow("no route");
  });
});
