import { buildRoutes, PLAIN_BUILD, recurringRoutes, type StockTargetRow } from "@yosegi/contract";
import { useWatch } from "react-hook-form";
import { useNavigate } from "react-router";
import { usePress } from "../api/index.ts";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog } from "../forms/index.ts";
import { Button, Named, Row, SheetTable, Short, Stack, sayDone, useFormat } from "../ui/index.ts";
import { type Product, RowSteps } from "./rowsteps.tsx";

export function TargetsTable({
  rules,
  onChange,
}: {
  rules: StockTargetRow[];
  onChange: (rule: StockTargetRow) => void;
}) {
  const format = useFormat();
  const navigate = useNavigate();
  const remove = usePress(recurringRoutes.removeStockTarget);
  const bringBack = usePress(recurringRoutes.setStockTarget);
  const onRemove = async ({ product, target, batch }: StockTargetRow) => {
    if (await remove.run({ params: { id: product.id } }))
      sayDone(
        `Stock target of ${product.code} removed.`,
        () => void bringBack.run({ body: { product: product.id, target, batch } }),
      );
  };
  const make = usePress(buildRoutes.newBuild, (made) => {
    sayDone(`Draft ${made.number} created.`);
    void navigate(`/builds/${made.id}`);
  });
  return (
    <SheetTable
      label="Stock targets"
      rows={rules}
      rowId={(rule) => rule.product.id}
      columns={[
        {
          header: "Product",
          cell: ({ product }) => (
            <Named name={product.name} to={`/catalog/${product.id}`} more={[product.code]} />
          ),
        },
        { header: "Target", end: true, cell: (rule) => format.amount(rule.target, rule.product.unit) },
        {
          header: "Free",
          end: true,
          cell: (rule) =>
            rule.toBuild === "0" ? (
              format.amount(rule.free, rule.product.unit)
            ) : (
              <Short>{format.amount(rule.free, rule.product.unit)}</Short>
            ),
        },
        { header: "Being built", end: true, cell: (rule) => format.amount(rule.coming, rule.product.unit) },
        {
          header: "Minimum build",
          end: true,
          cell: (rule) => format.amount(rule.batch, rule.product.unit),
        },
        {
          header: "Build now",
          end: true,
          cell: (rule) =>
            rule.toBuild === "0" ? (
              "–"
            ) : (
              <Button
                isPending={make.busy}
                onPress={() =>
                  void make.run({
                    body: { ...PLAIN_BUILD, product: rule.product.id, quantity: rule.toBuild },
                  })
                }
              >
                Build {format.amount(rule.toBuild)}
              </Button>
            ),
        },
        {
          header: "",
          cell: (rule) => (
            <RowSteps
              change={`Change ${rule.product.code}`}
              onChange={() => onChange(rule)}
              remove={`Remove the stock target of ${rule.product.code}`}
              onRemove={() => void onRemove(rule)}
            />
          ),
        },
      ]}
    />
  );
}

interface TargetDraft {
  product: Product | null;
  target: string;
  batch: string;
}

const In = fieldsOf<TargetDraft>();

/** Keeps a product in stock; `rule` as it is now, null for a product that has none yet. */
export function TargetDialog({
  rule,
  isOpen,
  onClose,
}: {
  rule: StockTargetRow | null;
  isOpen: boolean;
  onClose: () => void;
}) {
  return (
    <FormDialog
      title={rule ? `Stock target for ${rule.product.name}` : "New stock target"}
      isOpen={isOpen}
      onClose={onClose}
      save="Save"
      route={recurringRoutes.setStockTarget}
      begin={{ product: rule?.product ?? null, target: rule?.target ?? "", batch: rule?.batch ?? "" }}
      version={rule?.version}
      body={({ product, target, batch }: TargetDraft) => ({ product: product?.id ?? 0, target, batch })}
      done={() => sayDone("Stock target saved.")}
    >
      <TargetFields isNew={rule === null} />
    </FormDialog>
  );
}

function TargetFields({ isNew }: { isNew: boolean }) {
  const product = useWatch<TargetDraft, "product">({ name: "product" });
  const measure = { unit: product?.unit, packs: product?.packs ?? [] };
  return (
    <Stack>
      {isNew && <In.Item label="Product" name="product" choosing="product" autoFocus />}
      <Row>
        <In.Quantity {...measure} autoFocus={!isNew} label="Target" name="target" width="160px" />
        <In.Quantity {...measure} label="Minimum build" name="batch" width="160px" />
      </Row>
    </Stack>
  );
}
