// Serves the built app. It holds no study: loaders give the demo study and a health report, nothing else.
import { randomBytes } from "node:crypto";
import { createServer } from "node:http";
import { createRequestHandler } from "@react-router/express";
import compression from "compression";
import express from "express";
import sirv from "sirv";
import * as build from "./build/server/index.js";
import { byTurns } from "./scripts/turns.mjs";

const MAX_BODY_BYTES = 64 * 1024;
/** A name or an address, with a port or without. */
const HOST_NAME = /^([\w.-]+|\[[\da-f:.]+\])(:\d{1,5})?$/i;
const YEAR_S = 365 * 24 * 3600;
const app = express();
app.disable("x-powered-by");

app.use((request, response, next) => {
  const nonce = randomBytes(16).toString("base64");
  response.locals.nonce = nonce;
  response.set({
    "Content-Security-Policy": [
      "default-src 'none'",
      `script-src 'self' 'wasm-unsafe-eval' 'nonce-${nonce}'`,
      `style-src 'self' 'nonce-${nonce}'`,
      "style-src-attr 'unsafe-inline'",
      "font-src 'self'",
      "img-src 'self' data: blob:",
      "connect-src 'self'",
      "worker-src 'self'",
      "manifest-src 'self'",
      "base-uri 'none'",
      "form-action 'self'",
      "frame-ancestors 'none'",
    ].join("; "),
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Permissions-Policy": "camera=(), microphone=(), geolocation=()",
    "Referrer-Policy": "no-referrer",
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
  });
  const refuse = (status, words) => response.status(status).type("text").send(words);
  const { host = "" } = request.headers;
  if (host !== "" && !HOST_NAME.test(host))
    return refuse(400, "This request is for a host that cannot be.");
  // No route of the server takes anything: what a user enters stays in the browser. Nobody reads
  // what is sent, so its sender is let go as soon as the answer is out.
  const length = Number(request.headers["content-length"] ?? 0);
  const sends = length > 0 || request.headers["transfer-encoding"] !== undefined;
  const asks = request.method === "GET" || request.method === "HEAD";
  if (sends || !asks) {
    response.set("Connection", "close");
    response.on("finish", () => request.socket.destroySoon());
    return refuse(
      !asks ? 405 : length > MAX_BODY_BYTES ? 413 : 400,
      "This server accepts no data.",
    );
  }
  next();
});
// Files of the build lie there compressed already; whatever does not is compressed as it is sent.
app.use(compression());
app.use("/assets", sirv("build/client/assets", { gzip: true, immutable: true, maxAge: YEAR_S }));
// A name of an older version must not be answered with a page.
app.use("/assets", (_request, _response, next) => next({ status: 404 }));
// Browsers ask for it by this name wherever a page does not name another, as a picture alone does not.
app.get("/favicon.ico", (_request, response) => response.redirect(301, "/favicon.svg"));
app.use(
  express.static("build/client", {
    maxAge: "1h",
    setHeaders: (response, path) => {
      // The browser has to see at once that there is a newer version.
      if (/sw\.js$|\.webmanifest$/.test(path)) response.set("Cache-Control", "no-cache");
    },
  }),
);
app.use(
  createRequestHandler({
    build,
    getLoadContext: (_, response) => ({ nonce: response.locals.nonce }),
  }),
);

// Whatever goes wrong with a request is said in a line; how the program is made is nobody's business.
// Express knows a handler of errors by its four parameters.
app.use((error, request, response, next) => {
  if (response.headersSent) return next(error);
  const status = error.status ?? error.statusCode ?? (error instanceof URIError ? 400 : 500);
  if (status >= 500) console.error(`${request.method} ${request.path}: ${error.message}`);
  response
    .status(status)
    .set("Cache-Control", "no-store")
    .type("text")
    .send(
      status === 404
        ? "There is nothing at this address."
        : status < 500
          ? "This request cannot be read."
          : "The server could not answer.",
    );
});

/** A request that takes longer than this to arrive is given up. */
const REQUEST_MS = 30_000;
/** So long open requests may end after the signal to stop. */
const GRACE_MS = 10_000;

const asked = process.env.PORT ?? "3000";
const port = Number(asked);
if (!Number.isInteger(port) || port < 0 || port > 65_535) {
  console.error(`PORT is “${asked}”; it must be a number from 0 to 65535, such as PORT=3000.`);
  process.exit(1);
}
// Nothing of anybody's is here, so it listens everywhere unless HOST says where.
const host = process.env.HOST;
// Nothing is done for a request before its turn. What costs nothing, and is asked for by machines
// that look after the server, waits for nobody.
const inTurn = byTurns(
  ({ method, url }) => method !== "GET" || url === "/health" || url.startsWith("/assets/"),
);
const server = createServer((request, response) =>
  inTurn(request, response, () => app(request, response)),
);
server.listen(port, host);
server.requestTimeout = REQUEST_MS;
server.headersTimeout = REQUEST_MS;
server.on("listening", () =>
  console.log(`Hebel is served at http://${host ?? "localhost"}:${server.address().port}`),
);
server.on("error", (error) => {
  console.error(
    error.code === "EADDRINUSE"
      ? `Port ${port} is in use by another program. Choose another: PORT=${port + 1} npm start`
      : error.code === "EADDRNOTAVAIL" || error.code === "ENOTFOUND"
        ? `HOST is “${host}”, which is no address of this machine. Try HOST=127.0.0.1, or leave it out.`
        : error.code === "EACCES"
          ? `Port ${port} may not be used by this account. Choose one above 1023: PORT=3000 npm start`
          : `The server could not start: ${error.message}`,
  );
  process.exit(1);
});
for (const signal of ["SIGTERM", "SIGINT"])
  process.once(signal, () => {
    server.close(() => process.exit(0));
    server.closeIdleConnections();
    setTimeout(() => {
      server.closeAllConnections();
      process.exit(0);
    }, GRACE_MS).unref();
  });
