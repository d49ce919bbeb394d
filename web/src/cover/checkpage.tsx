import { useQuery } from "@tanstack/react-query";
import { type CoverAnswer, quantity as quantitySchema, routes } from "@yosegi/contract";
import { decimal, isDay } from "@yosegi/core";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { Failure, following, Refused, useCommand } from "../api/index.ts";
import { ItemField, QuantityField, useItem, useItems } from "../catalog/index.ts";
import {
  Actions,
  Button,
  DateField,
  EmptyPage,
  Notice,
  Page,
  Row,
  sayDone,
  TileKey,
  tileSize,
  useAsked,
  useFormat,
} from "../ui/index.ts";
import { Answer } from "./answer.tsx";
import { PartsTable } from "./partstable.tsx";

/** Can it be made? A product and a quantity; the figures follow while typing. What is asked stands in the address. */
export function CheckPage() {
  const asked = useAsked();
  const navigate = useNavigate();
  const productId = Number(asked.get("product"));
  const quantity = asked.get("quantity");
  const due = asked.get("due");
  const product = useItem(productId);
  const valid = quantitySchema.safeParse(quantity);
  const cover = useQuery({
    ...following(routes.cover, { params: { id: productId }, query: { quantity } }),
    enabled: productId > 0 && valid.success,
    retry: false,
  });
  const anything = useItems({ kind: "built", limit: 1 });

  if (anything.data?.total === 0)
    return (
      <EmptyPage
        title="Are there parts for 40?"
        action={
          <Button look="main" onPress={() => void navigate("/catalog")}>
            Go to the catalog
          </Button>
        }
      >
        Here you ask how many of a product the free stock allows, and which part stops you. It needs a product
        with a parts list: make one in the catalog, or bring your lists in from a spreadsheet.
      </EmptyPage>
    );
  return (
    <Page>
      <Row>
        <ItemField
          label="Product"
          width="300px"
          choosing="product"
          value={product.data ?? null}
          onChange={(item) => asked.set("product", item ? String(item.id) : "")}
          autoFocus={productId === 0}
          error={product.error?.message}
        />
        <QuantityField
          packs={product.data?.packs ?? []}
          label="How many"
          width="150px"
          unit={product.data?.unit}
          value={quantity}
          onChange={(text) => asked.set("quantity", text)}
          autoFocus={productId > 0 && quantity === ""}
          error={
            quantity === ""
              ? undefined
              : (valid.error?.issues[0]?.message ?? fieldMessage(cover.error, "quantity"))
          }
        />
        <DateField
          label="Due on"
          value={due}
          onChange={(text) => asked.set("due", text)}
          error={due === "" || isDay(due) ? undefined : `“${due}” is no day.`}
        />
      </Row>
      {cover.error && !fieldMessage(cover.error, "quantity") && <Failure error={cover.error} />}
      {productId === 0 && <Lead>Choose a product and how many; the answer comes while you type.</Lead>}
      {productId > 0 && quantity === "" && <Lead>How many are wanted?</Lead>}
      {cover.data && !cover.error && valid.success && productId > 0 && (
        <Result cover={cover.data} due={isDay(due) ? due : null} />
      )}
    </Page>
  );
}

function Result({ cover, due }: { cover: CoverAnswer; due: string | null }) {
  const format = useFormat();
  const navigate = useNavigate();
  const make = useCommand(routes.newBuild, (build) => {
    sayDone(`${build.number} is made.`);
    void navigate(`/builds/${build.id}`);
  });
  const build = (quantity: string) =>
    make.run({
      body: { product: cover.product.id, quantity, due, note: "", list: null, options: [] },
    });
  const { makesNow, wanted, product } = cover;
  const some = makesNow !== null && decimal(makesNow).gt(0) && decimal(makesNow).lt(wanted);
  const each = tileSize(wanted);
  return (
    <>
      <Answer cover={cover} />
      <Proof>
        <PartsTable cover={cover} />
      </Proof>
      {make.refusal && <Notice>{make.refusal.fields[0]?.message ?? make.refusal.message}</Notice>}
      <Actions>
        {some && (
          <Button look="main" isPending={make.busy} onPress={() => void build(makesNow)}>
            Build {format.amount(makesNow)} now
          </Button>
        )}
        <Button look={some ? "quiet" : "main"} isPending={make.busy} onPress={() => void build(wanted)}>
          Build all {format.amount(wanted)}
        </Button>
        <Words>
          <TileKey
            words={{ full: `there, a tile for ${format.amount(each, product.unit)}`, missing: "missing" }}
          />
        </Words>
      </Actions>
    </>
  );
}

function fieldMessage(error: Error | null, field: string): string | undefined {
  return error instanceof Refused ? error.answer.fields.find((f) => f.field === field)?.message : undefined;
}

const Lead = styled.p`
  font: 500 20px/1.4 "Bricolage Grotesque Variable", sans-serif;
  color: var(--ink2);
  margin: 28px 0;
`;
const Proof = styled.div`
  margin-top: 12px;
  min-height: 0;
  display: flex;
  flex-direction: column;
`;
const Words = styled.div`
  margin-left: auto;
`;
