import { type ItemBrief, LABEL_SHAPES, labelRoutes } from "@yosegi/contract";
import { Link } from "react-router";
import { FormDialog, inputsOf, wholeNumber } from "../forms/index.ts";
import { Row, Sub, sayDone } from "../ui/index.ts";
import { SHAPE_WORDS } from "./words.ts";

interface Draft {
  shape: (typeof LABEL_SHAPES)[number];
  copies: string;
}

const In = inputsOf<Draft>();

interface ItemLabelsProps {
  item: Pick<ItemBrief, "id" | "code" | "name">;
  /** The lot or serial number that is labelled; the item itself where both are empty. */
  piece: { lot: string; serial: string };
  onClose: () => void;
}

/** Puts labels of an item, or of one of its lots or serial numbers, into the label tray. */
export function ItemLabels({ item, piece: { lot, serial }, onClose }: ItemLabelsProps) {
  const what = serial || lot || item.code;
  return (
    <FormDialog
      title={`Labels for ${what}`}
      isOpen
      onClose={onClose}
      width="460px"
      save="Add to label tray"
      more={<Link to="/labels">Open the tray</Link>}
      route={labelRoutes.makeItemLabels}
      params={{ id: item.id }}
      begin={{ shape: "code 128", copies: "1" }}
      body={({ shape, copies }: Draft) => ({ shape, copies: wholeNumber(copies) ?? 0, lot, serial })}
      done={() => sayDone(`Labels for ${what} added to the tray.`)}
    >
      <Sub>With the name, the code and a code to scan.</Sub>
      <Row>
        <In.Choice
          label="Code"
          name="shape"
          width="190px"
          options={LABEL_SHAPES.map((value) => ({ value, label: SHAPE_WORDS[value] }))}
        />
        <In.Amount label="Copies" name="copies" width="150px" />
      </Row>
    </FormDialog>
  );
}
