import type { ReactNode } from "react";
import { Row } from "../ui/index.ts";

/** What can be done with one line of a table. */
export const LineActions = ({ children }: { children: ReactNode }) => (
  <Row style={{ justifyContent: "end" }}>{children}</Row>
);
