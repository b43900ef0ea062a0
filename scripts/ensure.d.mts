export function ensurePackages(): void;
export function ensureBuild(): void;
export function ensureChromium(): string;
