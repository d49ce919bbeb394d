import { Row, TextField } from "../ui/index.ts";

interface CompanyFieldsProps {
  currency: string;
  onCurrency: (currency: string) => void;
  timeZone: string;
  onTimeZone: (timeZone: string) => void;
}

/** What a company counts its money in, and by which clock its days begin. */
export function CompanyFields({ currency, onCurrency, timeZone, onTimeZone }: CompanyFieldsProps) {
  return (
    <Row>
      <TextField
        label="Currency"
        name="currency"
        width="110px"
        value={currency}
        onChange={(text) => onCurrency(text.toUpperCase())}
      />
      <TextField label="Time zone" name="timeZone" width="260px" value={timeZone} onChange={onTimeZone} />
    </Row>
  );
}
