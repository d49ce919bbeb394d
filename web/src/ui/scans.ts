/** The longest time between two keys of a scanner, in milliseconds: by radio they may come in clumps; nobody types several keys as fast. */
const SCAN_GAP_MS = 80;

/** The same before its end, which some send a little later. */
const END_GAP_MS = 120;

/** With fewer characters, such as a quantity, the end of a scan has to come faster than that: two keys may be pressed by hand. */
const SHORT = 3;
const SHORT_END_GAP_MS = 45;

export interface KeyListener {
  /** A code was scanned while no field had the focus. */
  onScan: (code: string) => void;
  /** A person pressed one key, outside of fields. */
  onKey: (key: string) => void;
}

/**
 * Hears keys outside of fields. A scanner types like a keyboard, but faster, and ends with Enter or Tab: what comes like that is
 * a scan, wherever the focus is, and neither presses a button, chooses in a list, nor means a shortcut. So characters are
 * held back for a moment, and given on where they turn out to be typed. Gives how to stop.
 */
export function listenToKeys(target: Window, { onScan, onKey }: KeyListener): () => void {
  let held: KeyboardEvent[] = [];
  let timer: ReturnType<typeof setTimeout> | undefined;
  const given = new WeakSet<Event>();
  const hold = (event: KeyboardEvent) => {
    event.preventDefault();
    event.stopImmediatePropagation();
  };
  const giveOn = () => {
    const typed = held;
    held = [];
    for (const event of typed) {
      const copy = new KeyboardEvent("keydown", {
        key: event.key,
        code: event.code,
        bubbles: true,
        cancelable: true,
      });
      given.add(copy);
      event.target?.dispatchEvent(copy);
    }
    const [only] = typed;
    if (only && typed.length === 1) onKey(only.key);
  };
  // What is pressed next is pressed after what is held: a form sent at once has the choice that was typed before.
  const goOn = () => {
    clearTimeout(timer);
    giveOn();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (given.has(event)) return;
    const isCombined = event.ctrlKey || event.metaKey || event.altKey;
    if (isCombined || isField(event.target)) {
      // Some scanners send control characters in the middle of a code.
      if (!isCombined || event.key === "Enter") goOn();
      return;
    }
    const before = held.at(-1);
    const gap = before === undefined ? Number.POSITIVE_INFINITY : event.timeStamp - before.timeStamp;
    const burst = gap <= SCAN_GAP_MS;
    const ends = event.key === "Enter" || event.key === "Tab";
    clearTimeout(timer);
    if (ends && held.length > 0 && gap <= (held.length < SHORT ? SHORT_END_GAP_MS : END_GAP_MS)) {
      const code = held.map(({ key }) => key).join("");
      held = [];
      hold(event);
      onScan(code);
      return;
    }
    if (event.key === "Shift") {
      timer = setTimeout(giveOn, END_GAP_MS);
      return;
    }
    if (!burst) giveOn();
    if (event.key.length === 1 && (burst || event.key !== " ")) {
      // A space by itself presses the button that it stands on; within a scan it is a character.
      hold(event);
      held.push(event);
      timer = setTimeout(giveOn, held.length < SHORT ? SCAN_GAP_MS : END_GAP_MS);
    } else giveOn();
  };
  target.addEventListener("keydown", onKeyDown, true);
  target.addEventListener("pointerdown", goOn, true);
  return () => {
    clearTimeout(timer);
    target.removeEventListener("pointerdown", goOn, true);
    target.removeEventListener("keydown", onKeyDown, true);
  };
}

/** Whether keys are text where they are pressed. */
function isField(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.isContentEditable || target instanceof HTMLTextAreaElement) return true;
  return target instanceof HTMLInputElement && !["checkbox", "radio", "button"].includes(target.type);
}
