import type { TakeApartSheet } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { CostBar, type Format } from "../ui/index.ts";

type Landing = Pick<TakeApartSheet, "valueOut" | "recovered" | "damaged" | "missing" | "workPutIn">;

/** Where the value of what is taken apart lands, as one bar that adds up. */
export const LandingBar = ({ recovered, damaged, missing, workPutIn }: Landing) => (
  <CostBar cost={{ "back in stock": recovered, damaged, missing, "work put in": workPutIn }} />
);

/** What stands beside the goods' value, as the end of a sentence: the time spent, and what the customer bears. */
export const besides = (
  { work, charged }: Pick<TakeApartSheet, "work" | "charged">,
  format: Format,
): string =>
  [
    decimal(work).gt(0) && `; the time costs ${format.money(work)}`,
    decimal(charged).gt(0) && `; ${format.money(charged)} off the customer's credit`,
  ]
    .filter(Boolean)
    .join("");
