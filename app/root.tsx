import "@fontsource-variable/source-sans-3";
import "@fontsource-variable/source-serif-4";
import "@fontsource-variable/source-serif-4/wght-italic.css";
import InitColorSchemeScript from "@mui/material/InitColorSchemeScript";
import { use } from "react";
import {
  isRouteErrorResponse,
  Links,
  Meta,
  Outlet,
  Scripts,
  ScrollRestoration,
} from "react-router";
import type { Route } from "./+types/root";
import { NonceContext } from "./theme/nonce";
import { LOOK_ATTRIBUTE, LOOK_KEY, LookProvider } from "./theme/theme";
import { TOKENS_CSS } from "./theme/tokens";
import { UpdateNotice } from "./components/frame/update-notice";
import { Mark } from "./components/mark";
import { keepingOf } from "./storage/open";

export const meta: Route.MetaFunction = () => [
  { title: "Hebel" },
  { name: "description", content: "From numbered hypotheses to evidence." },
];

export const links: Route.LinksFunction = () => [
  { rel: "icon", href: "/favicon.svg", type: "image/svg+xml" },
  { rel: "manifest", href: "/manifest.webmanifest" },
];

export function Layout({ children }: { children: React.ReactNode }) {
  const nonce = use(NonceContext);
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <Meta />
        <Links />
        <style
          nonce={nonce}
          suppressHydrationWarning
          dangerouslySetInnerHTML={{ __html: TOKENS_CSS }}
        />
      </head>
      <body>
        <InitColorSchemeScript
          attribute={LOOK_ATTRIBUTE}
          modeStorageKey={LOOK_KEY}
          defaultMode="system"
          {...(nonce ? { nonce } : {})}
        />
        {children}
        <ScrollRestoration nonce={nonce} />
        <Scripts nonce={nonce} />
      </body>
    </html>
  );
}

/** Keeps the server's part to an empty shell: studies live in the browser. */
export async function clientLoader() {
  return null;
}
clientLoader.hydrate = true as const;

export function HydrateFallback() {
  return (
    <main className="opening" aria-busy="true">
      <Mark />
      <p>Opening …</p>
    </main>
  );
}

export default function Root() {
  return (
    <LookProvider>
      <Outlet />
      <UpdateNotice />
    </LookProvider>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  const overtaken = keepingOf().kind === "overtaken";
  const message = overtaken
    ? "The studies of this browser have been taken over by a newer version of Hebel, or were cleared, in another tab. Reload to see them."
    : isRouteErrorResponse(error)
      ? String(error.data || error.statusText)
      : error instanceof Error
        ? error.message
        : "Something unexpected happened.";
  return (
    <main className="opening">
      <Mark />
      <h1>
        {isRouteErrorResponse(error) && error.status === 404
          ? "Nothing stands here"
          : "This page could not be shown"}
      </h1>
      <p>{message}</p>
      <p>
        Your studies are kept in this browser and are not affected.{" "}
        <a href="/">Back to the shelf</a>
      </p>
    </main>
  );
}
