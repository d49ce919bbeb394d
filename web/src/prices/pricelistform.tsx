import { type ItemRow, type PriceListSheet, priceRoutes } from "@yosegi/contract";
import { useWatch } from "react-hook-form";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog, sentLines } from "../forms/index.ts";
import { Row, Stack, sayDone } from "../ui/index.ts";
import { ownerWords } from "./words.ts";

/** One price as it is typed. */
interface StepDraft {
  item: Pick<ItemRow, "id" | "code" | "name" | "unit" | "packs"> | null;
  /** "" counts from any quantity on. */
  from: string;
  price: string;
  pricePer: string;
}

interface PriceListDraft {
  customer: { id: number; name: string } | null;
  group: string;
  steps: StepDraft[];
}

const BLANK: StepDraft = { item: null, from: "", price: "", pricePer: "" };
const NEW: PriceListDraft = { customer: null, group: "", steps: [BLANK] };

const draftOf = ({ steps }: PriceListSheet): PriceListDraft => ({
  ...NEW,
  steps: steps.map((step) => ({ ...step, from: step.from === "0" ? "" : step.from })),
});

/** Lines that are still empty are room to go on. */
const isFilled = ({ item, price }: StepDraft): boolean => item !== null || price !== "";

const stepsOf = ({ steps }: PriceListDraft) =>
  steps.filter(isFilled).map(({ item, from, price, pricePer }) => ({
    item: item?.id ?? 0,
    from: from === "" ? "0" : from,
    price,
    pricePer,
  }));

const In = fieldsOf<PriceListDraft>();

const FIELD_OF = sentLines("steps", isFilled);

interface NewPriceListDialogProps {
  isOpen: boolean;
  onClose: () => void;
  onMade: (id: number) => void;
}

/** The prices of a customer, or of a group of customers. */
export function NewPriceListDialog({ isOpen, onClose, onMade }: NewPriceListDialogProps) {
  return (
    <FormDialog
      title="New price list"
      isOpen={isOpen}
      onClose={onClose}
      width="860px"
      save="Create price list"
      route={priceRoutes.newPriceList}
      begin={NEW}
      keptAs="price list"
      fieldOf={FIELD_OF}
      body={(draft: PriceListDraft) => ({
        customer: draft.customer?.id ?? null,
        group: draft.group,
        steps: stepsOf(draft),
      })}
      done={(list) => {
        sayDone(`Price list for ${ownerWords(list)} created.`);
        onMade(list.id);
      }}
    >
      <Stack>
        <Row>
          <In.Firm label="Customer" name="customer" kind="customer" width="300px" />
          <In.Text
            label="Or group of customers"
            name="group"
            width="300px"
            hint="As customers have it, such as Clubs."
          />
        </Row>
        <Steps />
      </Stack>
    </FormDialog>
  );
}

interface EditPriceListDialogProps {
  list: PriceListSheet;
  isOpen: boolean;
  onClose: () => void;
}

export function EditPriceListDialog({ list, isOpen, onClose }: EditPriceListDialogProps) {
  return (
    <FormDialog
      title={`Prices for ${ownerWords(list)}`}
      isOpen={isOpen}
      onClose={onClose}
      width="860px"
      save="Save"
      route={priceRoutes.changePriceList}
      params={{ id: list.id }}
      version={list.version}
      begin={draftOf(list)}
      keptAs={`price list ${list.id}`}
      fieldOf={FIELD_OF}
      body={(draft: PriceListDraft) => ({ steps: stepsOf(draft) })}
      done={() => sayDone(`Price list for ${ownerWords(list)} saved.`)}
    >
      <Steps />
    </FormDialog>
  );
}

const HEADS = [
  ["Item", "320px"],
  ["From quantity", "150px"],
  ["Price and what for", "242px"],
] as const;

function Steps() {
  return (
    <In.Lines name="steps" blank={BLANK} heads={HEADS} add="Add price" isLong>
      {(at, i) => <StepFields at={at} number={i + 1} />}
    </In.Lines>
  );
}

function StepFields({ at, number }: { at: `steps.${number}`; number: number }) {
  const item = useWatch<PriceListDraft, `steps.${number}.item`>({ name: `${at}.item` });
  const measure = { unit: item?.unit, packs: item?.packs ?? [] };
  return (
    <>
      <In.Item label={`Item ${number}`} hideLabel name={`${at}.item`} width="320px" choosing="selling" />
      <In.Quantity
        label={`From quantity ${number}`}
        hideLabel
        name={`${at}.from`}
        width="150px"
        placeholder="any"
        {...measure}
      />
      <In.Rate
        label={`Price ${number}`}
        hideLabel
        name={`${at}.price`}
        per={`${at}.pricePer`}
        perLabel={`Per, line ${number}`}
        width="146px"
        {...measure}
      />
    </>
  );
}
