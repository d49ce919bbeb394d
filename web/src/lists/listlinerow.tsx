import { useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { ChevronDown, ChevronRight, GripVertical, Trash2 } from "lucide-react";
import { useState } from "react";
import styled from "styled-components";
import { ItemField, QuantityField, useUnits } from "../fields/index.ts";
import { AmountField, Button, color, Select, TileStrip, useFormat } from "../ui/index.ts";
import type { DraftFigures } from "./figures.ts";
import { LineDetails } from "./linedetails.tsx";
import { changeLine, choosePart, type DraftLine, type DraftList, isEmpty, unitsFor } from "./listdraft.ts";

export interface ListLineRowProps {
  line: DraftLine;
  index: number;
  last: boolean;
  product: number;
  /** Where it stands among the lines that are sent. */
  sent: number | undefined;
  usual: string;
  figures: DraftFigures | null;
  change: (what: string, to: (before: DraftList) => DraftList) => void;
  onRemove: () => void;
}

/** One line of the editor: what is typed, what it costs, how far its part reaches, and more where it is opened. */
export function ListLineRow({
  line,
  index,
  last,
  product,
  sent,
  usual,
  figures,
  change,
  onRemove,
}: ListLineRowProps) {
  const format = useFormat();
  const units = useUnits();
  const [open, setOpen] = useState(false);
  const sortable = useSortable({ id: line.key, disabled: last });
  const n = index + 1;
  const name = (field: string) => `lines.${sent}.${field}`;
  // A part that is looked up comes when the person types on already: changes build on what is there then.
  const set = (what: string, to: Partial<DraftLine>) =>
    change(what === "" ? "" : `${line.key} ${what}`, (before) => changeLine(before, line.key, to));
  const cost = figures?.byLine.get(line.key);
  return (
    <>
      <Line
        ref={sortable.setNodeRef}
        data-line={index}
        style={{ transform: CSS.Translate.toString(sortable.transform), transition: sortable.transition }}
      >
        <td>
          {!last && (
            <Handle
              {...sortable.attributes}
              {...sortable.listeners}
              type="button"
              aria-label={`Move part ${n}`}
              tabIndex={-1}
            >
              <GripVertical />
            </Handle>
          )}
        </td>
        <td className="part">
          <ItemField
            label={`Part ${n}`}
            hideLabel
            choosing="part"
            product={product}
            value={line.part}
            pasted={line.pasted}
            onChange={(part) => set("", choosePart(part))}
            name={name("part")}
            autoFocus={index === 0 && isEmpty(line)}
          />
        </td>
        <td>
          <QuantityField
            label={`Quantity of part ${n}`}
            hideLabel
            width="104px"
            // Packs are told in the stock unit, so they say nothing of a line in another.
            packs={line.unit === line.part?.unit ? (line.part.packs ?? []) : []}
            measuredIn={line.unit}
            value={line.quantity}
            onChange={(quantity) => set("quantity", { quantity })}
            name={name("quantity")}
          />
        </td>
        <td>
          <Select
            label={`Unit of part ${n}`}
            hideLabel
            width="84px"
            value={line.unit}
            options={unitsFor(line.part, units)}
            onChange={(unit) => set("", { unit })}
            name={name("unit")}
            placeholder="–"
          />
        </td>
        <td>
          <AmountField
            label={`Waste of part ${n}`}
            hideLabel
            width="84px"
            unit="%"
            value={line.waste}
            onChange={(waste) => set("waste", { waste })}
            name={name("waste")}
          />
        </td>
        <td className="end">
          {cost ? format.money(cost) : line.part && line.part.currentCost === null ? "no cost yet" : "–"}
        </td>
        <td>
          <Reach line={line} usual={usual} figures={figures} />
        </td>
        <td>
          {!last && (
            <RowButtons n={n} line={line} open={open} onOpen={() => setOpen(!open)} onRemove={onRemove} />
          )}
        </td>
      </Line>
      {open && !last && (
        <tr>
          <td />
          <td colSpan={7}>
            <LineDetails line={line} name={name} product={product} set={set} />
          </td>
        </tr>
      )}
    </>
  );
}

interface RowButtonsProps {
  n: number;
  line: DraftLine;
  open: boolean;
  onOpen: () => void;
  onRemove: () => void;
}

function RowButtons({ n, line, open, onOpen, onRemove }: RowButtonsProps) {
  return (
    <Buttons>
      <Button look="icon" aria-expanded={open} aria-label={`More about part ${n}`} onPress={onOpen}>
        {open ? <ChevronDown /> : <ChevronRight />}
        {!open && said(line) && <Dot aria-hidden />}
      </Button>
      <Button look="icon" aria-label={`Remove part ${n}`} onPress={onRemove}>
        <Trash2 />
      </Button>
    </Buttons>
  );
}

/** The most tiles that a strip in the grid has. */
export const STRIP = 12;

/** Whether more is said of a line than its row shows. */
const said = (line: DraftLine) =>
  line.oncePerBuild ||
  line.optional ||
  line.drawnAt !== "pick" ||
  [line.store, line.note, line.share, line.person].some((text) => text !== "") ||
  line.substitutes.length > 0;

function Reach({ line, usual, figures }: { line: DraftLine; usual: string; figures: DraftFigures | null }) {
  const format = useFormat();
  if (!figures || !line.part || !figures.reach.has(line.key)) return null;
  const reach = figures.reach.get(line.key) ?? null;
  const says = reach === null ? "no limit" : `reaches ${format.amount(reach)} of ${format.amount(usual)}`;
  return (
    <Strip title={says}>
      <TileStrip small most={STRIP} wanted={usual} there={reach} says={`${line.part.name} ${says}`} />
    </Strip>
  );
}

const Line = styled.tr`
  position: relative;
`;

const Handle = styled.button`
  border: 0;
  background: none;
  padding: 10px 0;
  color: ${color.ink3};
  cursor: grab;
  touch-action: none;
  svg {
    width: 16px;
    height: 16px;
    display: block;
  }
`;

const Buttons = styled.div`
  display: flex;
  padding-top: 3px;
  button {
    position: relative;
  }
`;

const Dot = styled.i`
  position: absolute;
  right: 4px;
  top: 4px;
  width: 6px;
  height: 6px;
  background: ${color.walnut};
  transform: rotate(45deg);
`;

const Strip = styled.div`
  padding-top: 12px;
  min-width: 116px;
`;
