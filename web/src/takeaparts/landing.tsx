import type { TakeApartSheet } from "@yosegi/contract";
import { CostBar } from "../ui/index.ts";

type Landing = Pick<TakeApartSheet, "valueOut" | "recovered" | "damaged" | "missing" | "workPutIn">;

/** Where the value of what is taken apart lands, as one bar that adds up. */
export const LandingBar = ({ recovered, damaged, missing, workPutIn }: Landing) => (
  <CostBar cost={{ "back in stock": recovered, damaged, missing, "work put in": workPutIn }} />
);
