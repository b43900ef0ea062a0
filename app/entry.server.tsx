import { PassThrough } from "node:stream";
import { createReadableStreamFromReadable } from "@react-router/node";
import { isbot } from "isbot";
import { renderToPipeableStream } from "react-dom/server";
import { ServerRouter, type AppLoadContext, type EntryContext } from "react-router";
import { NonceContext } from "./theme/nonce";

const TIMEOUT_MS = 5_000;

/** Streams the shell; every style and script carries the nonce of the content-security policy. */
export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  context: EntryContext,
  load: AppLoadContext,
) {
  const nonce = typeof load?.nonce === "string" ? load.nonce : undefined;
  return new Promise<Response>((resolve, reject) => {
    const whole = isbot(request.headers.get("user-agent"));
    const { pipe, abort } = renderToPipeableStream(
      <NonceContext value={nonce}>
        <ServerRouter context={context} url={request.url} nonce={nonce} />
      </NonceContext>,
      {
        nonce,
        [whole ? "onAllReady" : "onShellReady"]() {
          const body = new PassThrough();
          body.once("close", () => clearTimeout(timer));
          headers.set("Content-Type", "text/html; charset=utf-8");
          headers.set("Cache-Control", "no-cache");
          resolve(new Response(createReadableStreamFromReadable(body), { headers, status }));
          pipe(body);
        },
        onShellError: reject,
        onError: (error) => console.error(error),
      },
    );
    const timer = setTimeout(abort, TIMEOUT_MS);
  });
}
