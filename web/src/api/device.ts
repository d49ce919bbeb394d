const STORED = "yosegi.device";

/** What this device is called, as movements say it; "" where nobody said so. */
export const deviceName = (): string => localStorage.getItem(STORED) ?? "";

export const nameDevice = (name: string): void => localStorage.setItem(STORED, name);
