import type { ConnectionOptions } from "bullmq";

/** Of the queue in Redis. */
export const QUEUE = "hebel-work";

/**
 * How to reach Redis. Commands wait for a server that is away, however long it takes to come back.
 */
export function connectionTo(url: string): ConnectionOptions {
  let parsed: URL;
  try {
    parsed = new URL(url);
  } catch {
    throw new Error(`“${url}” is no address of a queue; it reads redis://HOST:6379.`);
  }
  if (parsed.protocol !== "redis:" && parsed.protocol !== "rediss:")
    throw new Error(`“${url}” is no address of a queue; it reads redis://HOST:6379.`);
  return {
    host: parsed.hostname,
    port: parsed.port === "" ? 6379 : Number(parsed.port),
    ...(parsed.username ? { username: decodeURIComponent(parsed.username) } : {}),
    ...(parsed.password ? { password: decodeURIComponent(parsed.password) } : {}),
    ...(parsed.protocol === "rediss:" ? { tls: {} } : {}),
    maxRetriesPerRequest: null,
    retryStrategy: (times: number) => Math.min(200 * times, 2000),
  };
}
