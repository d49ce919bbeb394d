import { type ItemSheet, routes } from "@yosegi/contract";
import type { PriceRule, Swap } from "@yosegi/core";
import { Trash2, X } from "lucide-react";
import { useMemo } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { useCommand } from "../api/index.ts";
import { ItemField, QuantityField } from "../fields/index.ts";
import { KIND_HELP } from "../items/index.ts";
import {
  Actions,
  AmountField,
  Button,
  Checkbox,
  Fact,
  Facts,
  Form,
  KeptDraft,
  Large,
  Notice,
  Row,
  Select,
  Stale,
  Sub,
  sayDone,
  Table,
  Unseen,
  useDraft,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import {
  bodyOfKit,
  changeContent,
  type DraftContent,
  type DraftKit,
  describe,
  draftOfKit,
  figuresOfKit,
} from "./kitdraft.ts";

const SWAPS: { value: Swap; label: string }[] = [
  { value: "fixed", label: "Stays as it is" },
  { value: "listed", label: "One of those named" },
  { value: "any", label: "Any other item" },
];

const PRICES: { value: PriceRule; label: string }[] = [
  { value: "own", label: "Its own price" },
  { value: "sum", label: "Sum of the contents" },
];

/** Says what is in a set, what of it may change for one order, what the customer sees, and what it is sold at. */
export function KitEditor({ item }: { item: ItemSheet }) {
  const navigate = useNavigate();
  const { moneyDecimals } = useFormat();
  const {
    draft,
    change: setDraft,
    keptAt,
    startAgain,
    forget,
  } = useDraft(`kit ${item.id}`, () => draftOfKit(item));
  const figures = useMemo(() => figuresOfKit(draft, moneyDecimals), [draft, moneyDecimals]);
  const back = `/catalog/${item.id}`;
  const save = useCommand(routes.saveKit, () => {
    forget();
    sayDone(`${item.code} is saved.`);
    void navigate(back);
  });
  const submit = () => save.run({ params: { id: item.id }, body: bodyOfKit(draft), version: draft.version });
  const set = (to: Partial<DraftKit>) => setDraft((before) => ({ ...before, ...to }));
  const change = (key: number, to: Partial<DraftContent>) =>
    setDraft((before) => changeContent(before, key, to));
  useShortcut("s", "Save the kit", () => void submit());
  return (
    <Form keeps refusal={save.refusal} onSubmit={() => void submit()}>
      <h1>Contents of {item.name}</h1>
      <Sub>
        {item.code} · {KIND_HELP.kit}
      </Sub>
      <KeptDraft at={keptAt} onStartAgain={startAgain} />
      <Stale
        command={save}
        mine={describe(draft)}
        theirs={describe(draftOfKit(item))}
        onMine={() => {
          set({ version: draftOfKit(item).version });
        }}
        onTheirs={startAgain}
      />
      {save.errors.contents && <Notice>{save.errors.contents}</Notice>}
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
          {draft.contents.map((content, i) => (
            <ContentRow
              key={content.key}
              content={content}
              n={i + 1}
              last={i === draft.contents.length - 1}
              kit={item.id}
              change={(to) => change(content.key, to)}
              onRemove={() =>
                setDraft((before) => ({
                  ...before,
                  contents: before.contents.filter((c) => c.key !== content.key),
                }))
              }
            />
          ))}
        </tbody>
      </Grid>
      <Row>
        <Checkbox isSelected={draft.contentsShown} onChange={(contentsShown) => set({ contentsShown })}>
          Contents shown to the customer
        </Checkbox>
        <Checkbox isSelected={draft.mayBeAddedTo} onChange={(mayBeAddedTo) => set({ mayBeAddedTo })}>
          More may be added for one order
        </Checkbox>
      </Row>
      <Price draft={draft} set={set} figures={figures} />
      <Actions>
        <Button look="main" type="submit" isPending={save.busy}>
          Save the kit
        </Button>
        <Button
          onPress={() => {
            forget();
            void navigate(back);
          }}
        >
          Leave it as it was
        </Button>
      </Actions>
    </Form>
  );
}

interface PriceProps {
  draft: DraftKit;
  set: (to: Partial<DraftKit>) => void;
  figures: ReturnType<typeof figuresOfKit>;
}

function Price({ draft, set, figures }: PriceProps) {
  const format = useFormat();
  const { margin, sets, limiting } = figures;
  return (
    <>
      <Row>
        <Select
          label="Price"
          width="200px"
          value={draft.priceRule}
          options={PRICES}
          onChange={(priceRule) => set({ priceRule })}
        />
        {draft.priceRule === "own" ? (
          <AmountField
            label="Own price"
            name="price"
            width="160px"
            unit={format.settings.currency}
            value={draft.price}
            onChange={(price) => set({ price })}
          />
        ) : (
          <AmountField
            label="Less"
            name="discount"
            width="130px"
            unit="%"
            value={draft.discount}
            onChange={(discount) => set({ discount })}
          />
        )}
      </Row>
      <Facts aria-live="polite">
        <Fact name="Sets available">
          <Large>{sets === null ? "no limit" : format.amount(sets)}</Large>
          {limiting.length > 0 && ` ${format.list(limiting)} first`}
        </Fact>
        <Fact name="Cost of one">{figures.cost ? format.unitCost(figures.cost) : "not known of all"}</Fact>
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
  content: DraftContent;
  n: number;
  last: boolean;
  kit: number;
  change: (to: Partial<DraftContent>) => void;
  onRemove: () => void;
}

function ContentRow({ content, n, last, kit, change, onRemove }: ContentRowProps) {
  const { item } = content;
  const name = (field: string) => `contents.${n - 1}.${field}`;
  return (
    <tr>
      <td className="part">
        <ItemField
          label={`Content ${n}`}
          hideLabel
          choosing="content"
          product={kit}
          value={item}
          onChange={(next) => change({ item: next })}
          name={name("item")}
          autoFocus={n === 1 && !item}
        />
      </td>
      <td>
        <QuantityField
          label={`Quantity of content ${n}`}
          hideLabel
          width="130px"
          packs={item?.packs ?? []}
          unit={item?.unit}
          value={content.quantity}
          onChange={(quantity) => change({ quantity })}
          name={name("quantity")}
        />
      </td>
      <td>
        {item && (
          <>
            <Row>
              <Select
                label={`Content ${n} for one order`}
                hideLabel
                width="186px"
                value={content.swap}
                options={SWAPS}
                onChange={(swap) => change({ swap })}
              />
              <Checkbox
                isSelected={content.quantityMayChange}
                onChange={(quantityMayChange) => change({ quantityMayChange })}
                aria-label={`Quantity of content ${n} may change`}
              >
                quantity
              </Checkbox>
              <Checkbox
                isSelected={content.mayBeLeftOut}
                onChange={(mayBeLeftOut) => change({ mayBeLeftOut })}
                aria-label={`Content ${n} may be left out`}
              >
                left out
              </Checkbox>
            </Row>
            {content.swap === "listed" && (
              <Named>
                {content.swaps.map((swap) => (
                  <span key={swap.code}>
                    {swap.code}
                    <Button
                      look="icon"
                      aria-label={`Do not offer ${swap.code}`}
                      onPress={() => change({ swaps: content.swaps.filter((s) => s.code !== swap.code) })}
                    >
                      <X />
                    </Button>
                  </span>
                ))}
                <ItemField
                  key={content.swaps.length}
                  label={`May take the place of content ${n}`}
                  hideLabel
                  width="210px"
                  choosing="content"
                  product={kit}
                  value={null}
                  onChange={(other) => other && change({ swaps: [...content.swaps, other] })}
                  name={name("swaps")}
                />
              </Named>
            )}
          </>
        )}
      </td>
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

const Grid = styled(Table)`
  margin: 14px 0;
  border: 1px solid var(--line);
  td {
    vertical-align: top;
    padding: 6px 8px;
  }
  td.part {
    width: 38%;
    min-width: 220px;
  }
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
