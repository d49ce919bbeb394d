import { useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { ChevronDown, ChevronRight, GripVertical, Trash2 } from "lucide-react";
import { memo, use, useState } from "react";
import { useFormContext, useWatch } from "react-hook-form";
import styled from "styled-components";
import { fieldsOf, useUnits } from "../fields/index.ts";
import { Button, color, TileStrip, useFormat } from "../ui/index.ts";
import { FiguresContext } from "./figurescontext.ts";
import { LineDetails } from "./linedetails.tsx";
import { type ChosenPart, choosePart, type DraftLine, type DraftList, unitsFor } from "./listdraft.ts";

const In = fieldsOf<DraftList>();

export interface ListLineRowProps {
  /** What the line is known by, wherever it stands. */
  id: number;
  index: number;
  last: boolean;
  product: number;
  onRemove: () => void;
}

/** One line of the editor: its fields, its cost, the reach of its part, and its details where they are opened. */
export function ListLineRow({ id, index, last, product, onRemove }: ListLineRowProps) {
  const [open, setOpen] = useState(false);
  const sortable = useSortable({ id, disabled: last });
  const n = index + 1;
  const at = `lines.${index}` as const;
  return (
    <>
      <Line
        ref={sortable.setNodeRef}
        data-row={index}
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
        <LineFields at={at} n={n} product={product} />
        <Figures at={at} id={id} />
        <td>
          {!last && (
            <RowButtons n={n} at={at} open={open} onOpen={() => setOpen(!open)} onRemove={onRemove} />
          )}
        </td>
      </Line>
      {open && !last && (
        <tr>
          <td />
          <td colSpan={7}>
            <LineDetails at={at} product={product} />
          </td>
        </tr>
      )}
    </>
  );
}

function LineFields({ at, n, product }: { at: `lines.${number}`; n: number; product: number }) {
  const units = useUnits();
  const { setValue } = useFormContext<DraftList>();
  const part = useWatch<DraftList, `lines.${number}.part`>({ name: `${at}.part` });
  const pasted = useWatch<DraftList, `lines.${number}.pasted`>({ name: `${at}.pasted` });
  const unit = useWatch<DraftList, `lines.${number}.unit`>({ name: `${at}.unit` });
  const choose = (chosen: ChosenPart | null) => {
    const { drawnAt, ...line } = choosePart(chosen);
    setValue(`${at}.pasted`, "");
    setValue(`${at}.unit`, line.unit);
    if (drawnAt) setValue(`${at}.drawnAt`, drawnAt);
  };
  return (
    <>
      <td className="part">
        <In.Item
          label={`Part ${n}`}
          hideLabel
          choosing="part"
          product={product}
          pasted={pasted}
          onChanged={choose}
          name={`${at}.part`}
          autoFocus={n === 1 && part === null && pasted === ""}
        />
      </td>
      <td>
        <In.Quantity
          label={`Quantity of part ${n}`}
          hideLabel
          width="104px"
          // Packs are in the stock unit, so a line in another unit has none.
          packs={unit === part?.unit ? (part.packs ?? []) : []}
          measuredIn={unit}
          name={`${at}.quantity`}
        />
      </td>
      <td>
        <In.Choice
          label={`Unit of part ${n}`}
          hideLabel
          width="84px"
          options={unitsFor(part, units)}
          name={`${at}.unit`}
          placeholder="–"
        />
      </td>
      <td>
        <In.Amount label={`Waste of part ${n}`} hideLabel width="84px" unit="%" name={`${at}.waste`} />
      </td>
    </>
  );
}

/** Cost of a line, and reach of its part. */
function Figures({ at, id }: { at: `lines.${number}`; id: number }) {
  const format = useFormat();
  const part = useWatch<DraftList, `lines.${number}.part`>({ name: `${at}.part` });
  const { figures, usual } = use(FiguresContext);
  const cost = figures?.byLine.get(id);
  const reach = part && figures?.reach.has(id) ? (figures.reach.get(id) ?? null) : undefined;
  return (
    <>
      <td className="end" data-head="Cost">
        {cost ? format.money(cost) : part && part.currentCost === null ? "no cost yet" : "–"}
      </td>
      <td data-head="Reach">
        {part && reach !== undefined && <Reach name={part.name} reach={reach} usual={usual} />}
      </td>
    </>
  );
}

interface RowButtonsProps {
  n: number;
  at: `lines.${number}`;
  open: boolean;
  onOpen: () => void;
  onRemove: () => void;
}

function RowButtons({ n, at, open, onOpen, onRemove }: RowButtonsProps) {
  const line = useWatch<DraftList, `lines.${number}`>({ name: at });
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

/** null: without a limit. */
const Reach = memo(({ name, reach, usual }: { name: string; reach: string | null; usual: string }) => {
  const format = useFormat();
  const says = reach === null ? "no limit" : `reaches ${format.amount(reach)} of ${format.amount(usual)}`;
  return (
    <Strip title={says}>
      <TileStrip small most={STRIP} wanted={usual} there={reach} says={`${name} ${says}`} />
    </Strip>
  );
});

/** What lies outside the view is not laid out or painted, so that a key in a long list takes little more than in a short one. */
const Line = styled.tr`
  position: relative;
  > td > * {
    content-visibility: auto;
    contain-intrinsic-size: auto 100px auto 40px;
    overflow-clip-margin: 6px;
  }
`;

const Handle = styled.button`
  border: 0;
  background: none;
  padding: 14px 6px;
  margin: -4px -6px;
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
