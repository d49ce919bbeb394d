import { setDevice } from "./call.ts";

const STORED = "yosegi.device";

/** What this device is called, as movements say it; "" where nobody said so. */
export const deviceName = (): string => localStorage.getItem(STORED) ?? "";

/** Gives this device another name, which goes with every command from now on. */
export function nameDevice(name: string): void {
  localStorage.setItem(STORED, name);
  setDevice(name);
}
