import { inputsOf } from "../forms/index.ts";
import { Row } from "../ui/index.ts";

const In = inputsOf<{ currency: string; timeZone: string; taxRate: string }>();

/** What a company counts its money in, what tax it charges, and by which clock its days begin. */
export function CompanyFields() {
  return (
    <Row>
      <In.Text label="Currency" name="currency" width="90px" upperCase />
      <In.Text label="Time zone" name="timeZone" width="200px" />
      <In.Amount label="Tax rate" name="taxRate" width="110px" unit="%" />
    </Row>
  );
}
