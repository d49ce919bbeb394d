import { buildRoutes, type ItemBrief, PLAIN_BUILD } from "@yosegi/contract";
import { useWatch } from "react-hook-form";
import { useNavigate } from "react-router";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog } from "../forms/index.ts";
import { Row, Stack, Sub, sayDone } from "../ui/index.ts";
import { BLANK_PART, PartLines, type PartsDraft, partField, sentParts } from "./partsform.tsx";

interface NewBuildDraft extends PartsDraft {
  product: Pick<ItemBrief, "id" | "code" | "name" | "unit" | "packs"> | null;
  quantity: string;
  due: string;
}

const In = fieldsOf<NewBuildDraft>();

/** A build whose parts are typed for it alone; its product needs no parts list. */
export function NewBuildDialog({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const navigate = useNavigate();
  return (
    <FormDialog
      title="New build with its own parts"
      isOpen={isOpen}
      onClose={onClose}
      width="780px"
      save="Create draft"
      route={buildRoutes.newBuild}
      begin={{ product: null, quantity: "", due: "", parts: [BLANK_PART] }}
      fieldOf={partField}
      body={({ product, due, parts, quantity }: NewBuildDraft) => ({
        ...PLAIN_BUILD,
        product: product?.id ?? 0,
        quantity,
        due: due === "" ? null : due,
        parts: sentParts(parts),
      })}
      done={(build) => {
        sayDone(`Draft ${build.number} created.`);
        void navigate(`/builds/${build.id}`);
      }}
    >
      <NewBuildFields />
    </FormDialog>
  );
}

function NewBuildFields() {
  const product = useWatch<NewBuildDraft, "product">({ name: "product" });
  return (
    <Stack>
      <Row>
        <In.Item label="Product" name="product" choosing="built" width="300px" autoFocus />
        <In.Quantity
          label="How many"
          name="quantity"
          width="150px"
          unit={product?.unit}
          packs={product?.packs ?? []}
        />
        <In.Day label="Due on" name="due" />
      </Row>
      <Sub>Quantities are for the whole build. No parts list is needed, and none is changed.</Sub>
      <PartLines product={product?.id ?? 0} />
    </Stack>
  );
}
