/**
 * A key that nobody else has: 128 random bits as text. `crypto.randomUUID` is there on a secure origin only, which another
 * device that calls this server by plain http is not.
 */
export function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
}

/** Keys of commands whose answer has not come, for this tab, through a reload too. */
const STORED = "yosegi.key";

/**
 * The key of a command that is done to something, such as a route and its parameters: the same one until an answer came,
 * however often and from whichever form it is sent, so that a lost answer never makes it happen twice.
 */
export function keyOf(what: string): string {
  const key = sessionStorage.getItem(`${STORED}.${what}`) ?? newKey();
  sessionStorage.setItem(`${STORED}.${what}`, key);
  return key;
}

/** An answer came: the next time is another command. */
export const answered = (what: string): void => sessionStorage.removeItem(`${STORED}.${what}`);
