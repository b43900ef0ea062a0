import { startTransition, StrictMode } from "react";
import { hydrateRoot } from "react-dom/client";
import { HydratedRouter } from "react-router/dom";
import { openStore } from "./storage/open";
import { NonceContext } from "./theme/nonce";

// Browsers hide the attribute but keep the property.
const nonce = document.querySelector<HTMLScriptElement>("script[nonce]")?.nonce;

// Loaders read the store as soon as the page is alive.
void openStore().then(() =>
  startTransition(() => {
    hydrateRoot(
      document,
      <StrictMode>
        <NonceContext value={nonce}>
          <HydratedRouter />
        </NonceContext>
      </StrictMode>,
    );
  }),
);
