import type { Port } from "./scope";

/** What a thread says to a question. */
export type Reply<Answer> = { answer: Answer } | { fault: string };

/**
 * Answers every question that comes to a port.
 * @param answer what to say, and what of it is handed over instead of copied
 */
export function answering<Question, Answer>(
  port: Port,
  answer: (question: Question) => Promise<Answer> | Answer,
  handedOver: (answer: Answer) => Transferable[] = () => [],
): void {
  const reply = async (question: Question): Promise<void> => {
    try {
      const found = await answer(question);
      port.postMessage({ answer: found }, handedOver(found));
    } catch (error) {
      port.postMessage({ fault: error instanceof Error ? error.message : String(error) });
    }
  };
  port.addEventListener("message", (event) => void reply((event as MessageEvent<Question>).data));
}
