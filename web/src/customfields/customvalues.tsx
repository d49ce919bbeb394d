import { type CustomValue, routes } from "@yosegi/contract";
import { type CustomFieldOwner, isDay } from "@yosegi/core";
import { Pencil } from "lucide-react";
import { useState } from "react";
import { useCommand } from "../api/index.ts";
import {
  Actions,
  AmountField,
  Button,
  DateField,
  Dialog,
  Facts,
  Form,
  type Format,
  Select,
  Stack,
  sayDone,
  TextField,
  useFormat,
} from "../ui/index.ts";

export interface CustomValuesProps {
  owner: CustomFieldOwner;
  id: number;
  /** The lot or serial; "" for an item or a list. */
  code: string;
  values: CustomValue[];
}

/** The person's own fields of one thing, and the way to fill them in. */
export function CustomValues({ owner, id, code, values }: CustomValuesProps) {
  const format = useFormat();
  const [editing, setEditing] = useState(false);
  if (values.length === 0) return null;
  const filled = values.filter((v) => v.value !== "");
  return (
    <>
      {filled.length > 0 && (
        <Facts style={{ margin: "4px 0" }}>
          {filled.map((v) => (
            <div key={v.field}>
              <dt>{v.name}</dt>
              <dd>{customText(v, format)}</dd>
            </div>
          ))}
        </Facts>
      )}
      <Button look="link" onPress={() => setEditing(true)}>
        <Pencil /> Own fields{code && ` of ${code}`}
      </Button>
      <Dialog title={`Own fields${code && ` of ${code}`}`} isOpen={editing} onClose={() => setEditing(false)}>
        <OwnValuesForm owner={owner} id={id} code={code} values={values} onDone={() => setEditing(false)} />
      </Dialog>
    </>
  );
}

/** What an own field says, in the person's language. */
export function customText({ type, value }: Pick<CustomValue, "type" | "value">, format: Format): string {
  if (type === "number") return format.amount(value);
  return type === "date" && isDay(value) ? format.day(value) : value;
}

function OwnValuesForm({ owner, id, code, values, onDone }: CustomValuesProps & { onDone: () => void }) {
  const [typed, setTyped] = useState(() => values.map((v) => v.value));
  const save = useCommand(routes.fillIn, () => {
    sayDone("Saved.");
    onDone();
  });
  const body = { owner, id, code, values: values.map((v, i) => ({ field: v.field, value: typed[i] ?? "" })) };
  return (
    <Form refusal={save.refusal} onSubmit={() => void save.run({ body })}>
      <Stack>
        {values.map((v, i) => {
          const props = {
            label: v.name,
            name: `values.${i}.value`,
            value: typed[i] ?? "",
            onChange: (value: string) => setTyped(typed.map((text, at) => (at === i ? value : text))),
          };
          if (v.type === "number") return <AmountField key={v.field} width="200px" {...props} />;
          if (v.type === "date") return <DateField key={v.field} {...props} />;
          if (v.type === "text") return <TextField key={v.field} {...props} />;
          return (
            <Select
              key={v.field}
              width="200px"
              {...props}
              value={props.value === "" ? "–" : props.value}
              options={["–", "yes", "no"].map((value) => ({ value, label: value }))}
              onChange={(value) => props.onChange(value === "–" ? "" : value)}
            />
          );
        })}
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={save.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}
