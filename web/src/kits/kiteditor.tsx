import { type ItemSheet, kitRoutes } from "@yosegi/contract";
import type { PriceRule, Swap } from "@yosegi/core";
import { Trash2, X } from "lucide-react";
import { useMemo } from "react";
import { useFormContext, useWatch } from "react-hook-form";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { fieldsOf, ItemField } from "../fields/index.ts";
import { FormOf, Save, sentLines, useCommandForm, useGrid } from "../forms/index.ts";
import { KIND_HELP } from "../items/index.ts";
import {
  Actions,
  Button,
  cards,
  Fact,
  Facts,
  Large,
  Notice,
  Row,
  Spoken,
  Sub,
  sayDone,
  Table,
  Unseen,
  useFieldState,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import {
  bodyOfKit,
  type DraftContent,
  type DraftKit,
  draftOfKit,
  emptyContent,
  figuresOfKit,
} from "./kitdraft.ts";

const SWAPS: { value: Swap; label: string }[] = [
  { value: "fixed", label: "Fixed" },
  { value: "listed", label: "Choice of listed items" },
  { value: "any", label: "Any item" },
];

const PRICES: { value: PriceRule; label: string }[] = [
  { value: "own", label: "Its own price" },
  { value: "sum", label: "Sum of the contents" },
];

const In = fieldsOf<DraftKit>();

const isEmpty = (content: DraftContent): boolean => content.item === null;

/** Says what is in a set, what of it may change for one order, what the customer sees, and what it is sold at. */
export function KitEditor({ item }: { item: ItemSheet }) {
  const navigate = useNavigate();
  const back = `/catalog/${item.id}`;
  const form = useCommandForm({
    route: kitRoutes.saveKit,
    params: { id: item.id },
    begin: draftOfKit(item),
    version: item.kit?.version ?? 0,
    keptAs: `kit ${item.id}`,
    body: bodyOfKit,
    fieldOf: sentLines("contents", (content: DraftContent) => !isEmpty(content)),
    done: () => {
      sayDone(`${item.code} is saved.`);
      void navigate(back);
    },
  });
  useShortcut("s", "Save kit", form.submit);
  return (
    <FormOf form={form}>
      <h1>Contents of {item.name}</h1>
      <Sub>
        {item.code} · {KIND_HELP.kit}
      </Sub>
      <Contents kit={item.id} />
      <Row>
        <In.Tick name="contentsShown">Contents shown to the customer</In.Tick>
        <In.Tick name="mayBeAddedTo">More may be added for one order</In.Tick>
      </Row>
      <Price />
      <Actions>
        <Save>Save kit</Save>
        <Button
          onPress={() => {
            form.startAgain();
            void navigate(back);
          }}
        >
          Discard changes
        </Button>
      </Actions>
    </FormOf>
  );
}

function Contents({ kit }: { kit: number }) {
  const grid = useGrid("contents", isEmpty, emptyContent);
  const { message } = useFieldState("contents", "");
  return (
    <>
      {message && <Notice>{message}</Notice>}
      <Grid aria-label="Contents">
        <thead>
          <tr>
            <th scope="col">Content</th>
            <th scope="col">A set</th>
            <th scope="col">For one order</th>
            <th scope="col">
              <Unseen>Remove</Unseen>
            </th>
          </tr>
        </thead>
        <tbody>
          {grid.keys.map((key, i) => (
            <ContentRow
              key={key}
              at={`contents.${i}`}
              n={i + 1}
              last={i === grid.keys.length - 1}
              kit={kit}
              onRemove={() => grid.remove(i)}
            />
          ))}
        </tbody>
      </Grid>
    </>
  );
}

function Price() {
  const format = useFormat();
  const { moneyDecimals } = format;
  const draft = useWatch() as DraftKit;
  const figures = useMemo(() => figuresOfKit(draft, moneyDecimals), [draft, moneyDecimals]);
  const { margin, sets, limiting } = figures;
  return (
    <>
      <Row>
        <In.Choice label="Price" name="priceRule" width="200px" options={PRICES} />
        {draft.priceRule === "own" ? (
          <In.Amount label="Own price" name="price" width="160px" unit={format.settings.currency} />
        ) : (
          <In.Amount label="Less" name="discount" width="130px" unit="%" />
        )}
      </Row>
      <Spoken
        text={[
          sets === null ? "No content limits the sets." : `${format.amount(sets)} sets available.`,
          figures.price && `Price ${format.money(figures.price)}.`,
        ]
          .filter(Boolean)
          .join(" ")}
      />
      <Facts>
        <Fact name="Sets available">
          <Large>{sets === null ? "no limit" : format.amount(sets)}</Large>
          {limiting.length > 0 && ` ${format.list(limiting)} first`}
        </Fact>
        <Fact name="Cost of one">{figures.cost ? format.unitCost(figures.cost) : "some costs missing"}</Fact>
        <Fact name="Price">{figures.price ? format.money(figures.price) : "none yet"}</Fact>
        {margin && (
          <Fact name="Margin">
            {format.money(margin.money.toFixed(4))}
            {margin.percent && ` · ${format.percent(margin.percent.toFixed())}`}
          </Fact>
        )}
      </Facts>
    </>
  );
}

interface ContentRowProps {
  at: `contents.${number}`;
  n: number;
  last: boolean;
  kit: number;
  onRemove: () => void;
}

function ContentRow({ at, n, last, kit, onRemove }: ContentRowProps) {
  const item = useWatch<DraftKit, `contents.${number}.item`>({ name: `${at}.item` });
  return (
    <tr>
      <td>
        <In.Item
          label={`Content ${n}`}
          hideLabel
          choosing="content"
          product={kit}
          name={`${at}.item`}
          autoFocus={n === 1 && !item}
        />
      </td>
      <td>
        <In.Quantity
          label={`Quantity of content ${n}`}
          hideLabel
          width="130px"
          packs={item?.packs ?? []}
          unit={item?.unit}
          name={`${at}.quantity`}
        />
      </td>
      <td>{item && <ForOneOrder at={at} n={n} kit={kit} />}</td>
      <td>
        {!last && (
          <Button look="icon" aria-label={`Remove content ${n}`} onPress={onRemove}>
            <Trash2 />
          </Button>
        )}
      </td>
    </tr>
  );
}

/** What of a content may change for one order. */
function ForOneOrder({ at, n, kit }: Pick<ContentRowProps, "at" | "n" | "kit">) {
  const swap = useWatch<DraftKit, `contents.${number}.swap`>({ name: `${at}.swap` });
  return (
    <>
      <Row>
        <In.Choice
          label={`Content ${n} for one order`}
          hideLabel
          name={`${at}.swap`}
          width="186px"
          options={SWAPS}
        />
        <In.Tick name={`${at}.quantityMayChange`} aria-label={`Quantity of content ${n} may change`}>
          quantity
        </In.Tick>
        <In.Tick name={`${at}.mayBeLeftOut`} aria-label={`Content ${n} may be left out`}>
          left out
        </In.Tick>
      </Row>
      {swap === "listed" && <Swaps at={at} n={n} kit={kit} />}
    </>
  );
}

/** The items that may take the place of a content. */
function Swaps({ at, n, kit }: Pick<ContentRowProps, "at" | "n" | "kit">) {
  const { setValue } = useFormContext<DraftKit>();
  const swaps = useWatch<DraftKit, `contents.${number}.swaps`>({ name: `${at}.swaps` });
  return (
    <Named>
      {swaps.map((swap) => (
        <span key={swap.code}>
          {swap.code}
          <Button
            look="icon"
            aria-label={`Remove ${swap.code}`}
            onPress={() =>
              setValue(
                `${at}.swaps`,
                swaps.filter((s) => s.code !== swap.code),
              )
            }
          >
            <X />
          </Button>
        </span>
      ))}
      <ItemField
        key={swaps.length}
        label={`May take the place of content ${n}`}
        hideLabel
        width="210px"
        choosing="content"
        product={kit}
        value={null}
        onChange={(other) => other && setValue(`${at}.swaps`, [...swaps, other])}
        name={`${at}.swaps`}
      />
    </Named>
  );
}

const Grid = styled(Table)`
  margin: 14px 0;
  border: 1px solid var(--line);
  td {
    vertical-align: top;
    padding: 6px 8px;
  }
  td:first-child {
    width: 38%;
  }
  ${cards(7)}
`;

const Named = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
  margin-top: 8px;
  span {
    display: inline-flex;
    align-items: center;
    font-weight: 600;
  }
`;
