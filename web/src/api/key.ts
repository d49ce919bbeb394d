/**
 * A key that nobody else has: 128 random bits as text. `crypto.randomUUID` is there on a secure origin only, which another
 * device that calls this server by plain http is not.
 */
export function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
}
