import { useQuery } from "@tanstack/react-query";
import { type BodyOf, type OrderPreview, orderRoutes } from "@yosegi/contract";
import { type ReactNode, useLayoutEffect, useMemo, useState } from "react";
import styled from "styled-components";
import { following, Refused, useSettled } from "../api/index.ts";
import { Button, color, type Format, NARROW, Notice, oldAnswer, Short, useFormat } from "../ui/index.ts";
import { AnswerContext, LastAnswer, useAnswer, useLineFigures } from "./orderanswer.ts";
import { holdingWords, isLater, leavesWords, promiseWords, takenWords } from "./promisewords.ts";

type Asked = BodyOf<typeof orderRoutes.previewOrder>;
type PreviewLine = OrderPreview["lines"][number];

interface OrderFiguresProps {
  order: number | null;
  customer: number | null;
  due: string | null;
  /** All lines of the form; those that can't be read yet are not asked for. */
  lines: readonly Asked["lines"][number][];
  children: ReactNode;
}

/** An answer with the lines of the form that it was given to, in its order. */
interface Answered {
  answer: OrderPreview;
  lines: { line: number; item: Asked["lines"][number]["item"] | undefined }[];
}

const readLine = orderRoutes.previewOrder.body.shape.lines.element;

/** Asks what the lines of an order come to while they are typed, and gives it to `LineFigures` and `OrderTotal`. */
export function OrderFigures({ order, customer, due, lines, children }: OrderFiguresProps) {
  const { settled, overtaken } = useSettled(
    useMemo(() => ({ order, customer, due, lines }), [order, customer, due, lines]),
  );
  // Read once the typing pauses, and not at every key: there may be 500 lines.
  const { readable, asked } = useMemo(() => {
    const found = settled.lines.flatMap((line, i) => (readLine.safeParse(line).success ? [i] : []));
    return { readable: found, asked: found.flatMap((i) => settled.lines[i] ?? []) };
  }, [settled]);
  const body = { ...settled, lines: asked };
  const query = useQuery({
    ...following(orderRoutes.previewOrder, { body }),
    enabled: asked.length > 0 || settled.customer !== null,
    retry: false,
  });
  const { data, error } = query;
  const losers = useQuery({
    ...following(orderRoutes.previewLosers, { body }),
    enabled: asked.length > 0 && !error,
    retry: false,
  });
  const why = asked.length === 0 ? "" : refusalWords(error, readable);
  const takesFrom = losers.data?.takesFrom;
  const [kept, keep] = useState<Answered | null>(null);
  if (data && !error && !query.isPlaceholderData && kept?.answer !== data)
    keep({ answer: data, lines: readable.map((line, place) => ({ line, item: asked[place]?.item })) });
  const answer = error || asked.length === 0 ? undefined : kept?.answer;
  // An earlier answer stays beside the lines that still ask for the same item: were it taken away, the page would jump under the hand.
  const of = (kept?.lines ?? []).map(({ line, item }) => (lines[line]?.item === item ? line : "")).join(" ");
  const [last] = useState(() => new LastAnswer());
  useLayoutEffect(() => {
    const places = new Map(
      of.split(" ").flatMap((line, place) => (line === "" ? [] : [[Number(line), place]])),
    );
    last.set({ answer, why, places, takesFrom: takesFrom ?? [] });
  }, [last, answer, why, of, takesFrom]);
  return (
    <AnswerContext value={last}>
      <Greyed $old={overtaken || query.isPlaceholderData}>{children}</Greyed>
    </AnswerContext>
  );
}

/** Where to look when there are no figures: what is wrong with a line is said at its field when the order is saved. */
function refusalWords(error: Error | null, readable: readonly number[]): string {
  if (!error) return "";
  const [field] = error instanceof Refused ? error.answer.fields : [];
  const line = readable[Number(/^lines\.(\d+)\./.exec(field?.field ?? "")?.[1] ?? -1)];
  return line === undefined ? error.message : `No total yet: check line ${line + 1}.`;
}

interface LineFiguresProps {
  at: number;
  unit: string | undefined;
  /** As it was typed; "" for the one that is offered. */
  price: string;
  onOffered: () => void;
  /** The day promised for this line alone; "" for none. */
  promised: string;
  onPromise: (day: string) => void;
}

/** What one line comes to, its margin, how much is free, when it could leave, and what the customer was last charged. */
export function LineFigures({ at, unit, price, onOffered, promised, onPromise }: LineFiguresProps) {
  const format = useFormat();
  const line = useLineFigures(at);
  return (
    <Beside data-answer aria-label={`Figures of line ${at + 1}`} role="group">
      {line && (
        <>
          <b>{line.total === null ? "no price" : format.money(line.total)}</b>
          <small>
            {marginWords(line, format)}
            {line.margin && line.free !== null && " · "}
            {line.free !== null && <Free line={line} unit={unit} />}
          </small>
          {line.price && priceWords(line.price, unit, format) && (
            <small>{priceWords(line.price, unit, format)}</small>
          )}
          {price !== "" && <Offered at={at} line={line} unit={unit} onOffered={onOffered} />}
          <small>
            <LinePromise at={at} line={line} promised={promised} onPromise={onPromise} />
          </small>
          {line.last && <small>{lastWords(line.last, format)}</small>}
        </>
      )}
    </Beside>
  );
}

interface OfferedProps extends Pick<LineFiguresProps, "at" | "unit" | "onOffered"> {
  line: PreviewLine;
}

/** Another price than the one typed: of a set with these contents, or of a price list at this quantity. One press takes it. */
function Offered({ at, line, unit, onOffered }: OfferedProps) {
  const format = useFormat();
  const { offer, price } = line;
  if (!offer || (offer.price === price?.price && offer.pricePer === price.pricePer)) return null;
  const words = line.set
    ? `${format.money(offer.price)} with these contents`
    : priceWords(offer, unit, format);
  if (words === "") return null;
  return (
    <small>
      {words}{" "}
      <Button look="link" aria-label={`Use the price of line ${at + 1}`} onPress={onOffered}>
        Use
      </Button>
    </small>
  );
}

/** The price that counts for a line while none is typed, as the empty field shows it. */
export function useOfferedPrice(at: number): string {
  const format = useFormat();
  const price = useLineFigures(at)?.price;
  return price && price.of !== "typed" ? format.quantity(price.price, format.moneyDecimals) : "catalog price";
}

/** How much is free, marked where it is less than what is asked for. */
function Free({ line, unit }: { line: PreviewLine; unit: string | undefined }) {
  const words = `${useFormat().amount(line.free ?? "0", unit)} free`;
  return line.short === "0" ? words : <Short>{words}</Short>;
}

interface LinePromiseProps extends Pick<LineFiguresProps, "at" | "promised" | "onPromise"> {
  line: PreviewLine;
}

/** When the line could leave, and one press that promises it. */
function LinePromise({ at, line, promised, onPromise }: LinePromiseProps) {
  const format = useFormat();
  const { day } = line.promise;
  if (promised !== "") {
    const words = `promised ${format.day(promised)}`;
    return (
      <>
        {isLater(day, promised) ? <Short>{words}</Short> : words}{" "}
        <Button look="link" aria-label={`Don't promise line ${at + 1}`} onPress={() => onPromise("")}>
          Clear
        </Button>
      </>
    );
  }
  if (day === null) return <Short>date unknown</Short>;
  return (
    <>
      {leavesWords(day, format)}{" "}
      <Button
        look="link"
        aria-label={`Promise line ${at + 1} for ${format.day(day)}`}
        onPress={() => onPromise(day)}
      >
        Promise
      </Button>
    </>
  );
}

/** When all of the order could leave, what holds it, whose stock it takes, and one press that promises the day. */
export function OrderPromise({ onPromise }: { onPromise: (day: string) => void }) {
  const format = useFormat();
  const { answer, why, places, takesFrom } = useAnswer((last) => last);
  if (why !== "" || !answer || answer.lines.length === 0) return null;
  const { promise } = answer;
  const { day } = promise;
  const typed = [...places].find(([, place]) => place === promise.heldBy?.line)?.[0];
  return (
    <Promised data-answer role="group" aria-label="Promise">
      <b>{promiseWords(promise, format)}</b>
      {day !== null && (
        <Button look="link" onPress={() => onPromise(day)}>
          Promise {format.day(day)}
        </Button>
      )}
      {promise.heldBy && typed !== undefined && (
        <small>{holdingWords(promise.heldBy, `Line ${typed + 1}`, format)}</small>
      )}
      {takesFrom.map((moved) => (
        <small key={moved.id}>
          <Short>{takenWords(moved, format)}</Short>
        </small>
      ))}
    </Promised>
  );
}

const LIST_WORDS = { customer: "customer's price list", group: "group's price list" } as const;

/** Which price list the price is from, and from how many on it counts; "" where it is from none. */
function priceWords(
  { of, from, price, pricePer }: NonNullable<PreviewLine["price"]>,
  unit: string | undefined,
  format: Format,
): string {
  if (of !== "customer" && of !== "group") return "";
  const step = from === null || from === "0" ? "" : `, from ${format.amount(from, unit)}`;
  return `${format.unitCost(price, pricePer)}: ${LIST_WORDS[of]}${step}`;
}

const lastWords = (
  { price, pricePer, discount, number }: NonNullable<PreviewLine["last"]>,
  format: Format,
): string =>
  `last ${format.unitCost(price, pricePer)}${discount === "0" ? "" : ` less ${format.percent(discount)}`} on ${number}`;

const marginWords = (
  { margin, marginPercent }: Pick<OrderPreview, "margin" | "marginPercent">,
  format: Format,
): string =>
  margin === null || margin === undefined
    ? ""
    : `margin ${format.money(margin)}${marginPercent === null ? "" : ` (${format.percent(marginPercent)})`}`;

/** What the whole order comes to, and its margin at today's cost. */
export function OrderTotal() {
  const format = useFormat();
  const { answer, why } = useAnswer((last) => last);
  if (why !== "") return <Notice role="status">{why}</Notice>;
  if (!answer || answer.lines.length === 0) return null;
  const words = marginWords(answer, format);
  return (
    <Total data-answer role="group" aria-label="Total">
      <b>{answer.total === null ? "Total: price missing" : `Total ${format.money(answer.total)}`}</b>
      {words && <small>{words}</small>}
      <TaxLines taxes={answer.taxes} gross={answer.gross} />
    </Total>
  );
}

/** The tax of each rate, and the total with it; nothing where no tax is charged. */
export function TaxLines({ taxes, gross }: Pick<OrderPreview, "taxes" | "gross">) {
  const format = useFormat();
  const charged = taxes.filter(({ rate }) => rate !== "0");
  if (charged.length === 0 || gross === null) return null;
  const tax = charged.map(({ rate, tax }) => `${format.percent(rate)} tax ${format.money(tax)}`);
  return (
    <Below>
      plus {format.list(tax)}: {format.money(gross)}
    </Below>
  );
}

const Below = styled.small`
  display: block;
`;

/** Greys all that shows an earlier answer at once. */
const Greyed = styled.div<{ $old: boolean }>`
  display: contents;
  [data-answer] {
    ${oldAnswer}
  }
`;

const Figures = styled.div`
  text-align: end;
  small {
    display: block;
    color: ${color.ink2};
  }
`;

const Beside = styled(Figures)`
  width: 210px;
  align-self: center;
  button {
    min-height: 24px;
    padding-block: 0;
    font-size: 13px;
    ${NARROW} {
      min-height: 44px;
    }
  }
`;

const Promised = styled.div`
  max-width: 720px;
  button {
    margin-left: 10px;
  }
  small {
    display: block;
    color: ${color.ink2};
  }
`;

const Total = styled(Figures)`
  margin-left: auto;
  b {
    font-size: 17px;
  }
`;
