import type { EventEmitter } from "node:events";

interface Request {
  socket: EventEmitter & { destroyed: boolean };
  url: string;
}

export function byTurns(
  atOnce: (request: Request) => boolean,
): (request: Request, response: EventEmitter, next: () => void) => void;
