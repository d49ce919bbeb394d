import type { PlaywrightTestOptions, PlaywrightWorkerOptions } from "@playwright/test";

/** Debian's Chromium, built to run without a screen, and without anything that would reach for a network. */
export const browser: Partial<PlaywrightTestOptions & PlaywrightWorkerOptions> = {
  viewport: { width: 1280, height: 800 },
  locale: "en-GB",
  timezoneId: "Europe/Vienna",
  launchOptions: {
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell",
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--disable-quic",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
      // A name of this machine by which it is no secure origin, as for another device.
      "--host-resolver-rules=MAP shop.test 127.0.0.1",
    ],
  },
};
