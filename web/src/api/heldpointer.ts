type Run = () => void;

/**
 * Gives a scheduler under which answers wait while a pointer is held down. An answer that changes the height of the page between press
 * and release would move a button away from under the pointer, and the press would be lost. What waited is run in its order after the
 * click that follows the release.
 */
export function afterRelease(page: EventTarget): (run: Run) => void {
  let isDown = false;
  let waiting: Run[] = [];
  const runHeld = () => {
    if (isDown) return;
    const held = waiting;
    waiting = [];
    for (const run of held) run();
  };
  const release = () => {
    isDown = false;
    // The click comes in the same task as the release.
    setTimeout(runHeld, 0);
  };
  const press = (event: Event) => {
    // A menu of the browser's own, which another button opens, may keep the release to itself.
    if ((event as PointerEvent).button === 0) isDown = true;
  };
  page.addEventListener("pointerdown", press, true);
  // A pointer that scrolls or drags is cancelled.
  page.addEventListener("pointerup", release, true);
  page.addEventListener("pointercancel", release, true);
  // The page may not be told of a release in another window. Fields lose the focus, too, but that does not bubble.
  page.addEventListener("blur", release);
  return (run) => {
    setTimeout(() => {
      waiting.push(run);
      runHeld();
    }, 0);
  };
}
