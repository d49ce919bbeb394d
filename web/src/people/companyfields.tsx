import { inputsOf } from "../forms/index.ts";
import { Row } from "../ui/index.ts";

const In = inputsOf<{ currency: string; timeZone: string }>();

/** What a company counts its money in, and by which clock its days begin. */
export function CompanyFields() {
  return (
    <Row>
      <In.Text label="Currency" name="currency" width="110px" upperCase />
      <In.Text label="Time zone" name="timeZone" width="260px" />
    </Row>
  );
}
