// Pages that the server makes, a few at a time and in turn for everybody who asks.

/** So many pages are made at once. */
const AT_ONCE = 8;
/** A page that its reader does not take off holds up the others no longer than this. */
const MOST_MS = 1000;

/**
 * Middleware that lets requests through by turns: each connection has one page made at a time, and
 * those that wait come round one after another, however many requests each has sent ahead. What one
 * connection asks for by the thousand keeps nobody else waiting by more than one page of each.
 * @param atOnce which requests need no turn
 * @returns the middleware
 */
export function byTurns(atOnce) {
  /** What waits, by connection; the first is next. */
  const waiting = new Map();
  const served = new Set();
  let due = false;

  const look = () => {
    due = false;
    for (const [socket, requests] of waiting) {
      if (served.size >= AT_ONCE) return;
      if (served.has(socket)) continue;
      const { response, next } = requests.shift();
      // Whoever has been served goes to the end.
      waiting.delete(socket);
      if (requests.length > 0) waiting.set(socket, requests);
      if (!socket.destroyed) serve(socket, response, next);
    }
  };
  const soon = () => {
    if (!due) setImmediate(look);
    due = true;
  };
  const serve = (socket, response, next) => {
    served.add(socket);
    let timer;
    const free = () => {
      clearTimeout(timer);
      served.delete(socket);
      if (waiting.size > 0) soon();
    };
    timer = setTimeout(free, MOST_MS);
    response.once("finish", free);
    response.once("close", free);
    next();
  };

  return (request, response, next) => {
    if (atOnce(request)) return next();
    const { socket } = request;
    const requests = waiting.get(socket);
    if (requests) requests.push({ response, next });
    else {
      waiting.set(socket, [{ response, next }]);
      socket.once("close", () => waiting.delete(socket));
      soon();
    }
  };
}
