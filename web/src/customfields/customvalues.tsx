import { type CustomValue, customFieldRoutes } from "@yosegi/contract";
import { type CustomFieldOwner, isDay } from "@yosegi/core";
import { Pencil } from "lucide-react";
import { useState } from "react";
import { FormDialog, inputsOf } from "../forms/index.ts";
import { Button, Facts, type Format, Stack, sayDone, useFormat } from "../ui/index.ts";

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
        <Pencil /> Custom fields{code && ` of ${code}`}
      </Button>
      <FormDialog
        title={`Custom fields${code && ` of ${code}`}`}
        isOpen={editing}
        onClose={() => setEditing(false)}
        save="Save"
        route={customFieldRoutes.fillIn}
        begin={{ values: values.map(({ value, type }) => ({ value: value === "" ? EMPTY[type] : value })) }}
        body={({ values: typed }: ValuesDraft) => ({
          owner,
          id,
          code,
          values: values.map(({ field, type }, i) => {
            const value = typed[i]?.value ?? "";
            return { field, value: value === EMPTY[type] ? "" : value };
          }),
        })}
        done={() => sayDone("Saved.")}
      >
        <Stack>
          {values.map((v, i) => (
            <ValueInput key={v.field} of={v} name={`values.${i}.value`} />
          ))}
        </Stack>
      </FormDialog>
    </>
  );
}

/** What an own field says, in the person's language. */
export function customText({ type, value }: Pick<CustomValue, "type" | "value">, format: Format): string {
  if (type === "number") return format.amount(value);
  return type === "date" && isDay(value) ? format.day(value) : value;
}

interface ValuesDraft {
  values: { value: string }[];
}

const In = inputsOf<ValuesDraft>();
/** What stands for nothing, by the type of a field. */
const EMPTY: Record<CustomValue["type"], string> = { text: "", number: "", date: "", "yes/no": "–" };
const ANSWERS = ["–", "yes", "no"].map((value) => ({ value, label: value }));

function ValueInput({ of, name }: { of: CustomValue; name: `values.${number}.value` }) {
  if (of.type === "number") return <In.Amount label={of.name} name={name} width="200px" />;
  if (of.type === "date") return <In.Day label={of.name} name={name} />;
  if (of.type === "text") return <In.Text label={of.name} name={name} />;
  return <In.Choice label={of.name} name={name} width="200px" options={ANSWERS} />;
}
