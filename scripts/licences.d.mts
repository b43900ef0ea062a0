import type { Plugin } from "vite";

export function shippedPackages(): { name: string; version: string; licence: string }[];
export function licencesPlugin(): Plugin;
