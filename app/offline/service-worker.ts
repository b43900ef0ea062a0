import { cleanupOutdatedCaches, matchPrecache, precacheAndRoute } from "workbox-precaching";
import { registerRoute } from "workbox-routing";
import { DEMO, pageFor, PAGES } from "./pages";

/** What this file uses of the scope it runs in. */
interface Scope {
  __WB_MANIFEST: { url: string; revision: string | null }[];
  addEventListener(
    type: "activate" | "message",
    listener: (event: { waitUntil(task: Promise<unknown>): void; data?: unknown }) => void,
  ): void;
  skipWaiting(): Promise<void>;
  clients: { claim(): Promise<void> };
}
declare const self: Scope;

/** Changes with every build, so that pages are fetched anew with the program that they start. */
declare const BUILD: string;

// The whole program, its pages and the demo studies are fetched once and then served from here, all
// of one version: a newer one is fetched beside it and waits until the reader takes it.
precacheAndRoute(
  [...self.__WB_MANIFEST, ...[...PAGES, ...DEMO].map((url) => ({ url, revision: BUILD }))],
  { ignoreURLParametersMatching: [], cleanURLs: false, directoryIndex: "" },
);
cleanupOutdatedCaches();

registerRoute(
  ({ request, url }) => request.mode === "navigate" && pageFor(url.pathname) !== null,
  async ({ request, url }) =>
    (await matchPrecache(pageFor(url.pathname)!)) ?? fetch(request as Request),
);

// The first version takes over pages that are open already: from then on nothing needs the network.
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));
self.addEventListener("message", ({ data }) => {
  if (data === "take the new version") void self.skipWaiting();
});
