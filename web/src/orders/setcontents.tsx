import type { OrderedSet } from "@yosegi/contract";
import { X } from "lucide-react";
import { useFormContext, useWatch } from "react-hook-form";
import styled from "styled-components";
import { fieldsOf } from "../fields/index.ts";
import { Button, color, type Format, Select, useFormat } from "../ui/index.ts";
import { useLineFigures } from "./orderanswer.ts";
import { type ContentDraft, contentsOf, type OrderDraft } from "./orderdraft.ts";

interface SetContentsProps {
  at: `lines.${number}`;
  /** Of the line, counted from 1. */
  number: number;
}

/** What is in the set of a line, and what its kit lets be changed. */
export function SetContents({ at, number }: SetContentsProps) {
  const format = useFormat();
  const { setValue } = useFormContext<OrderDraft>();
  const contents = useWatch<OrderDraft, `lines.${number}.contents`>({ name: `${at}.contents` });
  const set = useLineFigures(number - 1)?.set;
  const write = (changed: ContentDraft[] | null) =>
    setValue(`${at}.contents`, changed, { shouldDirty: true });
  if (contents === null)
    return (
      <BelowLine aria-label={`Contents of line ${number}`} role="group">
        {set && (
          <>
            Each set: {set.contents.map((content) => contentWords(content, format)).join(", ")}
            {set.contentsShown ? "." : " (not shown to the customer)."}{" "}
            {mayChange(set) ? (
              <Button
                look="link"
                aria-label={`Change the contents of line ${number}`}
                onPress={() => write(contentsOf(set))}
              >
                Change contents
              </Button>
            ) : (
              "Its contents are fixed."
            )}
          </>
        )}
      </BelowLine>
    );
  // The fields of a form are named by their place.
  const names = contents.map((_, i) => `content ${i}`);
  const left = set?.defined.filter(({ of }) => !contents.some((content) => content.of === of)) ?? [];
  return (
    <BelowLine aria-label={`Contents of line ${number}`} role="group">
      {contents.map((content, i) => (
        <ContentLine
          key={names[i]}
          name={`${at}.contents.${i}`}
          says={`${i + 1} of line ${number}`}
          content={content}
          defined={set?.defined.find(({ of }) => of === content.of)}
          onSwap={(item) => write(contents.map((own, j) => (j === i ? { ...own, item } : own)))}
          onLeaveOut={contents.length > 1 ? () => write(contents.filter((_, j) => j !== i)) : undefined}
        />
      ))}
      {left.map(({ of, item, quantity }) => (
        <Row key={of}>
          Left out: {format.amount(quantity, item.unit)} {item.code}
          <Button look="link" onPress={() => write([...contents, { of, item, quantity }])}>
            Put {item.code} back
          </Button>
        </Row>
      ))}
      <Row>
        {set?.mayBeAddedTo && (
          <Button look="link" onPress={() => write([...contents, { of: null, item: null, quantity: "1" }])}>
            Add to the set
          </Button>
        )}
        <Button look="link" onPress={() => write(set ? asDefined(set) : null)}>
          As the kit says
        </Button>
      </Row>
    </BelowLine>
  );
}

type Defined = OrderedSet["defined"][number];

const contentWords = ({ item, quantity }: Pick<Defined, "item" | "quantity">, format: Format): string =>
  `${format.amount(quantity, item.unit)} ${item.code}`;

/** Whether a kit lets anything be changed. */
const mayChange = ({ mayBeAddedTo, defined }: OrderedSet): boolean =>
  mayBeAddedTo ||
  defined.some((content) => content.swap !== "fixed" || content.quantityMayChange || content.mayBeLeftOut);

const asDefined = ({ defined }: OrderedSet): ContentDraft[] =>
  defined.map(({ of, item, quantity }) => ({ of, item, quantity }));

const In = fieldsOf<OrderDraft>();

interface ContentLineProps {
  name: `lines.${number}.contents.${number}`;
  /** Which content of which line, for those who do not see where it stands. */
  says: string;
  content: ContentDraft;
  /** What the kit says of it; undefined for what was added. */
  defined: Defined | undefined;
  onSwap: (item: ContentDraft["item"]) => void;
  onLeaveOut: (() => void) | undefined;
}

function ContentLine({ name, says, content, defined, onSwap, onLeaveOut }: ContentLineProps) {
  const format = useFormat();
  const added = content.of === null;
  const mayGo = added || defined?.mayBeLeftOut;
  return (
    <Row>
      {added || defined?.swap === "any" ? (
        <In.Item label={`Content ${says}`} hideLabel name={`${name}.item`} width="300px" choosing="content" />
      ) : defined?.swap === "listed" ? (
        <Select
          label={`Content ${says}`}
          hideLabel
          name={`${name}.item`}
          width="300px"
          value={String(content.item?.id ?? "")}
          options={[defined.item, ...defined.swaps].map((item) => ({
            value: String(item.id),
            label: `${item.code} · ${item.name} (${format.amount(item.free, item.unit)} free)`,
          }))}
          onChange={(id) => onSwap(defined.swaps.find((item) => String(item.id) === id) ?? defined.item)}
        />
      ) : (
        <Fixed>
          {content.item?.code} · {content.item?.name} <small>fixed in this kit</small>
        </Fixed>
      )}
      {added || defined?.quantityMayChange ? (
        <In.Quantity
          label={`Quantity of content ${says}`}
          hideLabel
          name={`${name}.quantity`}
          width="140px"
          unit={content.item?.unit}
          packs={content.item?.packs ?? []}
        />
      ) : (
        <span>{format.amount(content.quantity, content.item?.unit)}</span>
      )}
      {mayGo && onLeaveOut && (
        <Button
          look="icon"
          aria-label={`Leave out ${content.item?.code ?? `content ${says}`}`}
          onPress={onLeaveOut}
        >
          <X />
        </Button>
      )}
    </Row>
  );
}

/** Below the fields of its line, and below the button that takes the line away. */
export const BelowLine = styled.div`
  order: 1;
  flex-basis: 100%;
  padding: 2px 0 8px 14px;
  font-size: 14px;
`;

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  padding-block: 3px;
`;

const Fixed = styled.span`
  width: 300px;
  color: ${color.ink};
  small {
    color: ${color.ink2};
  }
`;
