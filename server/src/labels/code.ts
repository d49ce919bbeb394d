import type { Label } from "@yosegi/contract";
import bwipjs from "bwip-js/node";

/** Code 128 writes plain Latin letters, digits and signs. */
export const fitsCode128 = (code: string): boolean => /^[\x20-\x7e]+$/.test(code);

/** The code of a label as a picture. */
export function codeSvg({ code, shape }: Pick<Label, "code" | "shape">): string {
  return shape === "qr"
    ? bwipjs.toSVG({ bcid: "qrcode", text: code, scale: 2 })
    : bwipjs.toSVG({ bcid: "code128", text: code, scale: 2, height: 9 });
}
