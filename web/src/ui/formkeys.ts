import type { KeyboardEvent } from "react";

/** What Enter goes on to: text fields, and buttons that open choices. */
const STOPS =
  "input:not([type=checkbox]):not([type=radio]):not([type=hidden]):not([type=file]):not(:disabled), textarea:not(:disabled), button[aria-haspopup=listbox]:not(:disabled)";

/** The first field within something. */
export const firstField = (within: Element | null | undefined): HTMLElement | null =>
  within?.matches(STOPS) ? (within as HTMLElement) : (within?.querySelector<HTMLElement>(STOPS) ?? null);

/** Keys of a form: Enter goes on to the next field or line, Ctrl and Enter send it. Each is heard by the innermost form. */
export function formKey(event: KeyboardEvent<HTMLFormElement>): void {
  const { target, currentTarget: form } = event;
  if (event.key !== "Enter" || event.shiftKey || event.altKey) return;
  if (!(target instanceof HTMLElement) || target.closest("form") !== form) return;
  if (event.ctrlKey || event.metaKey) {
    event.preventDefault();
    event.stopPropagation();
    // What stands in the field is taken over as if it had been left.
    target.blur();
    target.focus();
    form.requestSubmit();
    return;
  }
  if (!(target instanceof HTMLInputElement) || target.type === "checkbox" || target.type === "radio") return;
  // Enter in a list of choices takes the one it stands on, and goes on only where there is none.
  const chooses = target.role === "combobox" && target.getAttribute("aria-activedescendant");
  if (chooses || (event.defaultPrevented && target.role !== "combobox")) return;
  event.preventDefault();
  goOn(form, target);
}

/** Goes on from a field: within a line from its first field to the next one, from any other to the next line. */
function goOn(form: HTMLFormElement, from: HTMLElement): void {
  const line = from.closest<HTMLElement>("[data-line]");
  if (line && line.querySelector(STOPS) !== from) {
    const lines = [...form.querySelectorAll<HTMLElement>("[data-line]")];
    const next = lines[lines.indexOf(line) + 1];
    const more = form.querySelector<HTMLButtonElement>("button[data-add-line]");
    if (next) focusOn(firstField(next));
    // The line that it adds takes the focus itself.
    else more?.click();
    if (next || more) return;
  }
  const stops = [...form.querySelectorAll<HTMLElement>(STOPS)];
  // After the last field comes the button that sends; a further Enter presses it.
  focusOn(stops[stops.indexOf(from) + 1] ?? form.querySelector<HTMLElement>("button[type=submit]"));
}

function focusOn(field: HTMLElement | null): void {
  field?.focus();
  if (field instanceof HTMLInputElement) field.select();
}
