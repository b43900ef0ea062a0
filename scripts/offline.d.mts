export function buildServiceWorker(folder: string, entry: string): Promise<void>;
