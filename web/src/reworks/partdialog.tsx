import { type BodyOf, type ItemRow, type ReworkPart, type ReworkSheet, reworkRoutes } from "@yosegi/contract";
import { useFormContext, useWatch } from "react-hook-form";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog, wholeNumber } from "../forms/index.ts";
import { fromOf, PlaceChoice } from "../stock/index.ts";
import { Row, Stack, Sub, sayDone, useFormat } from "../ui/index.ts";
import { unitName } from "./words.ts";

interface Draft {
  item: ItemRow | null;
  text: string;
  amount: string;
  quantity: string;
  from: string;
  unit: string;
  step: string;
  charge: string;
  day: string;
}

const In = fieldsOf<Draft>();

/** A place is one choice of the form. */
const fieldOf = (path: string): string => path.replace(/^(store|bin|lot|serial)$/, "from");

const bodyOf = (
  { item, from, unit, step, charge, amount, quantity, ...typed }: Draft,
  isText: boolean,
): BodyOf<typeof reworkRoutes.addReworkPart> => ({
  ...typed,
  ...(isText || from === "" ? { store: "", bin: "", lot: "", serial: "" } : fromOf(from)),
  item: isText ? null : (item?.id ?? 0),
  amount: isText ? amount : "0",
  quantity: isText ? "1" : quantity,
  unit: wholeNumber(unit),
  step: wholeNumber(step),
  charge: charge === "" ? null : charge,
});

interface PartDialogProps {
  one: ReworkSheet;
  /** A line of text with an amount, in the place of a part. */
  isText: boolean;
  onClose: () => void;
}

/** Adds a part to a rework, taken from a bin or planned; or a line of text with an amount. */
export function PartDialog({ one, isText, onClose }: PartDialogProps) {
  const format = useFormat();
  return (
    <FormDialog
      title={isText ? "Add a line of text" : "Add a part"}
      isOpen
      onClose={onClose}
      width="640px"
      save="Add"
      route={reworkRoutes.addReworkPart}
      params={{ id: one.id }}
      begin={{
        item: null,
        text: "",
        amount: "",
        quantity: "1",
        from: "",
        unit: "",
        step: "",
        charge: "",
        day: format.settings.today,
      }}
      body={(typed: Draft) => bodyOf(typed, isText)}
      fieldOf={fieldOf}
      done={(_, { item, text }: Draft) => sayDone(`${isText ? text : (item?.code ?? "")} added.`)}
    >
      <PartFields one={one} isText={isText} />
    </FormDialog>
  );
}

function PartFields({ one, isText }: { one: ReworkSheet; isText: boolean }) {
  const format = useFormat();
  const item = useWatch<Draft, "item">({ name: "item" });
  const { setValue } = useFormContext<Draft>();
  const { currency } = format.settings;
  return (
    <Stack>
      {isText ? (
        <Row>
          <In.Text label="Text" name="text" width="320px" autoFocus />
          <In.Amount label="Amount" name="amount" width="140px" unit={currency} />
        </Row>
      ) : (
        <>
          <Row>
            <In.Item
              label="Part"
              name="item"
              choosing="stock"
              width="300px"
              autoFocus
              onChanged={() => setValue("from", "")}
            />
            <In.Quantity
              label="Quantity"
              name="quantity"
              width="130px"
              unit={item?.unit}
              packs={item?.packs ?? []}
            />
          </Row>
          <PlaceChoice label="Taken from" name="from" item={item} />
          <Sub>Choose no place to plan it: it is taken later.</Sub>
        </>
      )}
      <Row>
        <ForUnit one={one} />
        {one.steps.length > 0 && (
          <In.Choice
            label="For the step"
            name="step"
            width="200px"
            none="No step"
            options={one.steps.map(({ id, what }) => ({ value: String(id), label: what }))}
          />
        )}
        {one.customer && (
          <In.Amount
            label="Charge"
            name="charge"
            width="150px"
            unit={currency}
            placeholder={isText ? "the amount" : "its price"}
          />
        )}
        {!isText && <In.Day label="Day" name="day" width="170px" />}
      </Row>
    </Stack>
  );
}

/** The unit that something is for, where there are several. */
export function ForUnit({ one }: { one: ReworkSheet }) {
  if (one.units.length < 2) return null;
  return (
    <In.Choice
      label="For"
      name="unit"
      width="170px"
      none="All units"
      options={one.units.map((own) => ({ value: String(own.unit), label: unitName(own) }))}
    />
  );
}

interface TakeDraft {
  /** Id of the substitute; "" for the part itself. */
  substitute: string;
  from: string;
  day: string;
}

const Take = fieldsOf<TakeDraft>();

/** Takes a planned part from a bin, or a substitute that the item's parts list allows. */
export function TakeDialog({
  one,
  part,
  onClose,
}: {
  one: ReworkSheet;
  part: ReworkPart;
  onClose: () => void;
}) {
  const format = useFormat();
  return (
    <FormDialog
      title={`Take ${format.amount(part.quantity, part.item?.unit ?? "")} ${part.item?.code ?? ""}`}
      isOpen
      onClose={onClose}
      width="520px"
      save="Take"
      route={reworkRoutes.takeReworkPart}
      params={{ id: one.id, part: part.id }}
      begin={{ substitute: "", from: "", day: format.settings.today }}
      body={({ substitute, from, day }: TakeDraft) => ({
        ...fromOf(from),
        substitute: wholeNumber(substitute),
        day,
      })}
      fieldOf={fieldOf}
      done={(_, { substitute }: TakeDraft) => sayDone(`${takenOf(part, substitute)?.code} taken.`)}
    >
      <TakeFields part={part} />
    </FormDialog>
  );
}

const takenOf = ({ item, substitutes }: ReworkPart, substitute: string) =>
  substitutes.find((own) => String(own.item.id) === substitute)?.item ?? item;

function TakeFields({ part }: { part: ReworkPart }) {
  const format = useFormat();
  const substitute = useWatch<TakeDraft, "substitute">({ name: "substitute" });
  const { setValue } = useFormContext<TakeDraft>();
  return (
    <Stack>
      {part.substitutes.length > 0 && (
        <Take.Choice
          label="What is taken"
          name="substitute"
          width="340px"
          none={`${format.amount(part.quantity, part.item?.unit ?? "")} ${part.item?.code} ${part.item?.name}`}
          options={part.substitutes.map(({ item, quantity, free }) => ({
            value: String(item.id),
            label: `${format.amount(quantity, item.unit)} ${item.code} ${item.name}, ${format.amount(free)} free`,
          }))}
          onChanged={() => setValue("from", "")}
        />
      )}
      <Row>
        <PlaceChoice label="Taken from" name="from" item={takenOf(part, substitute)} />
        <Take.Day label="Day" name="day" width="170px" />
      </Row>
    </Stack>
  );
}
