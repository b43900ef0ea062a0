import { startTransition, StrictMode } from "react";
import { hydrateRoot } from "react-dom/client";
import { HydratedRouter } from "react-router/dom";
import { keepProgram } from "./offline/updates";
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

// Not while the page is still opening.
const settle = (): unknown => setTimeout(() => void keepProgram(), 2000);
if (document.readyState === "complete") settle();
else addEventListener("load", settle);
