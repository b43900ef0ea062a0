import type { MakerRequest, ReplicateBlock } from "../../core";

/** So long a thread that others need is held at a time, in milliseconds. */
const HOLD_MS = 30;

/** Lets everything else that waits for this thread have its turn. */
export const breath = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

/**
 * The answer to one request, made a few replicates at a time: as many as take about HOLD_MS.
 * Replicates are known by their numbers, so the portions change no digit.
 * @param ended nobody waits for it any more
 * @param now the time, in milliseconds
 * @throws where it has been ended
 */
export async function inPortions(
  request: MakerRequest,
  answer: (request: MakerRequest) => ReplicateBlock | null,
  ended: AbortSignal,
  now = (): number => performance.now(),
): Promise<ReplicateBlock | null> {
  if (request.kind === "prepare") return answer(request);
  const parts: ReplicateBlock[] = [];
  const end = request.first + request.count;
  let portion = 1;
  for (let first = request.first; first < end;) {
    await breath();
    ended.throwIfAborted();
    const count = Math.min(portion, end - first);
    const since = now();
    parts.push(answer({ ...request, first, count })!);
    const took = now() - since;
    portion = took > HOLD_MS / 2 ? Math.max(1, Math.round((count * HOLD_MS) / took)) : 2 * portion;
    first += count;
  }
  return joined(parts);
}

function joined(parts: readonly ReplicateBlock[]): ReplicateBlock {
  const join = (arrays: Float64Array[]): Float64Array => {
    const whole = new Float64Array(arrays.reduce((sum, part) => sum + part.length, 0));
    let at = 0;
    for (const part of arrays) {
      whole.set(part, at);
      at += part.length;
    }
    return whole;
  };
  const { first, size } = parts[0]!;
  return {
    first,
    size,
    count: parts.reduce((sum, part) => sum + part.count, 0),
    values: join(parts.map((part) => part.values)),
    errors: parts.every((part) => part.errors) ? join(parts.map((part) => part.errors!)) : null,
  };
}
