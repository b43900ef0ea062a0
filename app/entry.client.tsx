import { startTransition, StrictMode } from "react";
import { hydrateRoot } from "react-dom/client";
import { HydratedRouter } from "react-router/dom";
import { NonceContext } from "./theme/nonce";

// Browsers hide the attribute but keep the property.
const nonce = document.querySelector<HTMLScriptElement>("script[nonce]")?.nonce;

startTransition(() => {
  hydrateRoot(
    document,
    <StrictMode>
      <NonceContext value={nonce}>
        <HydratedRouter />
      </NonceContext>
    </StrictMode>,
  );
});
