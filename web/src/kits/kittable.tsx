import type { ItemSheet, Kit } from "@yosegi/contract";
import { Named, SheetTable, Short, Sub, TileKey, TileStrip, useFormat } from "../ui/index.ts";

const SETS_SHOWN = "10";

/** What is in a set, what may be done with it for one order, and how many sets each content allows. */
export function KitTable({ item, kit }: { item: ItemSheet; kit: Kit }) {
  const format = useFormat();
  const limiting = kit.contents.filter((content) => content.limiting).map((content) => content.item.name);
  return (
    <>
      <Sub>
        {kit.contentsShown ? "Contents shown to the customer." : "Shown to the customer as one line."}{" "}
        {kit.mayBeAddedTo && "More may be added to it. "}
        {kit.priceRule === "sum" &&
          `Its price is the sum of the contents${kit.discount === "0" ? "" : ` less ${format.percent(kit.discount)}`}. `}
        {limiting.length > 0 &&
          `${format.list(limiting)} ${limiting.length === 1 ? "runs" : "run"} out first.`}
      </Sub>
      <SheetTable
        label="Contents"
        rows={kit.contents}
        rowId={(content) => content.line}
        columns={[
          {
            header: "Content",
            cell: (content) => (
              <Named name={content.item.name} to={`/catalog/${content.item.id}`} more={[content.item.code]} />
            ),
          },
          {
            header: "A set",
            end: true,
            cell: (content) => format.amount(content.quantity, content.item.unit),
          },
          { header: "May change", cell: (content) => changeWords(content) },
          {
            header: "Free",
            end: true,
            cell: ({ item: { free, unit } }) =>
              free.startsWith("-") ? <Short>{format.amount(free, unit)}</Short> : format.amount(free, unit),
          },
          {
            header: "Sets",
            cell: (content) =>
              content.sets === null ? (
                "no limit"
              ) : (
                <>
                  <TileStrip
                    small
                    wanted={SETS_SHOWN}
                    there={content.sets}
                    says={`${content.item.name} suffices for ${format.amount(content.sets)} sets`}
                  />
                  {content.limiting ? (
                    <Short>{format.amount(content.sets)}</Short>
                  ) : (
                    format.amount(content.sets)
                  )}
                </>
              ),
          },
          {
            header: "List price",
            end: true,
            cell: ({ item: { price } }) => (price ? format.money(price) : "–"),
          },
          {
            header: "Share",
            end: true,
            cell: (content) => (content.share ? format.money(content.share) : "–"),
          },
        ]}
        {...(item.price && { sum: { words: "Price per set", figure: format.money(item.price) } })}
      />
      <TileKey words={{ full: "1 set", missing: "set missing (next 10)" }} />
    </>
  );
}

function changeWords(content: Kit["contents"][number]) {
  const words = [
    content.swap === "any" && "any item",
    content.swap === "listed" && `or ${content.swaps.map((s) => s.code).join(", ")}`,
    content.quantityMayChange && "its quantity",
    content.mayBeLeftOut && "left out",
  ].filter(Boolean);
  return words.length === 0 ? "fixed" : words.join(" · ");
}
