import { type DemandCoverAnswer, itemSheetRoutes } from "@yosegi/contract";
import { isDay } from "@yosegi/core";
import { Plus, X } from "lucide-react";
import type { ClipboardEvent, ReactNode } from "react";
import styled from "styled-components";
import { call } from "../api/index.ts";
import { ItemField, QuantityField, useItem } from "../fields/index.ts";
import {
  AmountField,
  Button,
  Checkbox,
  color,
  DateField,
  FieldHeads,
  isPastedTable,
  NARROW,
  ownLabels,
  pastedTable,
  Row,
  sayFailed,
  useFormat,
} from "../ui/index.ts";
import { NOTHING_WANTED, pastedRows, type Wanted } from "./checkinput.ts";
import { demandWords } from "./sentences.ts";

export interface DemandRowsProps {
  wanted: readonly Wanted[];
  onChange: (change: (wanted: Wanted[]) => Wanted[]) => void;
  /** The message at a field of one row: `item`, `quantity`, `day` or `priority`. */
  errorOf: (row: number, field: string) => string | undefined;
  /** What was answered to a row. */
  answerOf: (row: number) => DemandCoverAnswer | undefined;
  /** What stands beside the way to another row. */
  more: ReactNode;
}

/** What is wanted: a row each. Rows pasted from a spreadsheet fill as many. */
export function DemandRows({ wanted, onChange, errorOf, answerOf, more }: DemandRowsProps) {
  const format = useFormat();
  const several = wanted.length > 1;
  const set = (at: number, to: Partial<Wanted>) =>
    onChange((now) => now.map((w, i) => (i === at ? { ...w, ...to } : w)));
  const paste = async (event: ClipboardEvent<HTMLDivElement>) => {
    const text = event.clipboardData.getData("text/plain");
    if (!isPastedTable(text)) return;
    event.preventDefault();
    const rows = pastedRows(await pastedTable(text), format.marks);
    if (rows.length === 0) return;
    // A product that arrives in a field one stands in would open its list over what was pasted.
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
    const answer = await call(itemSheetRoutes.lookUp, { body: { codes: rows.map((row) => row.code) } }).catch(
      (error: Error) => sayFailed(error.message),
    );
    if (!answer) return;
    const unknown = rows.filter((_, i) => !answer.items[i]).map((row) => row.code);
    if (unknown.length > 0) sayFailed(`Not in the catalog, skipped: ${unknown.join(", ")}.`);
    const found = rows.flatMap((row, i): Wanted[] => {
      const item = answer.items[i];
      return item ? [{ ...NOTHING_WANTED, item: item.id, quantity: row.quantity, day: row.day }] : [];
    });
    onChange((now) => [...now.filter((w) => w.item !== 0), ...found]);
  };
  return (
    <div onPaste={(event) => void paste(event)}>
      {several && (
        <FieldHeads
          heads={[
            ["Product", "300px"],
            ["How many", "140px"],
            ["Wanted on", "186px"],
            ["Priority", "76px"],
          ]}
        />
      )}
      {placed(wanted).map(({ row, place: i }) => (
        <DemandRow
          key={i}
          at={i}
          row={row}
          several={several}
          errorOf={errorOf}
          answer={answerOf(i)}
          onChange={(to) => set(i, to)}
          onRemove={() => onChange((now) => now.filter((_, at) => at !== i))}
        />
      ))}
      <Bar>
        <Button look="link" onPress={() => onChange((now) => [...now, NOTHING_WANTED])}>
          <Plus /> Add another product
        </Button>
        {more}
      </Bar>
    </div>
  );
}

/** The same product may be wanted twice, so a row is known by its place. */
export const placed = <T,>(rows: readonly T[]) => rows.map((row, place) => ({ row, place }));

interface DemandRowProps {
  at: number;
  row: Wanted;
  several: boolean;
  errorOf: DemandRowsProps["errorOf"];
  answer: DemandCoverAnswer | undefined;
  onChange: (to: Partial<Wanted>) => void;
  onRemove: () => void;
}

function DemandRow({ at, row, several, errorOf, answer, onChange, onRemove }: DemandRowProps) {
  const format = useFormat();
  const product = useItem(row.item);
  const nth = several ? ` ${at + 1}` : "";
  return (
    <Line $several={several}>
      <ItemField
        label={`Product${nth}`}
        hideLabel={several}
        width="300px"
        choosing="wanted"
        value={product.data ?? null}
        onChange={(item) => onChange({ item: item?.id ?? 0, build: "", list: "", options: [] })}
        autoFocus={row.item === 0}
        error={product.error?.message ?? errorOf(at, "item")}
      />
      <QuantityField
        packs={product.data?.packs ?? []}
        label={`How many${nth}`}
        hideLabel={several}
        width="140px"
        unit={product.data?.unit}
        value={row.quantity}
        onChange={(quantity) => onChange({ quantity })}
        autoFocus={row.item !== 0 && row.quantity === ""}
        error={row.quantity === "" ? undefined : errorOf(at, "quantity")}
      />
      <DateField
        label={`Wanted on${nth}`}
        hideLabel={several}
        width="186px"
        value={row.day}
        onChange={(day) => onChange({ day })}
        error={row.day === "" || isDay(row.day) ? undefined : `“${row.day}” isn't a date.`}
      />
      {answer?.options.map(({ item, name }) => (
        <Checkbox
          key={item}
          isSelected={row.options.includes(item)}
          onChange={(on) =>
            onChange({ options: on ? [...row.options, item] : row.options.filter((other) => other !== item) })
          }
        >
          with {name}
        </Checkbox>
      ))}
      {several && (
        <>
          <AmountField
            label={`Priority${nth}`}
            hideLabel={several}
            width="76px"
            value={row.priority}
            onChange={(priority) => onChange({ priority })}
            error={errorOf(at, "priority")}
          />
          <Words>
            {answer && demandWords(answer, format)}
            {answer?.build && <small>{answer.build.number}</small>}
          </Words>
          <Remove>
            <Button look="icon" aria-label={`Remove product ${at + 1}`} onPress={onRemove}>
              <X />
            </Button>
          </Remove>
        </>
      )}
    </Line>
  );
}

const Bar = styled(Row)`
  align-items: center;
  gap: 2px 14px;
  @media print {
    display: none;
  }
`;

const Line = styled(Row)<{ $several: boolean }>`
  margin-bottom: ${({ $several }) => ($several ? "6px" : "4px")};
  ${NARROW} {
    ${ownLabels}
  }
`;

const Words = styled.div`
  padding-top: 8px;
  min-width: 190px;
  small {
    margin-left: 8px;
    color: ${color.ink2};
  }
`;

const Remove = styled.div`
  padding-top: 3px;
`;
