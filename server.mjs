// Serves the built app. It holds no study: loaders give the demo study and a health report, nothing else.
import { randomBytes } from "node:crypto";
import { createRequestHandler } from "@react-router/express";
import compression from "compression";
import express from "express";
import * as build from "./build/server/index.js";

const MAX_BODY_BYTES = 64 * 1024;
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
  if (
    Number(request.headers["content-length"] ?? 0) > MAX_BODY_BYTES ||
    (request.method !== "GET" && request.method !== "HEAD")
  ) {
    // No route of the server takes anything: what a user enters stays in the browser.
    response
      .status(request.method === "GET" ? 413 : 405)
      .type("text")
      .send("This server accepts no data.");
    return;
  }
  next();
});
app.use(compression());
app.use("/assets", express.static("build/client/assets", { immutable: true, maxAge: "1y" }));
app.use(express.static("build/client", { maxAge: "1h" }));
app.use(
  createRequestHandler({
    build,
    getLoadContext: (_, response) => ({ nonce: response.locals.nonce }),
  }),
);

const port = Number(process.env.PORT ?? 3000);
app.listen(port, () => console.log(`Hebel is served at http://localhost:${port}`));
