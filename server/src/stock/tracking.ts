import { Refusal } from "@yosegi/contract";
import type { Tracking } from "@yosegi/core";

/** Refuses a lot or serial number where the item has none, and the lack of one where it has: `at` gives the field of the body. */
export function refuseTracking(
  at: (field: "lot" | "serial") => string,
  { lot, serial }: { lot: string; serial: string },
  { code, tracking }: { code: string; tracking: Tracking },
): void {
  if (tracking === "lot" && lot === "") throw Refusal.at(at("lot"), "lot-needed", { code });
  if (tracking !== "lot" && lot !== "") throw Refusal.at(at("lot"), "lot-not-tracked", { code });
  if (tracking === "serial" && serial === "") throw Refusal.at(at("serial"), "serial-needed", { code });
  if (tracking !== "serial" && serial !== "") throw Refusal.at(at("serial"), "serial-not-tracked", { code });
}
