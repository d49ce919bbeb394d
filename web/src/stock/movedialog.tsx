import { type ItemSheet, stockRoutes } from "@yosegi/contract";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog } from "../forms/index.ts";
import { Row, Stack, Sub, sayDone, useFormat } from "../ui/index.ts";
import { fieldOfLine } from "./firstline.ts";
import { useUndoStock } from "./undostock.ts";

type Spot = ItemSheet["stockByBin"][number];

interface SpotDialogProps {
  item: ItemSheet;
  spot: Spot;
  onClose: () => void;
}

interface MoveDraft {
  quantity: string;
  toStore: string;
  toBin: string;
  costTag: string;
  reason: string;
  day: string;
}

const Move = fieldsOf<MoveDraft>();

const lineOf = (item: ItemSheet, { store, bin, lot, serial }: Spot) => ({
  item: item.id,
  store,
  bin,
  lot,
  serial,
});

/** Moves what is in one bin, or some of it, to another. */
export function MoveDialog({ item, spot, onClose }: SpotDialogProps) {
  const format = useFormat();
  const undo = useUndoStock();
  return (
    <FormDialog
      title={`Move ${item.code}`}
      isOpen
      onClose={onClose}
      width="560px"
      save="Move"
      route={stockRoutes.moveStock}
      begin={{
        quantity: spot.quantity,
        toStore: spot.store,
        toBin: "",
        costTag: "",
        reason: "",
        day: format.settings.today,
      }}
      body={({ quantity, toStore, toBin, ...typed }: MoveDraft) => ({
        ...typed,
        lines: [{ ...lineOf(item, spot), quantity, toStore, toBin }],
      })}
      fieldOf={fieldOfLine}
      done={({ document }, { quantity }) =>
        sayDone(`${format.amount(quantity, item.unit)} of ${item.code} moved as ${document}.`, undo(document))
      }
    >
      <Stack>
        <Sub>
          From {spot.store} {spot.bin}: {format.amount(spot.quantity, item.unit)}
          {(spot.serial || spot.lot) && `, ${spot.serial || spot.lot}`}.
        </Sub>
        <Row>
          <Move.Quantity
            label="Quantity"
            name="quantity"
            width="150px"
            unit={item.unit}
            packs={item.packs}
            autoFocus
          />
          <Move.Store label="To store" name="toStore" width="170px" />
          <Move.Text label="To bin" name="toBin" width="120px" />
        </Row>
        <Row>
          <Move.Day label="Day" name="day" width="170px" />
          <Move.Text label="Cost tag" name="costTag" width="120px" />
          <Move.Text label="Note" name="reason" width="200px" />
        </Row>
      </Stack>
    </FormDialog>
  );
}

type ScrapDraft = Omit<MoveDraft, "toStore" | "toBin">;

const Scrap = fieldsOf<ScrapDraft>();

/** Scraps what is in one bin, or some of it: its value is lost. */
export function ScrapDialog({ item, spot, onClose }: SpotDialogProps) {
  const format = useFormat();
  const undo = useUndoStock();
  return (
    <FormDialog
      title={`Scrap ${item.code}`}
      isOpen
      onClose={onClose}
      width="560px"
      save="Scrap"
      route={stockRoutes.scrapStock}
      begin={{ quantity: "", costTag: "", reason: "", day: format.settings.today }}
      body={({ quantity, ...typed }: ScrapDraft) => ({
        ...typed,
        lines: [{ ...lineOf(item, spot), quantity }],
      })}
      fieldOf={fieldOfLine}
      done={({ document, lost }) =>
        sayDone(`Scrapped as ${document}: ${format.money(lost)} lost.`, undo(document))
      }
    >
      <Stack>
        <Sub>
          In {spot.store} {spot.bin}: {format.amount(spot.quantity, item.unit)}
          {(spot.serial || spot.lot) && `, ${spot.serial || spot.lot}`}.
        </Sub>
        <Row>
          <Scrap.Quantity
            label="Quantity"
            name="quantity"
            width="150px"
            unit={item.unit}
            packs={item.packs}
            autoFocus
          />
          <Scrap.Text label="Reason" name="reason" width="300px" />
        </Row>
        <Row>
          <Scrap.Day label="Day" name="day" width="170px" />
          <Scrap.Text label="Cost tag" name="costTag" width="120px" />
        </Row>
      </Stack>
    </FormDialog>
  );
}
