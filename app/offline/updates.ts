/** A version of the program that has been fetched and waits to be taken. */
export interface Update {
  take: () => void;
}

type Listener = (update: Update | null) => void;
let waiting: Update | null = null;
const listeners = new Set<Listener>();

export const waitingUpdate = (): Update | null => waiting;

/** Tells when a newer version waits; returns how to end that. */
export function onUpdate(listener: Listener): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

function offer(registration: ServiceWorkerRegistration): void {
  const worker = registration.waiting;
  // Without a page that an older version serves there is nothing to replace.
  if (!worker || !navigator.serviceWorker.controller) return;
  waiting = {
    take: () => {
      navigator.serviceWorker.addEventListener("controllerchange", () => location.reload(), {
        once: true,
      });
      worker.postMessage("take the new version");
    },
  };
  for (const listener of listeners) listener(waiting);
}

/**
 * Keeps the program in this browser, so that it starts without a network; a newer version is
 * offered, never forced.
 */
export async function keepProgram(): Promise<void> {
  if (!("serviceWorker" in navigator) || !import.meta.env.PROD) return;
  try {
    const registration = await navigator.serviceWorker.register("/sw.js", {
      updateViaCache: "none",
    });
    offer(registration);
    registration.addEventListener("updatefound", () => {
      const fresh = registration.installing;
      fresh?.addEventListener("statechange", () => {
        if (fresh.state === "installed") offer(registration);
      });
    });
  } catch {
    // A browser that forbids it works with the network as before.
  }
}
