import { useEffect, useState } from "react";
import type { color } from "./theme.ts";

/** Colours as the theme of the moment has them: a canvas knows no CSS variables. */
export function useColors(names: readonly (keyof typeof color)[]): string[] {
  const [colors, setColors] = useState(() => read(names));
  useEffect(() => {
    const again = () => setColors(read(names));
    const theme = new MutationObserver(again);
    theme.observe(document.documentElement, { attributes: true, attributeFilter: ["data-theme"] });
    const device = matchMedia("(prefers-color-scheme: dark)");
    device.addEventListener("change", again);
    return () => {
      theme.disconnect();
      device.removeEventListener("change", again);
    };
  }, [names]);
  return colors;
}

function read(names: readonly string[]): string[] {
  const style = getComputedStyle(document.documentElement);
  return names.map((name) => style.getPropertyValue(`--${name}`).trim());
}
