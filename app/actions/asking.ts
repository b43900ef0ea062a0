import { useCallback, useEffect, useRef } from "react";
import { useFetcher } from "react-router";
import { Answers } from "./answers";

const answers = new Answers();

/** So long an action may go on after a newer request has taken its place. */
const GRACE_MS = 5000;

/**
 * A request of a route's action, sent as JSON; resolves with what the action answered once the
 * pages have been read anew.
 */
export type Ask<O> = (body: object, action: string) => Promise<O | null>;

/**
 * Asks a route's action and hears its answer where it asked. The answer is not read from the
 * fetcher: that looks into a map which changes between drawings, so an effect that waits for it
 * never runs where the drawing that saw it first was given up.
 * @param key names the fetcher, so that a newer request replaces one that is still being read after
 * @returns a function that stays the same; it resolves with null where the action redirected or
 *   never ran
 */
export function useAsk<O>(key?: string): Ask<O> {
  const { submit } = useFetcher(key ? { key } : {});
  const latest = useRef(submit);
  useEffect(() => {
    latest.current = submit;
  });
  return useCallback(async (body, action) => {
    const question = answers.open();
    const sent = latest.current(JSON.stringify({ ...body, ticket: question.ticket }), {
      method: "post",
      action,
      encType: "application/json",
    });
    const answer = await answers.hear(question, sent, GRACE_MS);
    return answer === undefined || answer instanceof Response ? null : (answer as O);
  }, []);
}

/**
 * Answers a request in a route's action: who asked with `useAsk` hears it, and so does the router.
 */
export async function answering<O>(
  request: Request,
  carryOut: (body: unknown) => Promise<O>,
): Promise<O> {
  const body: unknown = await request.json();
  const outcome = await carryOut(body);
  const ticket = ticketOf(body);
  if (ticket !== null) answers.answer(ticket, outcome);
  return outcome;
}

const ticketOf = (body: unknown): string | null =>
  typeof body === "object" && body !== null && "ticket" in body && typeof body.ticket === "string"
    ? body.ticket
    : null;
