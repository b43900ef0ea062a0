/** For Chromium without a display, a graphics card or anything to ask of the network. */
export const CHROMIUM_FLAGS = [
  "--no-sandbox",
  "--disable-gpu",
  "--disable-quic",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
];
