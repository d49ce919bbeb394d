import { type BodyOf, type ItemRow, type ReworkSheet, reworkRoutes } from "@yosegi/contract";
import { decimal, type ReworkOutcome, sharePriceByCost } from "@yosegi/core";
import { useWatch } from "react-hook-form";
import { fieldsOf, useItem } from "../fields/index.ts";
import { FormDialog } from "../forms/index.ts";
import { Row, Section, Stack, Sub, sayDone, useFormat } from "../ui/index.ts";
import { OUTCOMES, unitName } from "./words.ts";

interface PartDraft {
  item: ItemRow | null;
  quantity: string;
  lot: string;
  serial: string;
  store: string;
  bin: string;
}

interface UnitDraft {
  unit: number;
  outcome: string;
  item: Pick<ItemRow, "id" | "code" | "name"> | null;
  store: string;
  bin: string;
  reason: string;
  price: string;
  parts: PartDraft[];
}

interface Draft {
  day: string;
  units: UnitDraft[];
}

const In = fieldsOf<Draft>();
const BLANK_PART: PartDraft = { item: null, quantity: "1", lot: "", serial: "", store: "", bin: "" };

const bodyOf = ({ day, units }: Draft, isTheirs: boolean): BodyOf<typeof reworkRoutes.finishRework> => ({
  day,
  units: units.map(({ unit, outcome, item, store, bin, reason, price, parts }) => {
    const none = { item: null, store: "", bin: "", reason: "", price: null, parts: [] };
    if (isTheirs) return { ...none, unit, outcome: "good" as const };
    const what = outcome as ReworkOutcome;
    return {
      unit,
      outcome: what,
      item: what === "good" ? (item?.id ?? null) : null,
      ...(what === "good" ? { store, bin } : { store: "", bin: "" }),
      reason: what === "good" ? "" : reason,
      price: what === "good" && price !== "" ? price : null,
      parts: what === "parts" ? parts.map(({ item: part, ...own }) => ({ ...own, item: part?.id ?? 0 })) : [],
    };
  }),
});

interface FinishProps {
  one: ReworkSheet;
  onClose: () => void;
}

/** Finishes a rework: what becomes of each unit, and where it goes. */
export function FinishDialog({ one, onClose }: FinishProps) {
  const format = useFormat();
  const { data } = useItem(one.item.id);
  if (!data) return null;
  const prices = sharePriceByCost(
    one.price === null ? null : decimal(one.price),
    one.units.map(({ value }) => decimal(value)),
    format.moneyDecimals,
  );
  const begin: Draft = {
    day: format.settings.today,
    units: one.units.map(({ unit }, i) => ({
      unit,
      outcome: "good",
      item: one.item,
      store: data.store,
      bin: data.bin,
      reason: "",
      price: prices[i]?.toFixed(format.moneyDecimals) ?? "",
      parts: [BLANK_PART],
    })),
  };
  return (
    <FormDialog
      title={one.isTheirs ? `Give back what is in ${one.number}` : `Finish ${one.number}`}
      isOpen
      onClose={onClose}
      width="860px"
      save={one.isTheirs ? "Give back" : "Finish"}
      route={reworkRoutes.finishRework}
      params={{ id: one.id }}
      version={one.version}
      begin={begin}
      body={(typed: Draft) => bodyOf(typed, one.isTheirs)}
      done={() => sayDone(one.isTheirs ? "Given back." : `${one.number} finished.`)}
    >
      <Stack>
        {one.isTheirs ? (
          <Sub>
            {one.units.map(unitName).join(", ")} goes back to {one.customer?.name}; what it cost goes out with
            it.
          </Sub>
        ) : (
          one.units.map((own, i) => <UnitFields key={own.unit} one={one} i={i} />)
        )}
        <Row>
          <In.Day label="Day" name="day" width="170px" />
        </Row>
      </Stack>
    </FormDialog>
  );
}

function UnitFields({ one, i }: { one: ReworkSheet; i: number }) {
  const format = useFormat();
  const own = one.units[i];
  const outcome = useWatch<Draft, `units.${number}.outcome`>({ name: `units.${i}.outcome` });
  if (!own) return null;
  const name = one.units.length > 1 ? ` of ${unitName(own)}` : "";
  const tracking = one.item.tracking;
  return (
    <Section title={`${unitName(own)}, ${format.money(own.value)} by now`}>
      <Stack>
        <Row>
          <In.Choice
            label={`What becomes${name || " of it"}`}
            name={`units.${i}.outcome`}
            width="220px"
            options={OUTCOMES}
          />
          {outcome === "good" ? (
            <>
              <In.Item
                label={`Comes out as${name && `:${name.slice(3)}`}`}
                name={`units.${i}.item`}
                choosing="stock"
                width="230px"
              />
              {tracking === "serial" && (
                <In.Amount
                  label={`Price${name}`}
                  name={`units.${i}.price`}
                  width="120px"
                  unit={format.settings.currency}
                />
              )}
            </>
          ) : (
            <In.Text
              label={`Why scrapped${name && `:${name.slice(3)}`}`}
              name={`units.${i}.reason`}
              width="300px"
            />
          )}
        </Row>
        {outcome === "good" && (
          <Row>
            <In.Store label={`Store${name}`} name={`units.${i}.store`} width="180px" />
            <In.Text label={`Bin${name}`} name={`units.${i}.bin`} width="110px" />
          </Row>
        )}
        {outcome === "parts" && (
          <In.Lines name={`units.${i}.parts`} blank={BLANK_PART} add="Add a good part" isLong>
            {(at, nth) => <GoodPart at={at as `units.${number}.parts.${number}`} nth={nth + 1} />}
          </In.Lines>
        )}
      </Stack>
    </Section>
  );
}

function GoodPart({ at, nth }: { at: `units.${number}.parts.${number}`; nth: number }) {
  const item = useWatch<Draft, `units.${number}.parts.${number}.item`>({ name: `${at}.item` });
  return (
    <Row>
      <In.Item label={`Good part ${nth}`} name={`${at}.item`} choosing="stock" width="230px" />
      <In.Quantity
        label={`Quantity ${nth}`}
        name={`${at}.quantity`}
        width="120px"
        unit={item?.unit}
        packs={item?.packs ?? []}
      />
      {item?.tracking === "lot" && <In.Text label={`Lot ${nth}`} name={`${at}.lot`} width="120px" />}
      {item?.tracking === "serial" && (
        <In.Text label={`Serial number ${nth}`} name={`${at}.serial`} width="140px" />
      )}
      <In.Store label={`Store ${nth}`} name={`${at}.store`} width="150px" />
      <In.Text label={`Bin ${nth}`} name={`${at}.bin`} width="90px" />
    </Row>
  );
}
