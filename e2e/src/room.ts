import type { Page } from "@playwright/test";

/** What can be scrolled sideways: the page itself, and everything within it that holds more than it shows. */
export const scrollsSideways = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const holds = (node: Element) => {
      const { overflowX, clipPath } = getComputedStyle(node);
      // What is only said by a screen reader is one pixel wide.
      const seen = clipPath === "none" && node.clientWidth > 1;
      return seen && !["visible", "clip"].includes(overflowX) && node.scrollWidth > node.clientWidth + 1;
    };
    const found = [...document.querySelectorAll("body *")].filter(
      (node) => holds(node) && !(node instanceof HTMLInputElement),
    );
    const beyond = document.documentElement.scrollWidth > window.innerWidth ? ["the page"] : [];
    return [...beyond, ...found.map((node) => `${node.tagName}: ${node.textContent?.slice(0, 40)}`)];
  });

/** Buttons, links and fields that a finger would miss: less than 44 px high. A link within a sentence may be as high as its line. */
export const smallTargets = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const isClipped = (node: Element | null) => node !== null && getComputedStyle(node).clipPath !== "none";
    // What only a screen reader finds is clipped to nothing, or what stands around it is.
    const isSeen = (node: Element) =>
      node.checkVisibility({ visibilityProperty: true }) &&
      !node.closest("[aria-hidden=true], [data-react-aria-prevent-focus]") &&
      !isClipped(node) &&
      !isClipped(node.parentElement);
    const isInSentence = (node: Element) =>
      node.tagName === "A" && node.parentElement?.textContent !== node.textContent;
    // A field is pressed anywhere in its box, a tick anywhere on its words, the link of a row anywhere on the row.
    const pressed = (node: Element) => {
      if (node instanceof HTMLInputElement) return node.closest("label") ?? node.parentElement ?? node;
      return (node.matches("a[data-opens]") && node.closest("tr")) || node;
    };
    const found = [...document.querySelectorAll("button, a, input, [role=button]")].filter(
      (node) => isSeen(node) && !isInSentence(node) && pressed(node).getBoundingClientRect().height < 43.5,
    );
    return found.map((node) => `${node.tagName}: ${node.getAttribute("aria-label") ?? node.textContent}`);
  });
