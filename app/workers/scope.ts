/** What a worker says when it is there. */
export const HELLO = "here";

/** Where tasks are asked for and answered: the worker itself, or a port to the page. */
export type Port = Pick<MessagePort, "postMessage" | "addEventListener" | "removeEventListener">;

/** The worker that this is run in. */
export const scope = globalThis as unknown as Port;
