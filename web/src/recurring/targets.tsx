import { PLAIN_BUILD, routes, type StockTargetRow } from "@yosegi/contract";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useCommand, usePress } from "../api/index.ts";
import { QuantityField } from "../fields/index.ts";
import {
  Actions,
  Button,
  type Described,
  Form,
  Named,
  Row,
  SheetTable,
  Short,
  Stack,
  Stale,
  sayDone,
  useFormat,
} from "../ui/index.ts";
import { type Product, ProductField, RowSteps } from "./rowsteps.tsx";

export function TargetsTable({
  rules,
  onChange,
}: {
  rules: StockTargetRow[];
  onChange: (rule: StockTargetRow) => void;
}) {
  const format = useFormat();
  const navigate = useNavigate();
  const remove = usePress(routes.removeStockTarget);
  const bringBack = usePress(routes.setStockTarget);
  const onRemove = async ({ product, target, batch }: StockTargetRow) => {
    const params = { id: product.id };
    if (await remove.run({ params }))
      sayDone(
        `The stock target of ${product.code} is removed.`,
        () => void bringBack.run({ params, body: { target, batch } }),
      );
  };
  const make = usePress(routes.newBuild, (made) => {
    sayDone(`${made.number} is a draft.`);
    void navigate(`/builds/${made.id}`);
  });
  return (
    <SheetTable
      stacks
      label="Keep in stock"
      rows={rules}
      rowId={(rule) => rule.product.id}
      columns={[
        {
          header: "Product",
          cell: ({ product }) => (
            <Named name={product.name} to={`/catalog/${product.id}`} more={[product.code]} />
          ),
        },
        { header: "Keep", end: true, cell: (rule) => format.amount(rule.target, rule.product.unit) },
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
          header: "At least at once",
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

const describe = ({ target, batch }: Pick<StockTargetRow, "target" | "batch">): Described => [
  ["Keep at least", target],
  ["Build at least", batch],
];

export function TargetForm({ rule, onClose }: { rule: StockTargetRow | null; onClose: () => void }) {
  const [product, setProduct] = useState<Product | null>(rule?.product ?? null);
  const [target, setTarget] = useState(rule?.target ?? "");
  const [batch, setBatch] = useState(rule?.batch ?? "");
  const [version, setVersion] = useState(rule?.version ?? null);
  const set = useCommand(routes.setStockTarget, () => {
    sayDone(`${product?.code} is kept.`);
    onClose();
  });
  return (
    <Form
      refusal={set.refusal}
      onSubmit={() => void set.run({ params: { id: product?.id ?? 0 }, body: { target, batch }, version })}
    >
      {rule && (
        <Stale
          command={set}
          mine={describe({ target, batch })}
          theirs={describe(rule)}
          onMine={() => setVersion(rule.version)}
          onTheirs={() => {
            setTarget(rule.target);
            setBatch(rule.batch);
            setVersion(rule.version);
          }}
        />
      )}
      <Stack>
        {!rule && <ProductField value={product} onChange={setProduct} />}
        <Row>
          <QuantityField
            autoFocus={rule !== null}
            packs={product?.packs ?? []}
            label="Keep at least"
            name="target"
            width="160px"
            unit={product?.unit}
            value={target}
            onChange={setTarget}
            error={set.errors.quantity}
          />
          <QuantityField
            packs={product?.packs ?? []}
            label="Build at least"
            name="batch"
            width="160px"
            unit={product?.unit}
            value={batch}
            onChange={setBatch}
          />
        </Row>
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={set.busy} isDisabled={product === null}>
          Keep it
        </Button>
      </Actions>
    </Form>
  );
}
